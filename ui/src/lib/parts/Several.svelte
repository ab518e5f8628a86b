<script lang="ts">
  // Several of a long list: chosen one by one, each taken out again by a press.
  import { Select, SelectItem } from 'carbon-components-svelte'
  import { common } from '../text/gen/common'

  interface Props {
    id: string
    label: string
    help?: string
    options: { id: string; text: string }[]
    chosen: string[]
  }
  let { id, label, help = '', options, chosen = $bindable() }: Props = $props()
  let next: string | number = $state('')
  const text = (x: string) => options.find((o) => o.id === x)?.text ?? x
  const mine = $derived(chosen.filter((x) => options.some((o) => o.id === x)))
  $effect(() => {
    if (next === '') return
    if (!chosen.includes(String(next))) chosen = [...chosen, String(next)]
    next = ''
  })
</script>

<div class="several">
  <Select {id} labelText={label} helperText={help} bind:selected={next}>
    <SelectItem value="" text={common.chooseOne} />
    {#each options as o (o.id)}<SelectItem value={o.id} text={o.text} disabled={chosen.includes(o.id)} />{/each}
  </Select>
  {#if mine.length > 0}
    <ul class="plain" aria-label={label}>
      {#each mine as x (x)}
        <li>
          <button
            type="button"
            aria-label={common.takeOut(text(x))}
            onclick={() => (chosen = chosen.filter((y) => y !== x))}
            >{text(x)} <span aria-hidden="true">{common.cross}</span></button
          >
        </li>
      {/each}
    </ul>
  {/if}
</div>

<style>
  ul {
    display: flex;
    flex-wrap: wrap;
    gap: 6px;
    margin: 6px 0 0;
  }
  button {
    font: inherit;
    color: inherit;
    background: var(--soft);
    border: 1px solid var(--line);
    border-radius: 2px;
    min-height: 28px;
    padding: 2px 10px;
    cursor: pointer;
  }
</style>
