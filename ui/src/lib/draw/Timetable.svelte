<script lang="ts">
  // The kit through a class: a row for each thing, filled as far as it is in hand, and one for
  // who waits. Time goes left to right; a line stands where the rehearsal is.
  import type { Schemas } from '../api/client'
  import Scroll from '../parts/Scroll.svelte'
  import { itemName } from '../state/floor'
  import { clock } from '../text/format'
  import { circuit as t } from '../text/gen/circuit'
  import { bars } from './timetable'

  interface Props {
    rehearsal: Schemas['Rehearsal']
    items: Schemas['Item'][]
    atMs: number
    onseek: (ms: number) => void
  }
  let { rehearsal, items, atMs, onseek }: Props = $props()
  let width = $state(900)
  const label = 190
  const row = 26
  const wide = $derived(Math.max(width, 640))
  const x = (ms: number) => label + ((wide - label) * ms) / Math.max(1, rehearsal.totalMs)
  const rows = $derived(
    rehearsal.kit.map((k) => ({ ...k, name: itemName(items, k.item), bars: bars(rehearsal, k.item) })),
  )
  const waits = $derived(bars(rehearsal, ''))
  const most = $derived(Math.max(1, ...waits.map((w) => w.n)))
  const height = $derived((rows.length + 1) * row + 26)
  const marks = $derived(Array.from({ length: Math.floor(rehearsal.totalMs / 300_000) + 1 }, (_, i) => i * 300_000))
  function seek(e: MouseEvent & { currentTarget: SVGElement }): void {
    const at = e.clientX - e.currentTarget.getBoundingClientRect().left - label
    if (at >= 0) onseek(Math.round((at / (wide - label)) * rehearsal.totalMs))
  }
  const cut = (s: string) => (s.length > 25 ? `${s.slice(0, 24)}…` : s)
</script>

<div bind:clientWidth={width}>
  <Scroll label={t.rehearsal.timetable}>
    <!-- svelte-ignore a11y_click_events_have_key_events, a11y_no_noninteractive_element_interactions -->
    <svg
      class="timetable"
      width={wide}
      {height}
      viewBox={`0 0 ${wide} ${height}`}
      role="img"
      aria-label={`${t.rehearsal.timetable}: ${clock(atMs)}`}
      onclick={seek}
    >
      {#each marks as m (m)}
        <line class="tick" x1={x(m)} x2={x(m)} y1="16" y2={height} />
        <text class="muted" x={x(m) + 2} y="12">{m / 60_000}</text>
      {/each}
      {#each rows as r, i (r.item)}
        {@const y = 20 + i * row}
        <text class="name" x="0" y={y + 16}>{cut(r.name)} <tspan class="muted">{r.n}</tspan></text>
        <line class="rule" x1={label} x2={wide} y1={y + row - 3} y2={y + row - 3} />
        {#each r.bars as b, n (n)}
          {@const part = Math.min(1, b.n / Math.max(1, r.n))}
          <rect
            class={b.n > r.n ? 'short' : 'held'}
            x={x(b.fromMs)}
            width={Math.max(1, x(b.untilMs) - x(b.fromMs) - 0.5)}
            y={y + (row - 5) * (1 - part)}
            height={(row - 5) * part}
          />
        {/each}
      {/each}
      <text class="name" x="0" y={20 + rows.length * row + 16}>{t.rehearsal.waits}</text>
      {#each waits as b, n (n)}
        {@const part = b.n / most}
        {@const y = 20 + rows.length * row}
        <rect
          class="waits"
          x={x(b.fromMs)}
          width={Math.max(1, x(b.untilMs) - x(b.fromMs) - 0.5)}
          y={y + (row - 5) * (1 - part)}
          height={(row - 5) * part}
        />
      {/each}
      <line class="now" x1={x(atMs)} x2={x(atMs)} y1="14" y2={height} />
    </svg>
  </Scroll>
</div>

<style>
  .timetable {
    cursor: pointer;
    display: block;
  }
  .name {
    font-size: 13px;
    fill: var(--ink);
  }
  .muted {
    font-size: 12px;
    fill: var(--muted);
  }
  .tick,
  .rule {
    stroke: var(--line);
  }
  .held {
    fill: var(--accent);
    opacity: 0.75;
  }
  .short,
  .waits {
    fill: var(--ember);
  }
  .waits {
    opacity: 0.7;
  }
  .now {
    stroke: var(--ink);
    stroke-width: 2;
  }
</style>
