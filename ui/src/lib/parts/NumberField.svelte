<script lang="ts">
  // A number of the plan. What is outside its bounds is refused beside the field, in
  // the field's unit, and the number that stands comes back; so does it after an undo
  // or a refusal of the server.
  import { tick } from 'svelte'
  import NumberBox from './NumberBox.svelte'
  import { common } from '../text/gen/common'

  interface Props {
    id: string
    label: string
    min: number
    max: number
    unit?: string
    /** A line under the field. */
    help?: string
    value: number
    /** Changes with every answer: the field shows the value again. */
    answered: unknown
    onset: (n: number) => void
  }
  let { id, label, min, max, unit = '', help = '', value, answered, onset }: Props = $props()
  let shown: number | null = $state((() => value)())
  let refused = $state('')
  $effect(() => {
    void answered
    shown = value
  })
  async function change(n: number | null): Promise<void> {
    if (n === value) return
    if (n === null || Number.isNaN(n) || n < min || n > max) {
      const typed = n === null || Number.isNaN(n) ? '' : String(n)
      refused = common.outside(typed === '' ? '' : Number(typed) < min ? 'low' : 'high', typed, min, max, unit, value)
      await tick()
      shown = value
      return
    }
    refused = ''
    onset(n)
  }
</script>

<NumberBox
  {id}
  labelText={label}
  helperText={help}
  {min}
  {max}
  bind:value={shown}
  invalid={refused !== ''}
  invalidText={refused}
  onchange={(n) => void change(n)}
/>
