import { describe, expect, it } from 'vitest'
import golden from '../../../../internal/core/cue/testdata/positions.json'
import { at, press, where, type Anchor, type Stretch, type Keys, type Pressed } from './clock'

const total = golden.Order.totalMs
const keys = { effects: golden.Effects, leaps: golden.Leaps, goOnMs: golden.GoOnMs } as Keys

// Every expected value is the core's own, written by its tests.
describe('look-up', () => {
  it('says where the class is as the core does', () => {
    for (const stage of golden.Runs.flat())
      for (const p of stage.Probes)
        expect(where(stage.Anchor as Anchor, total, p.T)).toEqual({ position: p.Position, wait: p.Wait })
  })
  it('does with every press what the core does', () => {
    let presses = 0
    for (const run of golden.Runs)
      run.forEach((stage, i) => {
        if (!stage.Event) return
        presses++
        const e = { kind: stage.Event.Kind, atMs: stage.Event.At, ms: stage.Event.Ms } as Pressed
        expect(press(keys, total, run[i - 1]!.Anchor as Anchor, e)).toEqual(stage.Anchor)
      })
    expect(presses).toBeGreaterThan(20)
  })
  it('finds the block that holds a position', () => {
    const blocks = golden.Order.stretches as Stretch[]
    for (const b of blocks) {
      expect(at(blocks, b.fromMs)).toBe(b)
      expect(at(blocks, b.untilMs - 1)).toBe(b)
    }
    expect(at(blocks, total)).toBeUndefined()
  })
})
