<script lang="ts">
  // The station plan of a class by itself.
  import { blockTitle } from '../../lib/state/blocks'
  import { circuit as t } from '../../lib/text/gen/circuit'
  import Floor from './Floor.svelte'
  import OneSheet from './OneSheet.svelte'
</script>

<OneSheet title={t.floor.title} print={t.floor.print}>
  {#snippet children(c)}
    {#each c.plan.floors as f (f.block)}
      {@const b = c.document.blocks.find((x) => x.id === f.block)}
      <section class="sheet">
        {#if c.plan.floors.length > 1 && b}<h2>{blockTitle(b)}</h2>{/if}
        <Floor floor={f} occurrence={c.occurrence} slots={c.plan.slots} items={c.items} />
      </section>
    {:else}
      <p>{t.floor.none}</p>
    {/each}
  {/snippet}
</OneSheet>

<style>
  @media print {
    .sheet {
      break-inside: avoid;
    }
  }
</style>
