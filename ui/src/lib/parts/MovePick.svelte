<script lang="ts">
  // A move of the library and a way to hold it.
  import { Select, SelectItem } from 'carbon-components-svelte'
  import type { Entry, Move } from '../api/client'
  import { studio } from '../state/studio.svelte'
  import { loads } from '../text/gen/loads'
  import { nameOf } from '../text/names'

  interface Props {
    id: string
    move: string
    /** Missing: the hold is not asked for. */
    hold?: Entry['hold']
    /** Which moves are offered. */
    only?: (m: Pick<Move, 'holds'>) => boolean
  }

  let { id, move = $bindable(), hold = $bindable(), only = () => true }: Props = $props()
  const moves = $derived(
    [...studio.moves.values()]
      .filter((m) => m.holds.some((h) => h !== 'none') && only(m))
      .sort((a, b) => a.name.localeCompare(b.name)),
  )
  const holds: Entry['hold'][] = $derived((studio.moves.get(move)?.holds ?? []).filter((h) => h !== 'none'))
  $effect(() => {
    if (hold !== undefined && !holds.includes(hold)) hold = holds[0] ?? 'none'
  })
</script>

<Select id={`${id}-move`} labelText={loads.move} bind:selected={() => move, (v) => (move = String(v))}>
  {#each moves as m (m.id)}<SelectItem value={m.id} text={m.name} />{/each}
</Select>
{#if hold !== undefined}
  <Select id={`${id}-hold`} labelText={loads.hold} bind:selected={() => hold ?? '', (v) => (hold = v as Entry['hold'])}>
    {#each holds as h (h)}<SelectItem value={h} text={nameOf.hold[h]} />{/each}
  </Select>
{/if}
