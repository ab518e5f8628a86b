<script lang="ts">
  // The blocks that a session is asked to be made of: for what, by which scheme, how often,
  // how people stand to it, and its moves in their order with a load and a dose.
  import { Button, Select, SelectItem, TextInput } from 'carbon-components-svelte'
  import NumberBox from '../../lib/parts/NumberBox.svelte'
  import type { AskedBlock } from '../../lib/state/asked'
  import { studio } from '../../lib/state/studio.svelte'
  import { circuit as t } from '../../lib/text/gen/circuit'
  import { common } from '../../lib/text/gen/common'
  import { nameOf } from '../../lib/text/names'

  interface Props {
    blocks: AskedBlock[]
  }
  let { blocks = $bindable() }: Props = $props()
  const moves = [...studio.moves.values()].sort((a, b) => a.name.localeCompare(b.name))
  const kinds = (Object.keys(nameOf.blockKind) as (keyof typeof nameOf.blockKind)[]).filter((k) => k !== 'close')
  function add(): void {
    blocks = [...blocks, { kind: 'work', scheme: '', rounds: null, layout: '', dose: '', pins: [] }]
  }
  const pin = (b: AskedBlock) => (b.pins = [...b.pins, { move: '', load: '', dose: '' }])
</script>

<fieldset id="brief-blocks">
  <legend class="small">{t.blocksAsked}</legend>
  <p class="muted">{t.blocksHelp}</p>
  {#each blocks as b, i (i)}
    <div class="asked" role="group" aria-label={t.block.title(i + 1, blocks.length, nameOf.blockKind[b.kind])}>
      <div class="row narrow top">
        <Select id={`ask-kind-${i}`} labelText={t.block.kind} bind:selected={b.kind}>
          {#each kinds as k (k)}<SelectItem value={k} text={nameOf.blockKind[k]} />{/each}
        </Select>
        <Select id={`ask-scheme-${i}`} labelText={t.block.scheme} bind:selected={b.scheme}>
          <SelectItem value="" text={t.schemeFree} />
          {#each Object.entries(nameOf.scheme) as [value, text] (value)}<SelectItem {value} {text} />{/each}
        </Select>
        <NumberBox
          id={`ask-rounds-${i}`}
          labelText={t.blockRounds}
          helperText={t.blockRoundsHelp}
          min={1}
          max={20}
          bind:value={b.rounds}
        />
        <Select id={`ask-layout-${i}`} labelText={t.block.layout} bind:selected={b.layout}>
          <SelectItem value="" text={t.layoutFree} />
          {#each Object.entries(nameOf.layout) as [value, text] (value)}<SelectItem {value} {text} />{/each}
        </Select>
        <TextInput id={`ask-dose-${i}`} labelText={t.blockDose} helperText={t.blockDoseHelp} bind:value={b.dose} />
      </div>
      {#each b.pins as x, n (n)}
        <div class="row narrow pin">
          <Select id={`ask-move-${i}-${n}`} labelText={t.floor.move} bind:selected={x.move}>
            <SelectItem value="" text={common.chooseOne} />
            {#each moves as m (m.id)}<SelectItem value={m.id} text={m.name} />{/each}
          </Select>
          <TextInput id={`ask-load-${i}-${n}`} labelText={t.pinLoad} placeholder={t.pinLoadHelp} bind:value={x.load} />
          <TextInput id={`ask-pin-dose-${i}-${n}`} labelText={t.blockDose} bind:value={x.dose} />
          <Button
            size="field"
            kind="ghost"
            aria-label={t.dropMove(studio.move(x.move))}
            on:click={() => (b.pins = b.pins.filter((_, k) => k !== n))}
            ><span aria-hidden="true">{common.cross}</span></Button
          >
        </div>
      {/each}
      <div class="buttons">
        <Button size="small" kind="ghost" id={`ask-add-${i}`} on:click={() => pin(b)}>{t.askMove}</Button>
        <Button
          size="small"
          kind="ghost"
          id={`ask-drop-${i}`}
          on:click={() => (blocks = blocks.filter((_, k) => k !== i))}>{t.dropBlock(i + 1)}</Button
        >
      </div>
    </div>
  {/each}
  <Button size="small" kind="tertiary" id="ask-block" on:click={add}>{t.askBlock}</Button>
</fieldset>

<style>
  fieldset {
    border: 0;
    margin: 14px 0 6px;
    padding: 0;
  }
  .asked {
    border-left: 3px solid var(--line);
    margin: 8px 0;
    padding: 4px 0 4px 12px;
  }
  .pin {
    align-items: flex-end;
    margin-top: 6px;
  }
</style>
