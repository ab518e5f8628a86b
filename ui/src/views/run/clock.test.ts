import { describe, expect, it } from 'vitest'
import golden from '../../../../internal/core/cue/testdata/positions.json'
import { at, where, type Anchor, type Block } from './clock'

// The expected positions are the core's own, written by its tests.
describe('look-up', () => {
  it('says the same as the core', () => {
    for (const g of golden) {
      for (const p of g.Probes) {
        expect(where(g.Anchor as Anchor, g.Order.totalMs, p.T)).toEqual({ position: p.Position, wait: p.Wait })
      }
    }
  })
  it('finds the block that holds a position', () => {
    const blocks = golden[0]!.Order.blocks as Block[]
    for (const b of blocks) {
      expect(at(blocks, b.fromMs)).toBe(b)
      expect(at(blocks, b.untilMs - 1)).toBe(b)
    }
    expect(at(blocks, golden[0]!.Order.totalMs)).toBeUndefined()
  })
})
