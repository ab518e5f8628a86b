<script lang="ts">
  // What to look at before use, each to be ticked off.
  import { Checkbox } from 'carbon-components-svelte'
  import { loads } from '../text/gen/loads'
  import { nameOf } from '../text/names'

  let { id, what }: { id: string; what: string[] } = $props()
</script>

{#if what.length > 0}
  <fieldset>
    <legend class="small">{loads.make.check}</legend>
    {#each what as w (w)}<Checkbox id={`${id}-${w}`} labelText={nameOf.check[w] ?? w} />{/each}
  </fieldset>
{/if}

<style>
  fieldset {
    border: 0;
    padding: 0;
    margin: 12px 0 0;
  }
</style>
