// Where the class is: the anchor from the server, moved on by this machine's
// steady clock, and look-up. No rule of the job is here.
import { api, ask, type Schemas } from '../../lib/api/client'

export type Anchor = Schemas['Anchor']
export type Order = Schemas['Order']
export type Event = Schemas['Event']
export type Block = Schemas['Block']

export interface Where {
  position: number
  /** What is left of an added wait. */
  wait: number
}

/** The position at a server instant: as given, plus what has passed if moving. */
export function where(a: Anchor, totalMs: number, nowMs: number): Where {
  if (a.state !== 'moving') return { position: a.positionMs, wait: a.waitMs }
  if (nowMs < a.atMs) return { position: a.positionMs, wait: a.atMs - nowMs }
  return { position: Math.min(a.positionMs + nowMs - a.atMs, totalMs), wait: 0 }
}

/** The stretch that holds a position, or none after the end. */
export function at<T extends { fromMs: number; untilMs: number }>(list: T[], position: number): T | undefined {
  let low = 0
  let high = list.length
  while (low < high) {
    const mid = (low + high) >> 1
    if (list[mid]!.untilMs > position) high = mid
    else low = mid + 1
  }
  return list[low]
}

const tries = 5

/** How far the server's clock is from performance.now(), by the quickest of a few round trips. */
export async function measureOffset(): Promise<number | undefined> {
  let best = Infinity
  let offset: number | undefined
  for (let i = 0; i < tries; i++) {
    const sent = performance.now()
    const { data } = await ask(api.GET('/api/clock'))
    const back = performance.now()
    if (data && back - sent < best) {
      best = back - sent
      offset = data.nowMs - (sent + back) / 2
    }
  }
  return offset
}
