<script lang="ts">
  // Where people stand in a block of stations or partners: a ring with numbers, and what
  // lives where, who starts there and at which heights, as a table; of partners the pairs.
  import type { Schemas } from '../../lib/api/client'
  import Ring from '../../lib/draw/Ring.svelte'
  import { guests, itemName, stationLines, stationTitle } from '../../lib/state/floor'
  import { studio } from '../../lib/state/studio.svelte'
  import { circuit as t } from '../../lib/text/gen/circuit'
  import { nameOf } from '../../lib/text/names'

  interface Props {
    floor: Schemas['Floor']
    occurrence: Schemas['Occurrence']
    slots: Schemas['SlotPlan'][]
    items: Schemas['Item'][]
  }
  let { floor, occurrence, slots, items }: Props = $props()
  const f = t.floor
  const slot = (id: string) => slots.find((s) => s.id === id)
  const title = (id: string) => stationTitle(slot(id)?.cells ?? [], slot(id)?.pattern ?? '')
  const who = (group: number | undefined) =>
    group === undefined ? '' : guests(occurrence, floor.groups[group]?.who ?? [])
  /** What each lane does; once where all do the same. */
  function done(cells: Schemas['Cell'][]): string[] {
    const said = cells.map((c) => {
      const load = c.entry.load.kind === 'none' ? '' : `, ${studio.loadText(c.entry.load, c.loadG, items)}`
      return { lane: nameOf.lane[c.lane], text: `${studio.move(c.entry.variant)}${load}` }
    })
    const all = new Set(said.map((x) => x.text))
    return all.size === 1 ? [...all] : said.map((x) => `${x.lane}: ${x.text}`)
  }
  const short = $derived(floor.kit.filter((k) => k.used > k.present))
</script>

<div class="floor">
  {#if floor.layout === 'stations'}
    <Ring stations={floor.stations.map((s) => ({ title: title(s.slot), starts: f.group((s.groups[0] ?? 0) + 1) }))} />
    <table>
      <thead>
        <tr>
          <th scope="col">{f.station}</th>
          <th scope="col">{f.move}</th>
          <th scope="col">{f.kit}</th>
          <th scope="col">{f.heights}</th>
          <th scope="col">{f.starts}</th>
        </tr>
      </thead>
      <tbody>
        {#each floor.stations as s, i (s.slot)}
          {@const said = stationLines(occurrence, items, s)}
          {@const cells = slot(s.slot)?.cells ?? []}
          <tr>
            <th scope="row">{i + 1}</th>
            <td>
              {#each new Set(done(cells)) as x (x)}<span class="line">{x}</span>{/each}
            </td>
            <td>
              {said.kit}
              {#each said.shared as x, j (j)}<span class="line">{x}</span>{/each}
            </td>
            <td>
              {#each said.heights as x, j (j)}<span class="line">{x}</span>{/each}
            </td>
            <td><b>{f.group((s.groups[0] ?? 0) + 1)}</b>: {who(s.groups[0])}</td>
          </tr>
        {/each}
      </tbody>
    </table>
    <p>
      {f.rotate(slot(floor.stations[0]?.slot ?? '')?.restMs ?? 0)}
      {floor.stations.some((s) => s.settings.length > 0) ? f.changes(floor.changes) : ''}
    </p>
    {#each short as k (k.item)}
      <p class="ember">{f.short(itemName(items, k.item), k.used, k.present, k.least)}</p>
    {/each}
  {:else}
    <h3>{f.pairs}</h3>
    <p>{f.pairsHelp}</p>
    <ol>
      {#each floor.groups as g, i (i)}
        <li>{guests(occurrence, g.who)}{g.who.length === 1 ? ` (${f.alone})` : ''}</li>
      {/each}
    </ol>
  {/if}
</div>

<style>
  table {
    width: 100%;
    border-collapse: collapse;
  }
  td,
  th {
    text-align: left;
    vertical-align: top;
    padding: 6px 10px 6px 0;
    border-top: 1px solid var(--line);
    overflow-wrap: anywhere;
  }
  th {
    overflow-wrap: normal;
    white-space: nowrap;
  }
  .line {
    display: block;
  }
  @media (max-width: 700px) {
    thead {
      display: none;
    }
    td,
    tbody th {
      display: block;
      border: 0;
      padding: 2px 0;
    }
    tr {
      display: block;
      border-top: 1px solid var(--line);
      padding: 6px 0;
    }
  }
</style>
