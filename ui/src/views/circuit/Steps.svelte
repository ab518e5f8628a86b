<script lang="ts">
  // The steps of a prep or teaching that times itself, with the reason for each; and how
  // they become the instructor's own: written out as slots, or kept for every session.
  import { Button } from 'carbon-components-svelte'
  import { api, ask, type Circuit } from '../../lib/api/client'
  import Why from '../../lib/parts/Why.svelte'
  import type { Block } from '../../lib/state/blocks'
  import type { Editor } from '../../lib/state/editor.svelte'
  import { partyName } from '../../lib/state/parties'
  import { studio } from '../../lib/state/studio.svelte'
  import { clock } from '../../lib/text/format'
  import { circuit as t } from '../../lib/text/gen/circuit'
  import { nameOf } from '../../lib/text/names'

  interface Props {
    circuit: Circuit
    editor: Editor
    block: Block
  }
  let { circuit, editor, block }: Props = $props()
  const at = $derived(circuit.document.blocks.findIndex((b) => b.id === block.id))
  const names = $derived(studio.names(circuit.items, circuit.occurrence))
  const teach = $derived(block.kind === 'teach')
  const slots = $derived(new Map(circuit.plan.slots.map((s) => [s.id, s])))
  const lessons = $derived(circuit.plan.teach.filter((l) => l.block === block.id))
  let said = $state('')

  async function writeOut(): Promise<void> {
    const params = { path: { circuit: circuit.id }, query: { block: block.id } }
    const a = await ask(api.GET('/api/circuits/{circuit}/written-out', { params }))
    if (a.data) editor.edit({ op: 'remove-block', blockId: block.id }, { op: 'add-block', block: a.data, count: at })
  }
  async function keep(moves: string[]): Promise<void> {
    const a = await ask(api.PUT('/api/prep', { body: { steps: moves.map((move) => ({ move })) } }))
    if (!a.data) return
    said = moves.length > 0 ? t.prepKept : t.prepFree
    await editor.again()
  }
</script>

<section id="steps" aria-label={teach ? t.teachSteps : t.prepSteps}>
  <h3>{teach ? t.teachSteps : t.prepSteps}</h3>
  <ol>
    {#if teach}
      {#each lessons as l (l.slot)}
        {@const s = slots.get(l.slot)}
        <li>
          {s ? nameOf.pattern[s.pattern] : ''}
          {clock(l.ms)}
          <Why why={l.why} {names} label={s ? nameOf.pattern[s.pattern] : ''} />
        </li>
      {/each}
    {:else}
      {#each circuit.plan.prep as p (`${p.move} ${p.slot ?? ''}`)}
        <li>
          {t.stepFor(p.slot ? t.ramp(studio.move(p.move)) : studio.move(p.move), p.ms)}
          <Why why={p.why} {names} label={studio.move(p.move)} />
          {#each p.sets ?? [] as x (x.party)}
            <span class="line"
              >{t.rampSet(
                partyName(circuit.occurrence, x.party),
                studio.loadText(x.entry.load, x.loadG, circuit.items),
                x.entry.dose.low ?? 0,
              )}</span
            >
          {/each}
        </li>
      {/each}
    {/if}
  </ol>
  <div class="buttons">
    <Button size="small" kind="tertiary" id="write-out" on:click={() => void writeOut()}>{t.writeOut}</Button>
    {#if !teach}
      {@const own = circuit.plan.prep.some((p) => p.why.code === 'prep-house')}
      {#if own}
        <Button size="small" kind="ghost" id="free-prep" on:click={() => void keep([])}>{t.noHousePrep}</Button>
      {:else}
        <Button
          size="small"
          kind="ghost"
          id="keep-prep"
          on:click={() => void keep(circuit.plan.prep.filter((p) => !p.slot).map((p) => p.move))}>{t.housePrep}</Button
        >
      {/if}
    {/if}
  </div>
  {#if said}<p role="status">{said}</p>{/if}
</section>

<style>
  .line {
    display: block;
  }
</style>
