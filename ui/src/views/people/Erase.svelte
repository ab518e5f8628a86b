<script lang="ts">
  // Somebody out of everything: asked twice, since nothing brings them back.
  import { Button, TextInput } from 'carbon-components-svelte'
  import { tick } from 'svelte'
  import { api, ask, type Problem as ProblemType, type Schemas } from '../../lib/api/client'
  import { navigate } from '../../lib/nav'
  import Problem from '../../lib/parts/Problem.svelte'
  import { common } from '../../lib/text/gen/common'
  import { people as t } from '../../lib/text/gen/people'

  let { page }: { page: Schemas['PersonPage'] } = $props()
  let asking = $state(false)
  let name = $state('')
  let problem = $state<ProblemType>()

  async function ask2(): Promise<void> {
    asking = true
    name = ''
    await tick()
    document.getElementById('erase-name')?.focus()
  }
  async function erase(): Promise<void> {
    const a = await ask(api.DELETE('/api/people/{person}', { params: { path: { person: page.id } } }))
    problem = a.problem
    if (a.data) await navigate('/people')
  }
</script>

{#if problem}<Problem {problem} />{/if}
{#if asking}
  <div class="asking" role="alert">
    <p><b>{t.leave.sure(page.name)}</b> {t.leave.what}</p>
    <TextInput id="erase-name" labelText={t.leave.typeName(page.name)} bind:value={name} autocomplete="off" />
    <div class="buttons">
      <Button
        size="small"
        kind="danger"
        id="erase-now"
        disabled={name.trim() !== page.name}
        on:click={() => void erase()}>{t.leave.now}</Button
      >
      <Button size="small" kind="ghost" id="erase-not" on:click={() => (asking = false)}>{common.cancel}</Button>
    </div>
  </div>
{:else}
  <Button size="small" kind="danger-tertiary" id="erase-ask" on:click={() => void ask2()}>{t.leave.erase}</Button>
{/if}

<style>
  .asking {
    border-left: 3px solid var(--ember);
    padding: 4px 0 4px 12px;
    max-width: 620px;
  }
  .buttons {
    margin-top: 10px;
  }
</style>
