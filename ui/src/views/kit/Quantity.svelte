<script lang="ts">
  import { TextInput } from 'carbon-components-svelte'
  import type { Sort, Typed } from './typed.svelte'

  interface Props {
    typed: Typed
    field: string
    label: string
    sort: Sort
    /** After the field was left and read. */
    onread?: () => void
  }
  let { typed, field, label, sort, onread }: Props = $props()
</script>

<TextInput
  id={`item-${field}`}
  labelText={label}
  helperText={typed.help(field, sort)}
  bind:value={() => typed.text[field] ?? '', (v) => (typed.text[field] = String(v ?? ''))}
  on:blur={() => void typed.look(field, sort).then(onread)}
  {...typed.wrong(field)}
/>
