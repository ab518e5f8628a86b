<script lang="ts">
  // What a party could do in a slot instead: one tap, and it does so from now on.
  import { Modal } from 'carbon-components-svelte'
  import { api, asking, type Entry, type Problem as ProblemType, type Schemas } from '../../lib/api/client'
  import { returnFocus } from '../../lib/parts/opener'
  import Problem from '../../lib/parts/Problem.svelte'
  import { studio } from '../../lib/state/studio.svelte'
  import { circuit } from '../../lib/text/gen/circuit'
  import { common } from '../../lib/text/gen/common'
  import { loads } from '../../lib/text/gen/loads'
  import { run as t } from '../../lib/text/gen/run'
  import { nameOf } from '../../lib/text/names'
  import { whyText } from '../../lib/text/why'
  import type { LiveRun } from './live.svelte'

  interface Props {
    live: LiveRun
    party: string
    slot: string
    onclose: () => void
  }
  const { live, party, slot, onclose }: Props = $props()
  returnFocus()
  let who = $state((() => party)())
  let options = $state.raw<Schemas['Options']>()
  let problem = $state<ProblemType>()
  const lane = $derived(live.lanes.find((l) => l.party === party))
  const people = $derived(live.others(party))
  const names = $derived(live.run ? studio.names(live.run.items, live.run.occurrence) : undefined)
  const cell = $derived(live.cell(slot, who) ?? live.cell(slot, party))

  const id = $derived(live.run?.id)
  $effect(() => {
    if (!id) return
    const params = { path: { run: id }, query: { slot, party: who } }
    return asking(
      (signal) => api.GET('/api/runs/{run}/options', { params, signal }),
      (a) => {
        problem = a.problem
        options = a.data
      },
    )
  })
  const same = (a: Entry) => a.hold === cell?.entry.hold && JSON.stringify(a.load) === JSON.stringify(cell.entry.load)
  // What is there; a load that somebody else has in use is not.
  const there = $derived((options?.loads ?? []).filter((a) => !a.missing && !same(a.entry)))
  const moves = $derived((options?.moves ?? []).filter((a) => !a.missing))
  const loadText = (a: Schemas['Alternative']) =>
    live.run ? studio.loadText(a.entry.load, a.loadG, live.run.items) : ''
  function pick(entry: Entry): void {
    live.did('swapped', who, slot, entry)
    onclose()
  }
</script>

{#snippet choice(a: Schemas['Alternative'], title: string)}
  <li class="choice">
    <button type="button" onclick={() => pick(a.entry)}>
      <b>{title}</b>
      {#if a.loadG > 0 || a.ironPct !== 0}<small>{loads.instead.inIron(a.ironPct)}</small>{/if}
      {#if names}
        {#each [...a.faults, ...(a.breaks ?? [])] as w, i (i)}<small class="ember">{whyText(w, names)}</small>{/each}
        {#each a.asks as w, i (i)}<small>{whyText(w, names)}</small>{/each}
      {/if}
    </button>
  </li>
{/snippet}

<Modal
  open
  passiveModal
  modalHeading={t.party.instead(lane?.name ?? '')}
  iconDescription={common.closeDialog}
  on:close={onclose}
>
  {#if people.length > 0 && lane}
    <label class="for"
      >{t.party.who}
      <select id="instead-who" bind:value={who}>
        <option value={party}>{t.party.all(lane.lane)}</option>
        {#each people as p (p.id)}<option value={p.id}>{p.name ?? common.dropIn}</option>{/each}
      </select></label
    >
  {/if}
  {#if problem}<Problem {problem} />{/if}
  {#if options && cell}
    <p class="muted">{studio.move(cell.entry.variant)}, {live.load(cell)}</p>
    {#if there.length > 0}
      <h3>{t.party.otherLoads}</h3>
      <ul class="plain" id="instead-loads">
        {#each there as a, i (i)}{@render choice(
            a,
            `${loadText(a)} ${a.loadG > 0 ? nameOf.hold[a.entry.hold] : ''}`,
          )}{/each}
      </ul>
    {/if}
    <h3>{t.party.otherMoves}</h3>
    <ul class="plain" id="instead-moves">
      {#each moves as a (a.entry.variant)}{@render choice(a, `${studio.move(a.entry.variant)}, ${loadText(a)}`)}{/each}
      {#if moves.length === 0}<li class="muted">{circuit.missing}</li>{/if}
    </ul>
  {:else if !problem}
    <p role="status">{common.loading}</p>
  {/if}
</Modal>

<style>
  .for {
    display: flex;
    gap: 8px;
    align-items: center;
    margin-bottom: 8px;
  }
</style>
