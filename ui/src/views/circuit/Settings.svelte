<script lang="ts">
  import { Select, SelectItem } from 'carbon-components-svelte'
  import { api, ask, type Circuit, type Schemas } from '../../lib/api/client'
  import NumberField from '../../lib/parts/NumberField.svelte'
  import type { Editor } from '../../lib/state/editor.svelte'
  import { circuit as t } from '../../lib/text/gen/circuit'
  import { common } from '../../lib/text/gen/common'
  import { nameOf } from '../../lib/text/names'

  let { circuit, editor }: { circuit: Circuit; editor: Editor } = $props()
  const d = $derived(circuit.document)

  // A change-over that is longer than the rest makes it grow, here and there.
  const grown = $derived(Math.max(0, ...circuit.plan.slots.filter((s) => s.grown).map((s) => s.restMs)))

  type TimeOp = 'set-work' | 'set-rest' | 'set-round-rest'
  // What a new slot of each pattern would come to here, asked for when one is looked for.
  let rooms = $state.raw<Schemas['PatternRoom'][]>([])
  let askedAt = -1
  async function lookForRoom(): Promise<void> {
    if (askedAt === circuit.version) return
    askedAt = circuit.version
    const path = { circuit: circuit.id }
    const a = await ask(api.GET('/api/circuits/{circuit}/patterns', { params: { path } }))
    if (a.data) rooms = a.data
  }
  const patterns = $derived(
    Object.entries(nameOf.pattern).map(([value, name]) => {
      const room = rooms.find((r) => r.pattern === value)?.room ?? 'yes'
      const text = room === 'yes' ? name : t.addSlotBut(name, nameOf.patternRoom[room])
      return { value, text, disabled: room === 'nothing' }
    }),
  )

  let add: string | number = $state('')
  $effect(() => {
    if (add === '') return
    editor.addSlot(add as Parameters<Editor['addSlot']>[0], circuit.document.slots.length)
    add = ''
  })
</script>

{#snippet stretch(op: TimeOp, label: string, least: number, ms: number, help = '')}
  <NumberField
    id={op}
    {label}
    min={least}
    max={600}
    unit={common.secondsUnit}
    {help}
    value={ms / 1000}
    answered={editor.answers}
    onset={(n) => editor.edit({ op, ms: Math.round(n * 1000) })}
  />
{/snippet}

<div class="row narrow set">
  <Select
    id="set-format"
    labelText={t.format}
    selected={d.format}
    on:update={(e) => {
      if (e.detail !== d.format) editor.edit({ op: 'set-format', format: e.detail === 'reps' ? 'reps' : 'timed' })
    }}
  >
    {#each Object.entries(nameOf.format) as [value, text] (value)}<SelectItem {value} {text} />{/each}
  </Select>
  {#if d.format === 'timed'}{@render stretch('set-work', t.work, 5, d.workMs)}{/if}
  {@render stretch('set-rest', t.rest, 0, d.restMs, grown > d.restMs ? t.restGrown(grown / 1000) : '')}
  <NumberField
    id="set-rounds"
    label={t.rounds}
    min={1}
    max={20}
    value={d.rounds}
    answered={editor.answers}
    onset={(count) => editor.edit({ op: 'set-rounds', count })}
  />
  {@render stretch('set-round-rest', t.roundRest, 0, d.roundRestMs)}
  <div role="presentation" onpointerenter={() => void lookForRoom()} onfocusin={() => void lookForRoom()}>
    <Select id="add-slot" labelText={t.addSlot} bind:selected={add}>
      <SelectItem value="" text="–" />
      {#each patterns as p (p.value)}<SelectItem {...p} />{/each}
    </Select>
  </div>
</div>

<style>
  .set {
    margin: 8px 0 16px;
  }
</style>
