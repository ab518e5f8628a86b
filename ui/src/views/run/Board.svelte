<script lang="ts">
  // The stations as they stand in a turn: who is at which, what is done there with what, and
  // the height that it has; in the change after it those of the next turn.
  import type { Schemas } from '../../lib/api/client'
  import { doseText } from '../../lib/state/blocks'
  import { guestName, guests, stationTitle } from '../../lib/state/floor'
  import { studio } from '../../lib/state/studio.svelte'
  import { circuit as c } from '../../lib/text/gen/circuit'
  import type { LiveRun } from './live.svelte'

  interface Props {
    live: LiveRun
    floor: Schemas['Floor']
    turn: number
  }
  const { live, floor, turn }: Props = $props()
  const people = $derived({ people: live.run?.occurrence.people ?? [] })
  const clocked = $derived(live.run?.blocks.find((b) => b.id === floor.block)?.scheme?.circuit?.format === 'timed')
  // Of many stations each has room for its first caution; all stand on the card.
  const many = $derived(floor.stations.length > 4)
  const who = (s: Schemas['Station']) => floor.groups[s.groups[turn - 1] ?? 0]?.who ?? []
  const cells = (s: Schemas['Station']) => {
    const here = new Set<string>(who(s).flatMap((g) => [g.party, g.lane]))
    return (live.slot(s.slot)?.cells ?? []).filter((x) => here.has(x.party))
  }
  /** What is said of the cells: lanes that do the same thing hear it once. */
  const lines = (s: Schemas['Station']) => {
    const all = cells(s).map((x) => ({
      text: `${live.load(x)}, ${doseText(x, clocked)}`,
      move: studio.move(x.entry.variant),
      cautions: many ? x.cautions.slice(0, 1) : x.cautions,
    }))
    const same = (a: (typeof all)[number], b: (typeof all)[number]) => a.move === b.move && a.text === b.text
    return all.filter((x, i) => all.findIndex((y) => same(x, y)) === i)
  }
  /** The heights that are set while these people are here. */
  const heights = (s: Schemas['Station']) => {
    const here = new Set(who(s).map((g) => guestName(people, g)))
    return s.settings.filter((x) => x.for.some((g) => here.has(guestName(people, g)))).map((x) => x.heightMm)
  }
</script>

<ol class="board" id="board">
  {#each floor.stations as s, i (s.slot)}
    <li>
      <p class="dim">
        <b>{i + 1}</b>
        {c.floor.group((s.groups[turn - 1] ?? 0) + 1)}: {guests(people, who(s)) || c.floor.none}
      </p>
      <p class="title">{stationTitle(cells(s), live.slot(s.slot)?.pattern ?? '')}</p>
      {#each lines(s) as x (x.move + x.text)}
        <p>{lines(s).length > 1 ? `${x.move}: ` : ''}{x.text}</p>
        {#if x.cautions.length > 0}<p class="caution">{x.cautions.join(' ')}</p>{/if}
      {/each}
      {#if heights(s).length > 0}<p class="dim">
          {heights(s)
            .map((h) => c.floor.heightNow(studio.unit, h))
            .join(', ')}
        </p>{/if}
    </li>
  {/each}
</ol>

<style>
  .board {
    list-style: none;
    margin: 0;
    padding: 0;
    display: grid;
    grid-template-columns: repeat(auto-fit, minmax(240px, 1fr));
    gap: 10px;
  }
  li {
    background: var(--box);
    border-bottom: 3px solid var(--go);
    padding: 8px 12px;
  }
  .board p {
    margin: 0;
    font-size: inherit;
    line-height: 1.3;
  }
  .board .title {
    font-size: 1.4em;
    font-weight: 600;
    line-height: 1.15;
  }
  .dim {
    color: var(--dim);
  }
  .dim b {
    color: var(--pale);
    font-size: 1.6em;
  }
  .caution {
    border-left: 3px solid var(--call);
    padding-left: 8px;
  }
  .board .caution {
    font-size: max(0.7em, 12px);
  }
</style>
