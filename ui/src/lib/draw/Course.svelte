<script lang="ts">
  // What somebody did of a move over time: loads, or repetitions where it takes none.
  import { scaleLinear, scaleUtc } from 'd3-scale'
  import type { Schemas } from '../api/client'
  import { day } from '../text/dates'
  import { mass, type MassUnit } from '../text/format'
  import { people as t } from '../text/gen/people'

  interface Props {
    name: string
    did: Schemas['Did'][]
    unit: MassUnit
  }
  let { name, did, unit }: Props = $props()
  const wide = 250
  const high = 96
  const loaded = $derived(did.some((d) => d.loadG > 0))
  const value = (d: Schemas['Did']) => (loaded ? d.loadG : d.reps)
  const text = (n: number) => (loaded ? mass(n, unit) : t.repsOf(n))
  const days = $derived(did.map((d) => Date.parse(d.date)))
  const x = $derived(scaleUtc([Math.min(...days), Math.max(...days, Math.min(...days) + 86_400_000)], [10, wide - 66]))
  const top = $derived(Math.max(1, ...did.map(value)))
  const y = $derived(scaleLinear([0, top], [high - 20, 14]))
  const points = $derived(did.map((d) => [x(Date.parse(d.date)), y(value(d))] as const))
  const last = $derived(did.at(-1))
  const say = $derived(`${name}: ${did.map((d) => t.didOn(day(d.date), text(value(d)), d.reps)).join('; ')}`)
</script>

<figure>
  <figcaption>{name}</figcaption>
  <svg viewBox={`0 0 ${wide} ${high}`} role="img" aria-label={say}>
    <line class="floor" x1="10" x2={wide - 66} y1={high - 20} y2={high - 20} />
    <polyline points={points.map((p) => p.join(',')).join(' ')} />
    {#each points as p, i (i)}<circle cx={p[0]} cy={p[1]} r="3.5" />{/each}
    {#if last}<text class="value" x={wide - 60} y={(points.at(-1)?.[1] ?? 0) + 4}>{text(value(last))}</text>{/if}
    <text x="10" y={high - 5}>{day(did[0]?.date ?? '')}</text>
    {#if did.length > 1}<text x={wide - 66} y={high - 5} text-anchor="end">{day(last?.date ?? '')}</text>{/if}
  </svg>
</figure>

<style>
  figure {
    margin: 0;
    background: var(--panel);
    border: 1px solid var(--line);
    padding: 8px 10px;
  }
  figcaption {
    font-weight: 600;
  }
  svg {
    width: 100%;
    height: auto;
    display: block;
  }
  .floor {
    stroke: var(--line);
    stroke-width: 2;
  }
  polyline {
    fill: none;
    stroke: var(--accent);
    stroke-width: 2;
  }
  circle {
    fill: var(--accent);
  }
  text {
    fill: var(--muted);
    font-size: 12px;
  }
  .value {
    fill: var(--ink);
    font-weight: 600;
    font-size: 13px;
  }
</style>
