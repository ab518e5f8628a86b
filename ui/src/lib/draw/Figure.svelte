<script lang="ts">
  // Start and end of a movement as a stick figure, laid out by the server from
  // segment lengths and joint angles.
  import type { Schemas } from '../api/client'
  import { moves as t } from '../text/gen/moves'

  let { figure }: { figure: Schemas['Figure'] } = $props()
  const both = $derived([
    { label: t.start, d: figure.start },
    { label: t.end, d: figure.end },
  ])
  // Both on one scale, on one floor.
  const width = $derived(Math.max(...both.map((x) => x.d.width), 700))
  const height = $derived(Math.max(...both.map((x) => x.d.height), 500))
</script>

<div class="figure">
  {#each both as { label, d } (label)}
    <figure>
      <svg
        viewBox={`${(d.width - width) / 2} ${d.height - height} ${width} ${height + 30}`}
        role="img"
        aria-label={`${label}: ${d.say}`}
      >
        {#each d.boxes as b, i (i)}<rect class="thing" x={b.x} y={b.y} width={b.w} height={b.h} />{/each}
        {#each d.lines as l (l.part)}
          <polyline class={l.part} points={l.points.map((q) => `${q[0]},${q[1]}`).join(' ')} />
        {/each}
        <circle cx={d.head[0]} cy={d.head[1]} r={d.head[2]} />
        <line
          class="floor"
          x1={(d.width - width) / 2}
          x2={(d.width + width) / 2}
          y1={d.height + 12}
          y2={d.height + 12}
        />
      </svg>
      <figcaption><b>{label}</b> {d.say}</figcaption>
    </figure>
  {/each}
</div>

<style>
  .figure {
    display: grid;
    grid-template-columns: 1fr 1fr;
    gap: 12px;
    max-width: 560px;
  }
  figure {
    margin: 0;
  }
  figcaption {
    font-size: 13px;
    color: var(--muted);
  }
  svg {
    width: 100%;
    height: 170px;
  }
  polyline {
    fill: none;
    stroke: var(--ink);
    stroke-width: 22;
    stroke-linecap: round;
    stroke-linejoin: round;
  }
  .far-leg,
  .far-arm {
    stroke: var(--accent-2);
    stroke-width: 16;
  }
  circle {
    fill: var(--ink);
  }
  .thing {
    fill: var(--soft);
    stroke: var(--line);
    stroke-width: 6;
  }
  .floor {
    stroke: var(--muted);
    stroke-width: 6;
  }
</style>
