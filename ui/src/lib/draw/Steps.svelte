<script lang="ts">
  // A bridge as steps: each week a tread, as high as its set is hard to lift; what is
  // now stands on the ground.
  import type { Schemas } from '../api/client'
  import { studio } from '../state/studio.svelte'
  import { loads } from '../text/gen/loads'
  import { nameOf } from '../text/names'

  interface Props {
    bridge: Schemas['BridgeAnswer']
    items: Schemas['Item'][]
    move: string
  }
  let { bridge, items, move }: Props = $props()
</script>

<ol class="steps" aria-label={loads.bridge.label(studio.unit, bridge.fromG, bridge.toG, bridge.weeks.length)}>
  {#each bridge.weeks as w (w.week)}
    <li class:last={w.week === bridge.weeks.length} class={`rise-${Math.min(w.week, 9)}`}>
      <span class="muted">{loads.bridge.week(w.week)}</span>
      {#if w.blend}
        <b>{loads.bridge.sets(studio.unit, w.blend.sets, w.blend.reps, w.blend.loadG)}</b>
        <b>{loads.bridge.sets(studio.unit, w.sets - w.blend.sets, w.reps, w.loadG)}</b>
      {:else}
        <b>{loads.bridge.sets(studio.unit, w.sets, w.reps, w.loadG)}</b>
      {/if}
      <span
        >{nameOf.bridgeBy[w.by]}{w.by === 'tempo' ? ` ${w.tempo}` : ''}{w.move === move
          ? ''
          : `: ${studio.move(w.move)}`}</span
      >
      <small class="muted"
        >{w.load
          ? loads.bridge.recipe(studio.unit, studio.packing(w.load, items), w.madeG === w.loadG ? undefined : w.madeG)
          : loads.bridge.missing}</small
      >
    </li>
  {/each}
</ol>

<style>
  ol {
    list-style: none;
    margin: 12px 0;
    padding: 0;
    display: grid;
    grid-auto-flow: column;
    grid-auto-columns: minmax(0, 1fr);
    align-items: end;
    gap: 0;
  }
  li {
    border: 1px solid var(--line);
    border-top: 4px solid var(--accent);
    background: var(--panel);
    padding: 8px 10px;
    display: grid;
    gap: 2px;
    align-content: start;
    min-height: 132px;
  }
  li.last {
    border-top-color: var(--ember);
  }
  .rise-2 {
    min-height: 154px;
  }
  .rise-3 {
    min-height: 176px;
  }
  .rise-4 {
    min-height: 198px;
  }
  .rise-5 {
    min-height: 220px;
  }
  .rise-6 {
    min-height: 242px;
  }
  .rise-7 {
    min-height: 264px;
  }
  .rise-8 {
    min-height: 286px;
  }
  .rise-9 {
    min-height: 308px;
  }
  b {
    font-size: 16px;
  }
  @media (max-width: 800px) {
    ol {
      grid-auto-flow: row;
    }
    li {
      min-height: 0;
    }
  }
</style>
