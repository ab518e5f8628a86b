<script lang="ts">
  // What comes next, for the class and for every lane.
  import Glyph from '../../lib/draw/Glyph.svelte'
  import { studio } from '../../lib/state/studio.svelte'
  import { run as t } from '../../lib/text/gen/run'
  import { nameOf } from '../../lib/text/names'
  import type { LiveRun } from './live.svelte'

  const { live }: { live: LiveRun } = $props()
  const next = $derived(live.next)
</script>

<div class="next">
  <p>
    <span class="tag">{t.next}</span>
    {#if next?.slot}
      <svg width="20" height="20" aria-hidden="true"
        ><Glyph pattern={live.slot(next.slot)?.pattern ?? ''} x={2} y={2} /></svg
      >
    {/if}
    <b
      >{next
        ? next.slot
          ? live.title(next.slot)
          : next.kind === 'prep' || next.turn
            ? live.ahead(next)
            : nameOf.stretchKind[next.kind]
        : t.ended}</b
    >
  </p>
  {#if next?.slot}
    <ul>
      {#each live.cards as l (l.party)}
        {@const c = live.cell(next.slot, l.party)}
        {#if c}<li><span class="dim">{l.name}</span> {studio.move(c.entry.variant)}, {live.load(c)}</li>{/if}
      {/each}
    </ul>
  {/if}
</div>

<style>
  .next {
    border-top: 1px solid #333b47;
    border-bottom: 1px solid #333b47;
    padding: 0.8vh 0;
  }
  .next p {
    display: flex;
    gap: 10px;
    align-items: center;
    margin: 0;
    font-size: inherit;
    line-height: 1.3;
  }
  .tag {
    color: var(--go);
    font-weight: 600;
  }
  .dim {
    color: var(--dim);
  }
  .next ul {
    display: flex;
    flex-wrap: wrap;
    gap: 2px 28px;
    list-style: none;
    margin: 0;
    padding: 0;
    font-size: 0.9em;
  }
  .next :global(.glyph) {
    stroke: var(--go);
  }
</style>
