<script lang="ts">
  // The class card on paper: every slot in words, one cue a box, all times in minutes
  // and seconds. On the screen the score says the same.
  import type { Cell, Circuit, Schemas } from '../../lib/api/client'
  import { blockTitle, byClock, doseText, schemeText, type Block } from '../../lib/state/blocks'
  import { parties } from '../../lib/state/parties'
  import { studio } from '../../lib/state/studio.svelte'
  import { clock } from '../../lib/text/format'
  import { circuit as t } from '../../lib/text/gen/circuit'
  import { common } from '../../lib/text/gen/common'
  import { moves as movesTexts } from '../../lib/text/gen/moves'
  import { nameOf } from '../../lib/text/names'

  interface Props {
    circuit: Circuit
    cues: Schemas['CueQueue'] | undefined
  }
  let { circuit, cues }: Props = $props()
  const plan = $derived(circuit.plan)
  const lanes = $derived(parties(circuit.occurrence, plan.slots))
  const span = (list: { fromMs: number; untilMs: number }[]) => list.reduce((sum, b) => sum + b.untilMs - b.fromMs, 0)
  const drills = (block: string) =>
    plan.order.stretches
      .filter((x) => x.block === block && x.drill)
      .map((x) => `${studio.move(x.drill ?? '')} ${clock(x.untilMs - x.fromMs)}`)
  const long = (block: string) => span(plan.order.stretches.filter((x) => x.block === block && x.kind !== 'pause'))
  const cue = (move: string) => cues?.moves.find((c) => c.move === move)?.text ?? studio.moves.get(move)?.cue ?? ''
  const cell = (slot: string, party: string): Cell | undefined =>
    plan.slots.find((s) => s.id === slot)?.cells.find((c) => c.party === party)
  const cautions = $derived([...new Set(plan.slots.flatMap((s) => s.cells.flatMap((c) => c.cautions)))])
  const counted = (c: Cell, b: Block) =>
    [
      doseText(c, byClock(b)),
      c.entry.tempo ?? '',
      c.entry.sides === 'both' ? '' : nameOf.sides[c.entry.sides],
      c.twoSides && c.entry.first ? t.totals.part(t.dose.first, nameOf.side[c.entry.first]) : '',
    ]
      .filter(Boolean)
      .join(' · ')
</script>

<div class="paper">
  {#each circuit.document.blocks as b, bi (b.id)}
    {@const bp = plan.blocks[bi]}
    {#if bp && bp.totalMs > 0}
      <p>
        <b
          >{b.scheme
            ? t.paperBlock(blockTitle(b), schemeText(b.scheme), bp.totalMs)
            : b.kind === 'close'
              ? t.paperClose(long(b.id))
              : b.kind === 'prep'
                ? t.paperPrep(long(b.id))
                : t.block.auto(nameOf.blockKind[b.kind], bp.totalMs)}</b
        >
        {drills(b.id).join(', ')}
        {bp.afterMs > 0 ? t.paperAfter(bp.afterMs) : ''}
      </p>
    {/if}
    {#if b.slots.length > 0}
      <table>
        <thead>
          <tr>
            <td></td>
            {#each lanes as l (l.party)}<th scope="col">{l.name}, {common.people(l.people)}</th>{/each}
          </tr>
        </thead>
        <tbody>
          {#each b.slots as doc, i (doc.id)}
            {@const s = plan.slots.find((x) => x.id === doc.id)}
            {#if s}
              <tr>
                <th scope="row">
                  {i + 1}. {nameOf.pattern[s.pattern]}<br />
                  <span
                    >{i < b.slots.length - 1 && s.restMs > 0
                      ? t.paperWork(s.workMs, s.restMs)
                      : clock(s.workMs)}{doc.waves > 1 ? ` · ${t.waves(doc.waves)}` : ''}</span
                  >
                </th>
                {#each lanes as l (l.party)}
                  {@const c = cell(s.id, l.party)}
                  <td>
                    {#if c}
                      <b>{studio.move(c.entry.variant)}</b><br />
                      {studio.packing(c.entry.load, circuit.items)}{c.entry.load.kind === 'none'
                        ? ''
                        : `, ${nameOf.hold[c.entry.hold]}`}<br />
                      {counted(c, b)}<br />
                      <i>{cue(c.entry.variant)}</i>
                    {/if}
                  </td>
                {/each}
              </tr>
            {/if}
          {/each}
        </tbody>
      </table>
    {/if}
  {/each}
  {#if cautions.length > 0}
    <ul>
      {#each cautions as x (x)}<li>{x}</li>{/each}
    </ul>
  {/if}
  <p>{movesTexts.stopAlways}</p>
</div>
