<script lang="ts">
  // A graduated rule: a block for an implement, a point for a load made up, a hatched
  // stretch where more than a tenth is missing. It is one slider over the loads.
  import type { Schemas } from '../api/client'
  import { studio } from '../state/studio.svelte'
  import { mass } from '../text/format'
  import { loads } from '../text/gen/loads'
  import { nearest, ruler } from './rule'

  interface Props {
    rule: Schemas['LoadRule']
    /** The mark that is looked at. */
    at: number
    /** What a mark is, in words. */
    say: (mark: Schemas['RuleMark']) => string
  }
  let { rule, at = $bindable(), say }: Props = $props()
  let width = $state(1000)
  const drawn = $derived(ruler(rule.marks, width, studio.unit))
  const mark = $derived(rule.marks[at])

  function key(e: KeyboardEvent): void {
    const last = rule.marks.length - 1
    const next = {
      ArrowRight: at + 1,
      ArrowUp: at + 1,
      ArrowLeft: at - 1,
      ArrowDown: at - 1,
      Home: 0,
      End: last,
      PageUp: at + 10,
      PageDown: at - 10,
    }[e.key]
    if (next === undefined) return
    e.preventDefault()
    at = Math.max(0, Math.min(last, next))
  }
  function point(e: PointerEvent & { currentTarget: SVGSVGElement }): void {
    if (e.type === 'pointermove' && e.pointerType !== 'mouse') return
    at = nearest(rule.marks, drawn.x, e.clientX - e.currentTarget.getBoundingClientRect().left)
  }
</script>

<div class="wide" bind:clientWidth={width}>
  <!-- A slider over the loads, moved by the arrow keys and pointed at. -->
  <svg
    class="rule"
    {width}
    height="118"
    role="slider"
    tabindex="0"
    aria-label={loads.rule.label(rule.marks.length)}
    aria-valuemin={0}
    aria-valuemax={rule.marks.length - 1}
    aria-valuenow={at}
    aria-valuetext={mark ? `${mass(mark.totalG, studio.unit)}: ${say(mark)}` : ''}
    onkeydown={key}
    onpointermove={point}
    onpointerdown={point}
  >
    <defs>
      <pattern id="hatch" width="8" height="8" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
        <line x1="0" x2="0" y1="0" y2="8" />
      </pattern>
    </defs>
    <rect class="stock" x="8" y="44" width={Math.max(width - 16, 0)} height="44" rx="2" />
    {#each drawn.ticks as k (k.x)}
      <line class="tick" x1={k.x} x2={k.x} y1="44" y2={k.long ? 62 : 54} />
      {#if k.label}<text x={k.x} y="80" text-anchor="middle">{k.label}</text>{/if}
    {/each}
    {#each rule.gaps as g (g.fromG)}
      <rect
        class="hatched"
        x={drawn.x(g.fromG)}
        y="90"
        width={Math.max(drawn.x(g.toG) - drawn.x(g.fromG), 1)}
        height="14"
      />
    {/each}
    {#each rule.marks as m, i (m.totalG)}
      {@const x = drawn.x(m.totalG)}
      {#if m.load.kind === 'implement'}
        <rect class="block" class:on={i === at} x={x - 5} y="20" width="10" height="22" />
      {:else}
        <path class="made" class:on={i === at} d={`M${x - 4} 30h8l-4 12z`} />
      {/if}
    {/each}
    {#if mark}
      <line class="here" x1={drawn.x(mark.totalG)} x2={drawn.x(mark.totalG)} y1="4" y2="104" />
    {/if}
  </svg>
</div>

<style>
  .wide {
    width: 100%;
  }
  svg {
    display: block;
    cursor: ew-resize;
    touch-action: pan-y;
  }
  .stock {
    fill: var(--panel);
    stroke: var(--ink);
  }
  .tick {
    stroke: var(--ink);
  }
  .block {
    fill: var(--ink);
  }
  .made {
    fill: var(--accent);
  }
  .block.on,
  .made.on {
    fill: var(--ember);
  }
  .here {
    stroke: var(--ember);
    stroke-width: 2;
  }
  .hatched {
    fill: url(#hatch);
    stroke: var(--ember);
  }
  pattern line {
    stroke: var(--ember);
    stroke-width: 4;
  }
</style>
