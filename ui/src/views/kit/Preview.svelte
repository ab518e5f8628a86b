<script lang="ts">
  // What a file of places, or a list of what one has, would do before it is brought in.
  import { Button } from 'carbon-components-svelte'
  import type { Schemas } from '../../lib/api/client'
  import Mistakes from '../../lib/parts/Mistakes.svelte'
  import { studio } from '../../lib/state/studio.svelte'
  import { mass } from '../../lib/text/format'
  import { loads } from '../../lib/text/gen/loads'
  import { lookup, nameOf } from '../../lib/text/names'

  interface Props {
    seen: Schemas['PlacesPreview']
    onbring: () => Promise<void>
    /** Whether lines are cells in columns. */
    columns?: boolean
  }
  let { seen, onbring, columns = false }: Props = $props()
</script>

{#if seen.faults.length > 0}
  <Mistakes faults={seen.faults} more={seen.more} {columns} />
{:else}
  <p id="places-would">{loads.files.look(seen.new, seen.changed, seen.same)}</p>
  {#if seen.new + seen.changed > 0}
    <Button size="small" id="places-bring" on:click={() => void onbring()}>{loads.files.bring}</Button>
  {/if}
  <table class="sheet stack" aria-label={loads.files.into}>
    <thead>
      <tr
        ><th scope="col">{loads.files.line}</th><th scope="col">{loads.files.place}</th><th scope="col"
          >{loads.files.thing}</th
        ><td></td></tr
      >
    </thead>
    <tbody>
      {#each seen.rows.filter((r) => r.does !== 'same') as r, i (i)}
        <tr
          ><td data-label={loads.files.line}>{r.line}</td><td data-label={loads.files.place}>{r.place}</td><td
            data-label={loads.files.thing}
            >{r.count} × {r.name}{r.massG > 0 ? `, ${mass(r.massG, studio.unit)}` : ''} ({lookup(
              nameOf.rowKind,
              r.item,
            )})</td
          ><td>{nameOf.rowDoes[r.does]}</td></tr
        >
      {/each}
    </tbody>
  </table>
{/if}
