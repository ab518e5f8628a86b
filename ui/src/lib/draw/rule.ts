// Geometry of the load rule: grams to pixels, and nothing else.
import { scaleLinear } from 'd3-scale'
import type { Schemas } from '../api/client'
import type { MassUnit } from '../text/format'

const gramsPer: Record<MassUnit, number> = { kg: 1000, lb: 453.59237 }

export interface Rule {
  x: (grams: number) => number
  /** Ticks in the reader's unit: every whole one, named where there is room. */
  ticks: { x: number; label: string; long: boolean }[]
}

/** A rule over all marks on a width, its ends on whole units. */
export function ruler(marks: Schemas['RuleMark'][], width: number, unit: MassUnit): Rule {
  const per = gramsPer[unit]
  const low = Math.floor((marks[0]?.totalG ?? 0) / per)
  const high = Math.max(Math.ceil((marks.at(-1)?.totalG ?? per) / per), low + 1)
  const scale = scaleLinear([low * per, high * per], [16, width - 16])
  const each = (scale((low + 1) * per) ?? 0) - (scale(low * per) ?? 0)
  const named = [1, 2, 5, 10, 20].find((n) => n * each >= 40) ?? 50
  const ticks = Array.from({ length: high - low + 1 }, (_, i) => {
    const n = low + i
    return { x: scale(n * per), label: n % named === 0 ? String(n) : '', long: n % named === 0 }
  })
  return { x: (g) => scale(g), ticks }
}

/** The mark nearest to a place on the rule. */
export function nearest(marks: Schemas['RuleMark'][], x: (grams: number) => number, at: number): number {
  let best = 0
  marks.forEach((m, i) => {
    if (Math.abs(x(m.totalG) - at) < Math.abs(x(marks[best]?.totalG ?? 0) - at)) best = i
  })
  return best
}
