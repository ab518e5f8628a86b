<script lang="ts">
  // Two of whom one is made, and one of whom two are made again.
  import { Button, Select, SelectItem } from 'carbon-components-svelte'
  import { api, ask, type Problem as ProblemType, type Schemas } from '../../lib/api/client'
  import Problem from '../../lib/parts/Problem.svelte'
  import { day } from '../../lib/text/dates'
  import { people as t } from '../../lib/text/gen/people'

  interface Props {
    page: Schemas['PersonPage']
    onchange: () => void
  }
  let { page, onchange }: Props = $props()
  let others = $state.raw<Schemas['Person'][]>([])
  let other: string | number = $state('')
  let problem = $state<ProblemType>()

  $effect(() => {
    const id = page.id
    void ask(api.GET('/api/people')).then((a) => (others = (a.data ?? []).filter((p) => p.id !== id)))
  })
  const path = $derived({ person: page.id })
  const text = (p: Schemas['Person']) => t.whoIs(p.name, p.lastDate ? day(p.lastDate) : undefined, p.classes)

  async function join(): Promise<void> {
    const body = { personId: String(other) }
    const a = await ask(api.POST('/api/people/{person}/join', { params: { path }, body }))
    problem = a.problem
    if (!a.data) return
    other = ''
    onchange()
  }
  async function undo(merge: string): Promise<void> {
    const a = await ask(api.DELETE('/api/people/{person}/join/{merge}', { params: { path: { ...path, merge } } }))
    problem = a.problem
    if (a.data) onchange()
  }
</script>

{#if page.merges.length > 0}
  <ul class="plain" id="merges">
    {#each page.merges as m (m.id)}
      <li>
        {t.mergedWith(m.name)}
        <button type="button" class="link" onclick={() => void undo(m.id)}
          >{t.unmerge}<span class="sr">: {m.name}</span></button
        >
      </li>
    {/each}
  </ul>
{/if}
{#if problem}<Problem {problem} />{/if}
<div class="row narrow wide">
  <Select id="merge-other" labelText={t.mergeWith} helperText={t.mergeHelp} bind:selected={other}>
    <SelectItem value="" text={t.choose} />
    {#each others as p (p.id)}<SelectItem value={p.id} text={text(p)} />{/each}
  </Select>
  <Button size="small" kind="tertiary" id="merge" disabled={other === ''} on:click={() => void join()}>{t.merge}</Button
  >
</div>

<style>
  .row {
    max-width: 620px;
  }
</style>
