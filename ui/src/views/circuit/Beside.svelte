<script lang="ts">
  // Two sessions side by side: what is alike stands in one row, what differs is said.
  import { api, asking, type Circuit, type Problem as ProblemType, type Schemas } from '../../lib/api/client'
  import Problem from '../../lib/parts/Problem.svelte'
  import { blockTime, blockTitle, byClock, doseText, schemeText } from '../../lib/state/blocks'
  import { studio } from '../../lib/state/studio.svelte'
  import { when } from '../../lib/text/dates'
  import { clock } from '../../lib/text/format'
  import { circuit as t } from '../../lib/text/gen/circuit'
  import { nameOf } from '../../lib/text/names'

  interface Props {
    left: string
    right: string
    /** Of the left one: asked anew when it is another. */
    version: number
  }
  let { left, right, version }: Props = $props()
  const s = t.sessions
  let beside = $state.raw<Schemas['Compared']>()
  let problem = $state<ProblemType>()
  $effect(() => {
    void version
    const params = { path: { circuit: left, other: right } }
    return asking(
      (signal) => api.GET('/api/circuits/{circuit}/beside/{other}', { params, signal }),
      (a) => {
        beside = a.data
        problem = a.problem
      },
    )
  })
  const block = (c: Circuit, id: string | undefined) => c.document.blocks.find((b) => b.id === id)
  const time = (c: Circuit, id: string | undefined) => c.plan.blocks.find((b) => b.id === id)
  const fields = (r: Schemas['BesideRow']) => [...new Set(r.differs.map((d) => nameOf.differs[d.field]))].join(', ')
</script>

{#snippet side(c: Circuit, blockId: string | undefined, slotId: string | undefined, of: Schemas['BesideRow'])}
  {@const b = block(c, blockId)}
  {#if slotId}
    {@const slot = c.plan.slots.find((x) => x.id === slotId)}
    {#each slot?.cells ?? [] as x (x.party)}
      <span class="line"
        >{(slot?.cells.length ?? 0) > 1 ? `${nameOf.lane[x.lane]}: ` : ''}{studio.move(x.entry.variant)}{x.entry.load
          .kind === 'none'
          ? ''
          : `, ${studio.loadText(x.entry.load, x.loadG, c.items)}`}, {doseText(x, byClock(b))}</span
      >
    {/each}
  {:else if b && !of.leftSlot && !of.rightSlot}
    {@const p = time(c, b.id)}
    <b>{blockTitle(b)}</b>
    {b.scheme ? schemeText(b.scheme) : ''}
    {p ? blockTime(p) : ''}
  {:else}<span class="muted">{s.only}</span>{/if}
{/snippet}

{#if problem}<Problem {problem} />{/if}
{#if beside}
  {@const two = beside}
  <table id="beside">
    <thead>
      <tr>
        <th scope="col">{s.here}: {two.left.occurrence.name}, {clock(two.left.plan.totalMs)}</th>
        <th scope="col"
          >{s.other}: {two.right.occurrence.name}, {when(two.right.occurrence.startMs, two.right.occurrence.timeZone)}, {clock(
            two.right.plan.totalMs,
          )}</th
        >
        <td></td>
      </tr>
    </thead>
    <tbody>
      {#each two.rows as r, i (i)}
        <tr class:head={!r.leftSlot && !r.rightSlot}>
          <td>{@render side(two.left, r.leftBlock, r.leftSlot, r)}</td>
          <td>{@render side(two.right, r.rightBlock, r.rightSlot, r)}</td>
          <td class={r.differs.length > 0 ? 'ember' : 'muted'}
            >{r.differs.length > 0 ? s.differs(fields(r)) : r.leftBlock && r.rightBlock ? s.same : ''}</td
          >
        </tr>
      {/each}
    </tbody>
  </table>
{/if}

<style>
  table {
    width: 100%;
    border-collapse: collapse;
    margin: 10px 0;
  }
  td,
  th {
    text-align: left;
    vertical-align: top;
    padding: 6px 10px 6px 0;
    border-top: 1px solid var(--line);
    width: 42%;
  }
  td:last-child {
    width: 16%;
  }
  .line {
    display: block;
  }
</style>
