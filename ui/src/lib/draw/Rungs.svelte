<script lang="ts">
  // The ladders that somebody stands on, side by side: a pole for each, a rung for each move,
  // the one they stand on filled, the next one ringed, and whose marks the others are.
  import type { Schemas } from '../api/client'
  import { studio } from '../state/studio.svelte'
  import { day } from '../text/dates'
  import { people as t } from '../text/gen/people'
  import { nameOf } from '../text/names'

  let { ladders }: { ladders: Schemas['LadderState'][] } = $props()
  const wide = 252
  const step = 34
  const most = $derived(Math.max(1, ...ladders.map((l) => l.rungs.length)))
  const height = $derived(most * step + 56)
  const y = (rung: number) => height - 26 - (rung - 1) * step
  const say = $derived(
    ladders
      .map((l) =>
        t.standsOn(
          nameOf.pattern[l.pattern] ?? l.pattern,
          studio.move(l.rungs.find((r) => r.rung === l.at)?.move ?? ''),
          l.since ? day(l.since) : '',
        ),
      )
      .join(' '),
  )
  const short = (name: string) => (name.length > 31 ? `${name.slice(0, 30)}…` : name)
</script>

<div class="scroll">
  <svg class="rungs" width={ladders.length * wide} {height} role="img" aria-label={say}>
    {#each ladders as l, i (l.ladder)}
      <g transform={`translate(${i * wide + 16} 0)`}>
        <text class="pattern" x="0" y="16">{nameOf.pattern[l.pattern] ?? l.pattern}</text>
        <line class="pole" x1="8" x2="8" y1={y(l.rungs.length) - 12} y2={height - 12} />
        {#each l.rungs as r (r.move)}
          {@const here = r.rung === l.at}
          {@const next = r.rung === l.at + 1}
          <g transform={`translate(8 ${y(r.rung)})`} class:here class:next class:past={r.rung < l.at}>
            <line class="rung" x1="-8" x2="8" y1="0" y2="0" />
            {#if here}<circle r="8" />{:else if next}<circle r="7" />{/if}
            <text x="18" y="0">{short(studio.move(r.move))}</text>
            <text class="mark" x="18" y="13"
              >{here && l.since ? t.since(day(l.since)) : r.lanes.map((x) => nameOf.lane[x]).join(', ')}</text
            >
          </g>
        {/each}
      </g>
    {/each}
  </svg>
</div>

<style>
  text {
    fill: var(--muted);
    font-size: 13px;
  }
  .pattern {
    fill: var(--ink);
    font-weight: 600;
  }
  .mark {
    font-size: 12px;
  }
  .pole,
  .rung {
    stroke: var(--line);
    stroke-width: 3;
  }
  .past .rung {
    stroke: var(--accent);
  }
  .here text,
  .next text {
    fill: var(--ink);
  }
  .here text:first-of-type {
    font-weight: 600;
  }
  .here circle {
    fill: var(--accent);
  }
  .next circle {
    fill: var(--panel);
    stroke: var(--ember);
    stroke-width: 2.5;
  }
</style>
