<script lang="ts">
  import { Select, SelectItem } from 'carbon-components-svelte'
  import type { Circuit } from '../../lib/api/client'
  import NumberField from '../../lib/parts/NumberField.svelte'
  import type { Editor } from '../../lib/state/editor.svelte'
  import { pattern, t } from '../../lib/text/catalogue'

  let { circuit, editor }: { circuit: Circuit; editor: Editor } = $props()
  const d = $derived(circuit.document)

  type TimeOp = 'set-work' | 'set-rest' | 'set-round-rest'
  let add: string | number = $state('')
  $effect(() => {
    if (add === '') return
    editor.addSlot(add as Parameters<Editor['addSlot']>[0], circuit.document.slots.length)
    add = ''
  })
</script>

{#snippet stretch(op: TimeOp, label: string, least: number, ms: number)}
  <NumberField
    id={op}
    {label}
    min={least}
    max={600}
    unit={t.secondsUnit}
    value={ms / 1000}
    answered={editor.answers}
    onset={(n) => editor.edit({ op, ms: Math.round(n * 1000) })}
  />
{/snippet}

<div class="row narrow set">
  <Select
    id="set-format"
    labelText={t.circuit.format}
    selected={d.format}
    on:update={(e) => {
      if (e.detail !== d.format) editor.edit({ op: 'set-format', format: e.detail === 'reps' ? 'reps' : 'timed' })
    }}
  >
    <SelectItem value="timed" text={t.circuit.timed} />
    <SelectItem value="reps" text={t.circuit.reps} />
  </Select>
  {#if d.format === 'timed'}{@render stretch('set-work', t.circuit.work, 5, d.workMs)}{/if}
  {@render stretch('set-rest', t.circuit.rest, 0, d.restMs)}
  <NumberField
    id="set-rounds"
    label={t.circuit.rounds}
    min={1}
    max={20}
    value={d.rounds}
    answered={editor.answers}
    onset={(count) => editor.edit({ op: 'set-rounds', count })}
  />
  {@render stretch('set-round-rest', t.circuit.roundRest, 0, d.roundRestMs)}
  <Select id="add-slot" labelText={t.circuit.addSlot} bind:selected={add}>
    <SelectItem value="" text="–" />
    {#each Object.entries(pattern) as [value, text] (value)}<SelectItem {value} {text} />{/each}
  </Select>
</div>

<style>
  .set {
    margin: 8px 0 16px;
  }
</style>
