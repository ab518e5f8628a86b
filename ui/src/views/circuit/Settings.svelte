<script lang="ts">
  import { NumberInput, Select, SelectItem } from 'carbon-components-svelte'
  import type { Circuit } from '../../lib/api/client'
  import type { Editor } from '../../lib/state/editor.svelte'
  import { pattern, t } from '../../lib/text/catalogue'

  let { circuit, editor }: { circuit: Circuit; editor: Editor } = $props()
  const d = $derived(circuit.document)

  type TimeOp = 'set-work' | 'set-rest' | 'set-round-rest'
  function seconds(op: TimeOp, now: number, value: number | null | undefined): void {
    if (value === null || value === undefined || Number.isNaN(value) || value * 1000 === now) return
    editor.edit({ op, ms: Math.round(value * 1000) })
  }
  let add: string | number = $state('')
  $effect(() => {
    if (add === '') return
    editor.addSlot(add as Parameters<Editor['addSlot']>[0], circuit.document.slots.length)
    add = ''
  })
</script>

{#snippet stretch(op: TimeOp, label: string, least: number, ms: number)}
  <NumberInput
    id={op}
    labelText={label}
    min={least}
    max={600}
    value={ms / 1000}
    on:change={(e) => seconds(op, ms, e.detail)}
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
  <NumberInput
    id="set-rounds"
    labelText={t.circuit.rounds}
    min={1}
    max={20}
    value={d.rounds}
    on:change={(e) => {
      if (e.detail && e.detail !== d.rounds) editor.edit({ op: 'set-rounds', count: e.detail })
    }}
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
