<script lang="ts">
  // The class card on paper: every slot in words, one cue a box, all times in minutes
  // and seconds. On the screen the score says the same.
  import type { Cell, Circuit, Schemas } from '../../lib/api/client'
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
  const prep = $derived(plan.order.blocks.filter((b) => b.kind === 'prep'))
  const drills = $derived(
    prep.flatMap((b) => (b.drill ? [`${studio.move(b.drill)} ${clock(b.untilMs - b.fromMs)}`] : [])),
  )
  const close = $derived(plan.order.blocks.find((b) => b.kind === 'close'))
  const span = (list: { fromMs: number; untilMs: number }[]) => list.reduce((sum, b) => sum + b.untilMs - b.fromMs, 0)
  const round = $derived(span(plan.order.blocks.filter((b) => b.round === 1 && b.kind !== 'round-rest')))
  const cue = (move: string) => cues?.moves.find((c) => c.move === move)?.text ?? studio.moves.get(move)?.cue ?? ''
  const cell = (slot: number, party: string): Cell | undefined => plan.slots[slot]?.cells.find((c) => c.party === party)
  const cautions = $derived([...new Set(plan.slots.flatMap((s) => s.cells.flatMap((c) => c.cautions)))])
  const counted = (c: Cell) =>
    `${c.twoSides ? common.aSide(c.perSide) : common.inAll(c.perSide)} · ${c.entry.tempo}${c.entry.sides === 'both' ? '' : ` · ${nameOf.sides[c.entry.sides]}`}`
</script>

<div class="paper">
  <p>
    <b>{t.paperPrep(span(prep))}</b>
    {drills.join(', ')}
  </p>
  <p>
    <b>{t.paperRound(circuit.document.rounds, round, circuit.document.roundRestMs)}</b>
  </p>
  <table>
    <thead>
      <tr>
        <td></td>
        {#each lanes as l (l.party)}<th scope="col">{l.name}, {common.people(l.people)}</th>{/each}
      </tr>
    </thead>
    <tbody>
      {#each plan.slots as s, i (s.id)}
        <tr>
          <th scope="row">
            {i + 1}. {nameOf.pattern[s.pattern]}<br />
            <span
              >{i < plan.slots.length - 1 ? t.paperWork(s.workMs, s.restMs) : clock(s.workMs)}{(circuit.document.slots[
                i
              ]?.waves ?? 1) > 1
                ? ` · ${t.waves(circuit.document.slots[i]?.waves ?? 1)}`
                : ''}</span
            >
          </th>
          {#each lanes as l (l.party)}
            {@const c = cell(i, l.party)}
            <td>
              {#if c}
                <b>{studio.move(c.entry.variant)}</b><br />
                {studio.packing(c.entry.load, circuit.items)}{c.entry.load.kind === 'none'
                  ? ''
                  : `, ${nameOf.hold[c.entry.hold]}`}<br />
                {counted(c)}<br />
                <i>{cue(c.entry.variant)}</i>
              {/if}
            </td>
          {/each}
        </tr>
      {/each}
    </tbody>
  </table>
  {#if close}<p><b>{t.paperClose(close.untilMs - close.fromMs)}</b></p>{/if}
  {#if cautions.length > 0}
    <ul>
      {#each cautions as x (x)}<li>{x}</li>{/each}
    </ul>
  {/if}
  <p>{movesTexts.stopAlways}</p>
</div>
