<script lang="ts">
  // The day as it comes: who came, what of the kit is missing, and the plan that changes least.
  import { Button } from 'carbon-components-svelte'
  import { lanes, type Circuit, type Problem as ProblemType, type Schemas } from '../../lib/api/client'
  import Problem from '../../lib/parts/Problem.svelte'
  import type { Editor } from '../../lib/state/editor.svelte'
  import { partyName } from '../../lib/state/parties'
  import { studio } from '../../lib/state/studio.svelte'
  import { circuit as t } from '../../lib/text/gen/circuit'
  import { nameOf } from '../../lib/text/names'
  import { meant, searched } from '../../lib/text/search'
  import { whyText } from '../../lib/text/why'

  let { circuit, editor }: { circuit: Circuit; editor: Editor } = $props()
  const d = t.day
  const names = $derived(studio.names(circuit.items, circuit.occurrence))
  type Day = Schemas['Day']
  let absent = $state<Record<string, boolean>>({})
  let fewer = $state<Record<string, number>>({})
  let missing = $state<Record<string, number>>({})
  let of = 0
  $effect(() => {
    if (of === circuit.version) return
    of = circuit.version
    const day: Day = circuit.document.day ?? {}
    absent = Object.fromEntries((day.absent ?? []).map((p) => [p, true]))
    fewer = Object.fromEntries((day.fewer ?? []).map((f) => [f.lane, f.people]))
    missing = Object.fromEntries((day.missing ?? []).map((m) => [m.item, m.count]))
  })
  const people = $derived(circuit.occurrence.people)
  const others = $derived(
    lanes.flatMap((lane) => {
      const all = circuit.occurrence.lanes.find((l) => l.lane === lane)?.people ?? 0
      const n = all - people.filter((p) => p.lane === lane).length
      return n > 0 ? [{ lane, n }] : []
    }),
  )
  const allHere = $derived(people.every((p) => !absent[p.id]))
  // What the plan uses comes first.
  let find = $state('')
  const kit = $derived(
    circuit.items
      .filter((i) => meant(find, searched([studio.itemName(i)])))
      .toSorted((a, b) => Number(used(b.id)) - Number(used(a.id))),
  )
  function used(id: string): boolean {
    return circuit.plan.pressure.some((p) => p.item === id)
  }
  let working = $state(false)
  let problem = $state<ProblemType>()
  let said = $state.raw<Schemas['Why'][]>()
  async function adapt(): Promise<void> {
    working = true
    const day: Day = {
      absent: people.filter((p) => absent[p.id]).map((p) => p.id),
      fewer: others.filter((o) => (fewer[o.lane] ?? 0) > 0).map((o) => ({ lane: o.lane, people: fewer[o.lane] ?? 0 })),
      missing: circuit.items
        .filter((i) => (missing[i.id] ?? 0) > 0)
        .map((i) => ({ item: i.id, count: missing[i.id] ?? 0 })),
    }
    const a = await editor.day(day)
    working = false
    problem = a.problem
    said = a.data?.said
  }
  const whole = (text: string, most: number) => Math.min(most, Math.max(0, Math.floor(Number(text) || 0)))
</script>

<p>{d.lead}</p>
{#if problem}<Problem {problem} />{/if}
<div class="press">
  <Button id="adapt" size="small" disabled={working} on:click={adapt}>{d.adapt}</Button>
  <div role="status" id="day-said">
    {#if working}<p>{d.working}</p>{:else if said}
      <ul>
        {#each said as w, i (i)}<li>{whyText(w, names)}</li>{/each}
      </ul>
    {/if}
  </div>
</div>
<div class="two">
  <fieldset>
    <legend>{d.came}</legend>
    {#if people.length > 0}
      <label class="tick all"
        ><input
          id="day-all"
          type="checkbox"
          checked={allHere}
          onchange={() => (absent = allHere ? Object.fromEntries(people.map((p) => [p.id, true])) : {})}
        /> <b>{d.all}</b></label
      >
      <ul class="plain ticks" id="day-people">
        {#each people as p (p.id)}
          <li>
            <label class="tick"
              ><input
                id={`came-${p.id}`}
                type="checkbox"
                checked={!absent[p.id]}
                onchange={(e) => (absent = { ...absent, [p.id]: !e.currentTarget.checked })}
              />
              {partyName(circuit.occurrence, p.id)} <small>{nameOf.lane[p.lane]}</small></label
            >
          </li>
        {/each}
      </ul>
    {/if}
    {#each others as o (o.lane)}
      <label class="few"
        ><span>{d.fewer(nameOf.lane[o.lane], o.n)}</span>
        <input
          id={`fewer-${o.lane}`}
          class="log-input"
          type="number"
          min="0"
          max={o.n}
          value={fewer[o.lane] ?? 0}
          onchange={(e) => (fewer = { ...fewer, [o.lane]: whole(e.currentTarget.value, o.n) })}
        /></label
      >
    {/each}
  </fieldset>
  <fieldset>
    <legend>{d.kit}</legend>
    <label class="few find"
      ><span>{d.find}</span><input
        id="find-kit"
        type="search"
        class="log-input"
        bind:value={find}
        autocomplete="off"
      /></label
    >
    <ul class="plain" id="day-kit">
      {#each kit as i (i.id)}
        {@const pieces = i.count ?? 1}
        <li class:out={(missing[i.id] ?? 0) > 0}>
          <label class="few"
            ><span>{d.missing(studio.itemName(i), pieces)}</span>
            <input
              id={`missing-${i.id}`}
              class="log-input"
              type="number"
              min="0"
              max={pieces}
              value={missing[i.id] ?? 0}
              onchange={(e) => (missing = { ...missing, [i.id]: whole(e.currentTarget.value, pieces) })}
            /></label
          >
        </li>
      {/each}
    </ul>
  </fieldset>
</div>

<style>
  .press {
    display: flex;
    flex-wrap: wrap;
    gap: 12px;
    align-items: flex-start;
    margin: 8px 0 16px;
  }
  .press ul {
    margin: 0;
  }
  .two {
    display: grid;
    grid-template-columns: repeat(auto-fit, minmax(300px, 1fr));
    gap: 24px;
  }
  fieldset {
    border: 0;
    padding: 0;
    margin: 0;
    min-width: 0;
  }
  legend {
    font-size: 16px;
    padding: 0 0 6px;
  }
  .tick {
    display: inline-flex;
    gap: 8px;
    align-items: center;
    min-height: 32px;
  }
  .ticks {
    columns: 2;
  }
  .tick small {
    color: var(--muted);
  }
  .few {
    display: flex;
    gap: 12px;
    align-items: center;
    justify-content: space-between;
    min-height: 34px;
    border-bottom: 1px solid var(--line);
  }
  .few input {
    width: 72px;
  }
  .find input {
    width: 180px;
  }
  .out span {
    text-decoration: line-through;
    color: var(--ember);
  }
</style>
