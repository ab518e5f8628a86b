<script lang="ts">
  // What somebody is to be spared, where that is from, and what is added by hand.
  import { Button, Select, SelectItem } from 'carbon-components-svelte'
  import type { Problem as ProblemType, Schemas } from '../../lib/api/client'
  import Problem from '../../lib/parts/Problem.svelte'
  import { putRecord, removeRecord } from '../../lib/state/records'
  import { day } from '../../lib/text/dates'
  import { people as t } from '../../lib/text/gen/people'
  import { limit } from '../../lib/text/names'

  interface Props {
    page: Schemas['PersonPage']
    onchange: (page: Schemas['PersonPage']) => void
  }
  let { page, onchange }: Props = $props()
  let chosen: string | number = $state('')
  let until = $state('')
  let problem = $state<ProblemType>()
  const said = (id: string) => limit(id) ?? id
  const untilOf = (id: string) => page.records.find((r) => r.limit?.limit === id)?.limit?.until
  const from = (h: Schemas['HeldLimit']) =>
    h.from === 'screen' && h.screen
      ? t.fromScreen(t.of.screen[h.screen])
      : h.from === 'health'
        ? t.fromHealth
        : untilOf(h.limit)
          ? t.typedUntil(day(untilOf(h.limit) ?? ''))
          : t.fromTyped

  async function add(): Promise<void> {
    const l = { limit: String(chosen), ...(until ? { until } : {}) }
    const a = await putRecord(page.id, { date: page.today, limit: l })
    problem = a.problem
    if (!a.data) return
    chosen = until = ''
    onchange(a.data)
  }
  async function takeBack(id: string): Promise<void> {
    for (const r of page.records.filter((r) => r.limit?.limit === id)) {
      const a = await removeRecord(page.id, r.id)
      problem = a.problem
      if (a.data) onchange(a.data)
    }
  }
</script>

{#if page.held.length === 0}<p>{t.noLimits}</p>{/if}
<ul class="plain held" id="held">
  {#each page.held as h (h.limit)}
    <li>
      <b>{said(h.limit)}</b> <span class="muted">{from(h)}</span>
      {#if h.from === 'typed'}
        <button type="button" class="link" onclick={() => void takeBack(h.limit)}
          >{t.takeBack}<span class="sr">: {said(h.limit)}</span></button
        >
      {/if}
    </li>
  {/each}
</ul>
{#if problem}<Problem {problem} />{/if}
<div class="row narrow wide">
  <Select id="limit" labelText={t.addLimit} bind:selected={chosen}>
    <SelectItem value="" text={t.chooseLimit} />
    {#each page.addable as l (l)}<SelectItem value={l} text={said(l)} />{/each}
  </Select>
  <label class="date"
    ><span>{t.untilDay}</span><input id="limit-until" type="date" class="log-input day" bind:value={until} /></label
  >
  <Button size="small" id="limit-save" disabled={chosen === ''} on:click={() => void add()}>{t.keep}</Button>
</div>

<style>
  .held {
    display: grid;
    gap: 2px;
    margin-bottom: 10px;
  }
  .date span {
    display: block;
    font-size: 12px;
    color: var(--muted);
    margin-bottom: 4px;
  }
</style>
