// A rehearsal in time: what is in hand when. Looks up what the core has dealt, and nothing else.
import type { Schemas } from '../api/client'

type Rehearsal = Schemas['Rehearsal']
type Hands = Rehearsal['hands'][number]

/** What is in hand in a stretch of the class; nothing where nobody works. */
function handsOf(r: Rehearsal, s: Rehearsal['stretches'][number]): Hands | undefined {
  if (s.kind !== 'work') return undefined
  return r.hands.find(
    (h) =>
      h.block === s.block &&
      (h.slot ? h.slot === s.slot && (h.wave ?? 1) === (s.wave ?? 1) : (h.turn ?? 1) === (s.turn ?? 1)),
  )
}

/** The stretch that an instant is in, with what is in hand. */
export function handsAt(
  r: Rehearsal,
  ms: number,
): (Hands & { fromMs: number; untilMs: number; round: number }) | undefined {
  const s = r.stretches.find((x) => x.fromMs <= ms && ms < x.untilMs)
  const h = s && handsOf(r, s)
  return s && h
    ? { ...h, slot: h.slot ?? s.slot ?? '', fromMs: s.fromMs, untilMs: s.untilMs, round: s.round ?? 0 }
    : undefined
}

/** How many pieces of a thing are in hand through the class; of no thing, how many people wait. */
export function bars(r: Rehearsal, item: string): { fromMs: number; untilMs: number; n: number }[] {
  return r.stretches.flatMap((s) => {
    const h = handsOf(r, s)
    const n = !h
      ? 0
      : item === ''
        ? h.waits.length
        : h.holds.reduce((sum, x) => sum + (x.items.find((i) => i.item === item)?.n ?? 0), 0)
    return n > 0 ? [{ fromMs: s.fromMs, untilMs: s.untilMs, n }] : []
  })
}
