<script lang="ts">
  // The stations of a block as a ring: numbers, what is done there, which group starts.
  import { circuit as t } from '../text/gen/circuit'

  interface Props {
    stations: { title: string; starts: string; now?: string }[]
  }
  let { stations }: Props = $props()
  const wide = 720
  const high = 360
  const rx = 250
  const ry = 96
  const at = $derived(
    stations.map((s, i) => {
      const a = (2 * Math.PI * i) / Math.max(stations.length, 1) - Math.PI / 2
      return { ...s, x: wide / 2 + rx * Math.cos(a), y: high / 2 + ry * Math.sin(a), below: Math.sin(a) > -0.1 }
    }),
  )
  /** A long name on two lines. */
  function lines(text: string): string[] {
    const words = text.split(' ')
    const out = ['']
    for (const w of words) {
      const last = out.at(-1) ?? ''
      if (last && (last + ' ' + w).length > 22 && out.length < 3) out.push(w)
      else out[out.length - 1] = last ? `${last} ${w}` : w
    }
    return out
  }
  const arrow = (a: { x: number; y: number }, b: { x: number; y: number }) => {
    const long = Math.hypot(b.x - a.x, b.y - a.y) || 1
    const [ux, uy] = [(b.x - a.x) / long, (b.y - a.y) / long]
    return `M${a.x + ux * 30} ${a.y + uy * 30}L${b.x - ux * 34} ${b.y - uy * 34}`
  }
</script>

<svg class="ring" viewBox={`0 0 ${wide} ${high}`} role="img" aria-label={t.floor.ring(stations.length)}>
  <defs>
    <marker id="on" viewBox="0 0 8 8" refX="6" refY="4" markerWidth="7" markerHeight="7" orient="auto">
      <path class="tip" d="M0 0L8 4L0 8z" />
    </marker>
  </defs>
  {#if at.length > 1}
    {#each at as s, i (i)}
      {@const next = at[(i + 1) % at.length]}
      {#if next && (at.length > 2 || i === 0)}<path class="way" d={arrow(s, next)} marker-end="url(#on)" />{/if}
    {/each}
  {/if}
  {#each at as s, i (i)}
    <circle cx={s.x} cy={s.y} r="22" />
    <text class="no" x={s.x} y={s.y} dominant-baseline="central" text-anchor="middle">{i + 1}</text>
    {@const said = [...lines(s.title), s.now ?? s.starts]}
    {#each said as line, n (n)}
      <text
        class={n === said.length - 1 ? 'who' : 'what'}
        x={s.x}
        y={s.below ? s.y + 40 + n * 16 : s.y - 32 - (said.length - 1 - n) * 16}
        text-anchor="middle">{line}</text
      >
    {/each}
  {/each}
</svg>

<style>
  .ring {
    width: 100%;
    max-width: 760px;
    height: auto;
    overflow: visible;
  }
  circle {
    fill: var(--soft);
    stroke: currentColor;
    stroke-width: 2;
  }
  .way {
    fill: none;
    stroke: var(--muted);
    stroke-width: 2;
  }
  .tip {
    fill: var(--muted);
  }
  text {
    fill: currentColor;
    font-size: 13px;
  }
  .no {
    font-size: 18px;
    font-weight: 600;
  }
  .who {
    font-weight: 600;
  }
  /* On a phone the table below has the words. */
  @media (max-width: 700px) {
    circle {
      r: 36px;
    }
    .no {
      font-size: 34px;
    }
    .what,
    .who {
      display: none;
    }
  }
</style>
