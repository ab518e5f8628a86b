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
  {#if d.format === 'timed'}
    <NumberInput
      id="set-work"
      labelText={t.circuit.work}
      min={5}
      max={600}
      value={d.workMs / 1000}
      on:change={(e) => seconds('set-work', d.workMs, e.detail)}
    />
  {/if}
  <NumberInput
    id="set-rest"
    labelText={t.circuit.rest}
    min={0}
    max={600}
    value={d.restMs / 1000}
    on:change={(e) => seconds('set-rest', d.restMs, e.detail)}
  />
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
  <NumberInput
    id="set-round-rest"
    labelText={t.circuit.roundRest}
    min={0}
    max={600}
    value={d.roundRestMs / 1000}
    on:change={(e) => seconds('set-round-rest', d.roundRestMs, e.detail)}
  />
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
