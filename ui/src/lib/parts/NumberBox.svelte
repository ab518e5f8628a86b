<script lang="ts">
  // Carbon's field for a number, with its two buttons named in our texts.
  import { NumberInput } from 'carbon-components-svelte'
  import { common } from '../text/gen/common'

  interface Props {
    id: string
    labelText: string
    min: number
    max: number
    value: number | null | undefined
    invalid?: boolean
    invalidText?: string
    helperText?: string
    allowEmpty?: boolean
    onchange?: (n: number | null) => void
  }
  let { value = $bindable(), onchange, ...rest }: Props = $props()
</script>

<NumberInput
  {...rest}
  bind:value
  translateWithId={(id) => (id === 'increment' ? common.more : common.less)}
  on:change={(e) => onchange?.(e.detail)}
/>
