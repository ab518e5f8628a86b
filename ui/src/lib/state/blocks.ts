// The blocks of a plan: where a slot stands, and how a block's scheme and a dose are said.
import type { Cell, Circuit, Document, Schemas } from '../api/client'
import { clock } from '../text/format'
import { circuit as t } from '../text/gen/circuit'
import { nameOf } from '../text/names'

export type Block = Document['blocks'][number]
export type Slot = Block['slots'][number]
export type Scheme = Schemas['Scheme']

export const slotsOf = (d: Document): Slot[] => d.blocks.flatMap((b) => b.slots)

/** The block that a slot stands in. */
export const blockOf = (d: Document, slot: string): Block | undefined =>
  d.blocks.find((b) => b.slots.some((s) => s.id === slot))

/** The block that is edited where none is chosen: the first that the class is trained by. */
export const mainBlock = (d: Document): Block | undefined =>
  d.blocks.find((b) => b.kind === 'work' && !b.auto) ?? d.blocks.find((b) => !b.auto)

/** How a scheme goes, in a line. */
export function schemeText(s: Scheme): string {
  const said = t.block.said
  if (s.circuit) {
    const { format, rounds, workMs, restMs } = s.circuit
    return format === 'timed' ? said.timed(rounds, workMs, restMs) : said.reps(rounds, restMs)
  }
  if (s.sets) return said.sets(s.sets.sets, s.sets.restMs)
  if (s.superset) return said.superset(s.superset.rounds, s.superset.restMs)
  if (s.chain) return said.chain(s.chain.rounds, s.chain.sides)
  if (s.interval) return said.interval(s.interval.sets, s.interval.everyMs)
  if (s.window) return said.window(s.window.windowMs)
  if (s.ladder) return said.ladder(s.ladder.rungs.join(' '), s.ladder.restMs)
  if (s.drop) return said.drop(s.drop.changeMs)
  if (s.called) return said.called(s.called.calledMs, s.called.everyMs)
  return ''
}

/** What a block is for and by which scheme, in a few words. */
export const blockTitle = (b: { kind: Block['kind']; scheme?: Pick<Scheme, 'kind'> | undefined }): string =>
  b.scheme && (b.kind !== 'work' || b.scheme.kind !== 'circuit')
    ? `${nameOf.blockKind[b.kind]}: ${nameOf.scheme[b.scheme.kind]}`
    : nameOf.blockKind[b.kind]

/** How long a block takes, about where what is done until few are left is only reckoned. */
export const blockTime = (p: Schemas['BlockPlan']): string =>
  p.about ? `${t.block.about} ${clock(p.totalMs)}` : clock(p.totalMs)

/** A range of counts. */
export const range = (low: number, high: number): string => t.dose.range(low === high ? undefined : low, high)

/** How much a set is: what fits by the clock, else the dose. */
export function doseText(c: Cell, byClock: boolean): string {
  const d = c.entry.dose
  if (byClock) return c.twoSides ? t.dose.aSide(String(c.perSide)) : t.dose.times(String(c.perSide))
  if (d.kind === 'seconds') {
    const text = clock(d.ms ?? 0)
    return c.twoSides ? t.dose.aSide(text) : text
  }
  const n = range(d.low ?? 0, d.high ?? 0)
  const said = d.kind === 'to-failure' ? t.dose.failure(n) : d.kind === 'units' ? t.dose.units(n) : n
  if (d.inAll) return t.dose.all(said)
  return c.twoSides ? t.dose.aSide(said) : d.kind === 'count' ? t.dose.times(said) : said
}

/** Whether the sets of a block go by the clock. */
export const byClock = (b: { scheme?: Scheme | undefined } | undefined): boolean =>
  b?.scheme?.circuit?.format === 'timed'

/** How much each party does, as far as there is something to count. */
export const counted = (c: Circuit): Schemas['Total'][] => c.plan.totals.filter((x) => x.count.high > 0)
