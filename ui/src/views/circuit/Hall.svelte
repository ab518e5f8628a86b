<script lang="ts">
  // Where the hall is short for this circuit, and what would help most: found by solving again.
  import { Button } from 'carbon-components-svelte'
  import { api, ask, type Circuit, type Problem as ProblemType, type Schemas } from '../../lib/api/client'
  import Problem from '../../lib/parts/Problem.svelte'
  import { itemName } from '../../lib/state/floor'
  import { studio } from '../../lib/state/studio.svelte'
  import { circuit as t } from '../../lib/text/gen/circuit'
  import { nameOf } from '../../lib/text/names'

  let { circuit }: { circuit: Circuit } = $props()
  const h = t.hall
  let hall = $state.raw<Schemas['Hall']>()
  let of = $state(0) // the version that it is of
  let working = $state(false)
  let problem = $state<ProblemType>()
  async function look(): Promise<void> {
    working = true
    const version = circuit.version
    const a = await ask(api.GET('/api/circuits/{circuit}/hall', { params: { path: { circuit: circuit.id } } }))
    working = false
    problem = a.problem
    hall = a.data
    of = version
  }
  function help(x: Schemas['Help']): string {
    if (x.kind === 'loan') return h.loan(itemName(circuit.items, x.item ?? ''), x.gain, x.better)
    if (x.kind === 'buy') return h.buy(studio.unit, x.sort ?? '', x.massG ?? 0, x.heightMm ?? 0, x.gain, x.better)
    return h.instead(nameOf.pattern[x.pattern ?? 'squat'], studio.move(x.move ?? ''), studio.move(x.from ?? ''), x.gain)
  }
</script>

<h2>{h.title}</h2>
{#if problem}<Problem {problem} />{/if}
<p>
  <Button id="hall-short" size="small" kind="tertiary" disabled={working} on:click={look}>{h.ask}</Button>
  <span role="status">{working ? h.working : ''}</span>
</p>
{#if hall && of === circuit.version}
  {#if hall.slots.length === 0}
    <p id="hall-nowhere">{h.nowhere}</p>
  {:else}
    <table id="hall">
      <thead>
        <tr
          ><th scope="col">{h.slot}</th><th scope="col">{h.binds}</th><th scope="col">{h.people}</th><th scope="col"
            >{h.gain}</th
          ></tr
        >
      </thead>
      <tbody>
        {#each hall.slots as s (s.slot)}
          <tr
            ><th scope="row">{nameOf.pattern[s.pattern]}</th><td>{itemName(circuit.items, s.item)}</td><td
              >{s.people}</td
            ><td>{h.points(s.gain)}</td></tr
          >
        {/each}
      </tbody>
    </table>
  {/if}
  {#if hall.helps.length > 0}
    <h3>{h.helps}</h3>
    <ul id="hall-helps">
      {#each hall.helps as x, i (i)}<li>{help(x)}</li>{/each}
    </ul>
    <p class="muted">{h.help}</p>
  {/if}
{/if}

<style>
  th,
  td {
    text-align: left;
    padding: 4px 16px 4px 0;
    border-bottom: 1px solid var(--line);
    font-weight: 400;
  }
  thead th {
    color: var(--muted);
    font-size: 12px;
  }
</style>
