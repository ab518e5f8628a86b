<script lang="ts">
  // Several words of a list, each ticked or not.
  import { Checkbox } from 'carbon-components-svelte'

  interface Props {
    id: string
    legend: string
    names: Record<string, string>
    set: Record<string, boolean>
  }
  let { id, legend, names, set }: Props = $props()
</script>

<fieldset>
  <legend class="small">{legend}</legend>
  {#each Object.entries(names) as [value, text] (value)}<Checkbox
      id={`${id}-${value}`}
      labelText={text}
      bind:checked={() => set[value] ?? false, (v) => (set[value] = v)}
    />{/each}
</fieldset>

<style>
  fieldset {
    border: 0;
    padding: 0;
    margin: 12px 0 0;
    display: flex;
    flex-wrap: wrap;
    gap: 0 16px;
  }
  fieldset :global(.bx--form-item) {
    flex: 0 0 auto;
  }
</style>
