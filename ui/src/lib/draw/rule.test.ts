import { describe, expect, it } from 'vitest'
import type { Schemas } from '../api/client'
import { nearest, ruler } from './rule'

const mark = (totalG: number): Schemas['RuleMark'] => ({ load: { kind: 'implement' }, hold: 'goblet', totalG })

describe('the load rule', () => {
  // 4 to 20 kg on 1032 px: 16 units on 1000 px, 62.5 px each.
  it('lays loads out in proportion, its ends on whole units', () => {
    const marks = [mark(4000), mark(8000), mark(20_000)]
    const r = ruler(marks, 1032, 'kg')
    expect(marks.map((m) => r.x(m.totalG))).toEqual([16, 266, 1016])
    expect(r.ticks.length).toBe(17)
    expect(r.ticks.at(-1)).toEqual({ x: 1016, label: '20', long: true })
  })
  // 8.8 to 44.1 lb: 8 to 45, 37 units on 300 px, 8.1 px each, every fifth is named.
  it('names only as many as there is room for, in the unit of the reader', () => {
    const r = ruler([mark(4000), mark(20_000)], 332, 'lb')
    expect(r.ticks.filter((t) => t.label !== '').map((t) => t.label)).toEqual([
      '10',
      '15',
      '20',
      '25',
      '30',
      '35',
      '40',
      '45',
    ])
  })
  it('finds the mark nearest to a finger', () => {
    const marks = [mark(4000), mark(8000), mark(20_000)]
    const r = ruler(marks, 1032, 'kg')
    expect([0, 140, 142, 640, 642, 2000].map((x) => nearest(marks, r.x, x))).toEqual([0, 0, 1, 1, 2, 2])
  })
  it('stands on its own with nothing on it', () => {
    expect(ruler([], 100, 'kg').ticks.length).toBeGreaterThan(1)
  })
})
