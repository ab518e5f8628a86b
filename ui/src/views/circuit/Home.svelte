<script lang="ts">
  import { Button, Select, SelectItem } from 'carbon-components-svelte'
  import {
    api,
    ask,
    asking,
    lanes,
    type Cell,
    type Circuit,
    type Place,
    type Problem as ProblemType,
    type Schemas,
  } from '../../lib/api/client'
  import Problem from '../../lib/parts/Problem.svelte'
  import Why from '../../lib/parts/Why.svelte'
  import { startPlace } from '../../lib/state/place'
  import { studio } from '../../lib/state/studio.svelte'
  import { mass, percent, span } from '../../lib/text/format'
  import { circuit as t } from '../../lib/text/gen/circuit'
  import { common } from '../../lib/text/gen/common'
  import { kit as kitTexts } from '../../lib/text/gen/kit'
  import { moves as movesTexts } from '../../lib/text/gen/moves'
  import { nameOf } from '../../lib/text/names'
  import { whyText } from '../../lib/text/why'

  let { circuit }: { circuit: Circuit } = $props()
  let flats = $state.raw<Place[]>([])
  let place: string | number = $state('')
  let party: string | number = $state((() => circuit.occurrence.lanes.find((l) => l.people > 0)?.lane ?? 'middle')())
  let home = $state.raw<Schemas['TakeHome']>()
  let problem = $state<ProblemType>()
  let read = $state(false)

  void ask(api.GET('/api/places')).then(({ data }) => {
    flats = (data ?? []).filter((p) => p.kind === 'flat')
    place = startPlace(flats)
    read = true
  })
  $effect(() => {
    void circuit.version
    copied = false
    if (!read) return
    const query = { ...(place ? { place: String(place) } : {}), party: String(party) }
    return asking(
      (signal) =>
        api.GET('/api/circuits/{circuit}/take-home', { params: { path: { circuit: circuit.id }, query }, signal }),
      (a) => {
        problem = a.problem
        home = a.data
      },
    )
  })

  // The whole sheet as plain text, for a message.
  let copied = $state(false)
  async function copy(): Promise<void> {
    if (!home) return
    const lines = home.plan.slots.flatMap((s) =>
      s.cells.map((c) =>
        t.homeLine(
          studio.move(c.entry.variant),
          recipe(c, home?.items ?? []),
          s.workMs,
          c.twoSides ? common.aSide(c.perSide) : common.inAll(c.perSide),
          c.entry.tempo ?? '',
        ),
      ),
    )
    const cautions = [...new Set(home.plan.slots.flatMap((s) => s.cells.flatMap((c) => c.cautions)))]
    await navigator.clipboard.writeText(
      [circuit.occurrence.name, '', ...lines, '', ...cautions, kitTexts.caution, movesTexts.stopAlways].join('\n'),
    )
    copied = true
  }

  function recipe(c: Cell, items: Schemas['Item'][]): string {
    const list = studio.packing(c.entry.load, items)
    return c.entry.load.kind === 'made' ? `${mass(c.loadG, studio.unit)}: ${list}` : list
  }
</script>

{#if problem}<Problem {problem} />{/if}
{#if read && flats.length === 0}<p><a href="/kit">{t.homeNone}</a></p>{/if}
{#if read}
  <div class="row narrow wide">
    <Select id="home-place" labelText={t.homePlace} bind:selected={place}>
      {#each flats as f (f.id)}<SelectItem value={f.id} text={f.name} />{/each}
      <SelectItem value="" text={t.nothingHome} />
    </Select>
    <Select id="home-lane" labelText={t.homeLane} bind:selected={party}>
      {#each lanes as l (l)}<SelectItem value={l} text={nameOf.lane[l]} />{/each}
      {#each circuit.occurrence.people.filter((p) => p.name) as p (p.id)}<SelectItem
          value={p.id}
          text={p.name ?? ''}
        />{/each}
    </Select>
  </div>
  {#if home}
    {@const names = studio.names(home.items, circuit.occurrence)}
    {#each home.notes as n, i (i)}<p class="muted">{whyText(n, names)}</p>{/each}
    <table class="sheet stack" aria-label={t.homeTab}>
      <thead>
        <tr>
          <th scope="col">{t.homeMove}</th>
          <th scope="col">{t.homeMade}</th>
          <th scope="col">{t.homeWanted}</th>
          <th scope="col">{t.homeReps}</th>
          <td></td>
        </tr>
      </thead>
      <tbody>
        {#each home.plan.slots as s (s.id)}
          {#each s.cells as c (c.party)}
            <tr>
              <th scope="row" class="full"
                >{studio.move(c.entry.variant)}<br /><small class="muted">{c.setup.join(' ')}</small>
                {#each [...c.faults, ...c.asks] as w, i (i)}<small class="ember">{whyText(w, names)}</small>{/each}</th
              >
              <td class="full">{recipe(c, home.items)}</td>
              <td data-label={t.homeWanted}>
                {c.wantedG > 0 ? `${mass(c.wantedG, studio.unit)} (${percent(c.ironPct)})` : common.body}
              </td>
              <td data-label={t.homeReps}>
                {span(s.workMs)} · {c.twoSides ? common.aSide(c.perSide) : common.inAll(c.perSide)} · {c.entry.tempo}
              </td>
              <td><Why why={c.loadWhy} {names} label={studio.move(c.entry.variant)} /></td>
            </tr>
          {/each}
        {/each}
      </tbody>
    </table>
    {@const cautions = [...new Set(home.plan.slots.flatMap((s) => s.cells.flatMap((c) => c.cautions)))]}
    {#if cautions.length > 0}
      <h2>{t.cautions}</h2>
      <ul id="home-cautions">
        {#each cautions as x (x)}<li>{x}</li>{/each}
      </ul>
    {/if}
    <p class="muted">{kitTexts.caution}</p>
    <p class="muted">{movesTexts.stopAlways}</p>
    <div class="buttons">
      <Button id="print-home" size="small" kind="tertiary" on:click={() => print()}>{t.printHome}</Button>
      <Button id="copy-home" size="small" kind="tertiary" on:click={() => void copy()}>{t.copyText}</Button>
      <span role="status">{copied ? t.copied : ''}</span>
    </div>
  {/if}
{/if}
