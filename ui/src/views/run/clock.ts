// Where the class is: the anchor from the server, moved on by a steady clock,
// and look-up in what the server sent. No rule of the job is here.
import type { Schemas } from '../../lib/api/client'

export type Anchor = Schemas['Anchor']
export type Order = Schemas['Order']
export type Event = Schemas['Event']
export type Stretch = Schemas['Stretch']
export type Wait = Schemas['Wait']
export type Keys = Schemas['RunKeys']
export type Pressed = Pick<Schemas['Press'], 'kind' | 'ms'> & { atMs: number }

export interface Where {
  position: number
  /** What is left of an added wait. */
  wait: number
}

/** The position at a server instant: as given, plus what has passed if moving. */
export function where(a: Anchor, totalMs: number, nowMs: number): Where {
  const { position, wait } = whereAll(a, totalMs, nowMs)
  return { position, wait }
}

/** The same, with the waits that are still to come then. */
function whereAll(a: Anchor, totalMs: number, nowMs: number): Where & { later: Wait[] } {
  const later = a.later ?? []
  if (a.state !== 'moving') return { position: a.positionMs, wait: a.waitMs, later }
  if (nowMs < a.atMs) return { position: a.positionMs, wait: a.atMs - nowMs, later }
  let position = a.positionMs + nowMs - a.atMs
  for (const [i, w] of later.entries()) {
    const past = position - w.atMs
    if (past <= 0) return { position, wait: 0, later: later.slice(i) }
    if (past < w.ms) return { position: w.atMs, wait: w.ms - past, later: later.slice(i + 1) }
    position -= w.ms
  }
  return { position: Math.min(position, totalMs), wait: 0, later: [] }
}

/** The stretch that holds a position, or none after the end. */
export function at<T extends { untilMs: number }>(list: T[], position: number): T | undefined {
  let low = 0
  let high = list.length
  while (low < high) {
    const mid = (low + high) >> 1
    if (list[mid]!.untilMs > position) high = mid
    else low = mid + 1
  }
  return list[low]
}

/** Looks a press up in the server's table: what it does until the server has counted it. */
export function press(keys: Keys, totalMs: number, a: Anchor, e: Pressed): Anchor {
  const { position, wait, later } = whereAll(a, totalMs, e.atMs)
  const state = a.state === 'moving' && position >= totalMs ? 'over' : a.state
  if (state === 'ended' && e.atMs - a.atMs > keys.goOnMs) return a
  const f = keys.effects.find((x) => x.state === state && x.kind === e.kind)
  if (!f) return a
  const leap = at(keys.leaps, position)!
  const positionMs = f.place === 'after' ? leap.afterMs : f.place === 'before' ? leap.beforeMs : position
  const added = f.wait === 'add' ? Math.max(e.ms ?? 0, 0) : 0
  const shared = leap.shareMs > 0 ? Math.floor(added / 2) : 0
  const left = f.wait === 'drop' ? 0 : wait + added - shared
  const still = f.wait === 'drop' ? [] : shared > 0 ? [{ atMs: leap.shareMs, ms: shared }, ...later] : later
  const waits = still.length > 0 ? { later: still } : {}
  return f.next === 'moving'
    ? { state: 'moving', positionMs, atMs: e.atMs + left, waitMs: 0, ...waits }
    : { state: f.next, positionMs, atMs: e.atMs, waitMs: left, ...waits }
}
