<script lang="ts">
  // The parts of a repetition in their order, with how often each comes and how long it takes;
  // those of the move unless they are set here.
  import { Button, Select, SelectItem } from 'carbon-components-svelte'
  import type { Cell, Entry } from '../../lib/api/client'
  import NumberField from '../../lib/parts/NumberField.svelte'
  import { studio } from '../../lib/state/studio.svelte'
  import { circuit as texts } from '../../lib/text/gen/circuit'
  import { common } from '../../lib/text/gen/common'
  import { lookup, nameOf } from '../../lib/text/names'

  type Part = NonNullable<Entry['parts']>[number]
  interface Props {
    cell: Cell
    /** Changes with every answer of the server. */
    answered: unknown
    /** Parts of its own; none are those of the move. */
    onset: (parts: Part[]) => void
  }
  const { cell, answered, onset }: Props = $props()
  const t = texts.parts
  const own = $derived((cell.entry.parts ?? []).length > 0)
  const parts = $derived(cell.does)
  const known = $derived(Object.entries(studio.partMs))
  const put = (at: number, part: Partial<Part>) => onset(parts.map((p, i) => (i === at ? { ...p, ...part } : p)))
  function add(): void {
    const [move, ms] = known[0] ?? []
    if (move && ms !== undefined) onset([...parts, { move, count: 1, ms }])
  }
  const choices = (now: string) => (now in studio.partMs ? known : [[now, 0] as const, ...known])
</script>

<details class="parts" open={parts.length > 0}>
  <summary>{t.title}</summary>
  {#each parts as p, i (i)}
    <div class="row">
      <Select
        id={`part-${i}`}
        labelText={t.part(i + 1)}
        selected={p.move}
        on:update={(e) => {
          const move = String(e.detail)
          if (move !== p.move) put(i, { move, ms: studio.partMs[move] ?? p.ms })
        }}
      >
        {#each choices(p.move) as [value] (value)}<SelectItem {value} text={lookup(nameOf.partName, value)} />{/each}
      </Select>
      <NumberField
        id={`part-count-${i}`}
        label={t.count}
        min={1}
        max={100}
        value={p.count}
        {answered}
        onset={(n) => put(i, { count: n })}
      />
      <NumberField
        id={`part-seconds-${i}`}
        label={t.seconds}
        min={0.5}
        max={60}
        unit={common.secondsUnit}
        value={p.ms / 1000}
        {answered}
        onset={(n) => put(i, { ms: Math.round(n * 1000) })}
      />
      <Button size="small" kind="ghost" on:click={() => onset(parts.filter((_, n) => n !== i))}
        >{t.remove(i + 1)}</Button
      >
    </div>
  {/each}
  <div class="buttons">
    <Button size="small" kind="ghost" id="add-part" on:click={add}>{t.add}</Button>
    {#if own}<Button size="small" kind="ghost" id="usual-parts" on:click={() => onset([])}>{t.usual}</Button>{/if}
  </div>
</details>

<style>
  .row {
    display: flex;
    flex-wrap: wrap;
    gap: 8px;
    align-items: end;
  }
  .row > :global(*) {
    flex: 1 1 90px;
  }
</style>
