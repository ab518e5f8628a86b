import { render } from '@testing-library/svelte'
import { describe, expect, it } from 'vitest'
import type { Circuit, Plan } from '../api/client'
import Balance from './Balance.svelte'
import { lines, outlines, sections, strip } from './score'

// Ten seconds lead-in, two slots of 40 s with 20 s between, 60 s between two
// rounds, 30 s to close: 390 s in a class of 400 s.
const at = (fromMs: number, untilMs: number, kind: string, round = 0, slot = '') => ({
  fromMs,
  untilMs,
  kind,
  round,
  slot,
})
const plan = {
  totalMs: 390_000,
  classMs: 400_000,
  slots: [{ id: 'a' }, { id: 'b' }],
  order: {
    stretches: [
      at(0, 10_000, 'lead-in'),
      at(10_000, 50_000, 'work', 1, 'a'),
      at(50_000, 70_000, 'rest', 1, 'b'),
      at(70_000, 110_000, 'work', 1, 'b'),
      at(110_000, 170_000, 'round-rest', 1, 'a'),
      at(170_000, 210_000, 'work', 2, 'a'),
      at(210_000, 230_000, 'rest', 2, 'b'),
      at(230_000, 270_000, 'work', 2, 'b'),
      at(270_000, 390_000, 'close'),
    ],
  },
} as unknown as Plan

const px = (x: number) => Math.round(x * 1e6) / 1e6

describe('the score', () => {
  it('gives every block the place and width of its seconds', () => {
    const blocks = strip(plan, 800) // 2 px a second
    expect(blocks.map((b) => [px(b.x), px(b.width)])).toEqual([
      [0, 20],
      [20, 80],
      [100, 40],
      [140, 80],
      [220, 120],
      [340, 80],
      [420, 40],
      [460, 80],
      [540, 240],
    ])
    expect(outlines(blocks.slice(3, 7))).toEqual([
      { kind: 'work', d: `M${blocks[3]!.x} 0h${blocks[3]!.width}v22h${-blocks[3]!.width}zM340 0h80v22h-80z` },
      { kind: 'round-rest', d: expect.any(String) as string },
      { kind: 'rest', d: expect.any(String) as string },
    ])
  })
  it('lays blocks side by side, each slot as wide as its seconds in its block', () => {
    const slot = (id: string, slotMs: number, restMs: number) => ({ id, slotMs, restMs })
    const circuit = {
      document: {
        blocks: [
          { id: 'b1', auto: true, slots: [] },
          { id: 'b2', slots: [{ id: 'a' }, { id: 'b' }] },
          { id: 'b3', slots: [{ id: 'c' }] },
        ],
      },
      plan: { slots: [slot('a', 40_000, 20_000), slot('b', 40_000, 0), slot('c', 30_000, 0)] },
    } as unknown as Circuit
    // Two slots of 40 s with 20 s between ask 80 x 100 / 40 = 200 px, one of 30 s 80: with 40
    // for the block that times itself and 2 x 16 between there are 352 at the least.
    const least = sections(circuit, 100, 80)
    expect(least.map((s) => [s.id, s.x, s.width])).toEqual([
      ['b1', 0, 40],
      ['b2', 56, 200],
      ['b3', 272, 80],
    ])
    expect(least[1]!.slots.map((s) => [s.id, s.at, s.x, s.width, s.restWidth])).toEqual([
      ['a', 0, 56, 80, 40],
      ['b', 1, 176, 80, 0],
    ])
    const wide = sections(circuit, 632, 80) // 280 px are doubled
    expect(wide.map((s) => s.width)).toEqual([40, 400, 160])
    expect(wide.at(-1)!.x + wide.at(-1)!.width).toBe(632)
  })
  it('breaks names at words and says when something is left out', () => {
    expect(lines('Hantelkreuzheben einbeinig', 10, 3)).toEqual(['Hantelkre-', 'uzheben', 'einbeinig'])
    expect(lines('Ganz-besonders breit', 9, 3)).toEqual(['Ganz-', 'besonders', 'breit'])
    expect(lines('Free squat', 20, 3)).toEqual(['Free squat'])
    expect(lines('Goblet squat, slow and paused', 13, 3)).toEqual(['Goblet squat,', 'slow and', 'paused'])
    expect(lines('Single-leg floor bridge, free leg level', 10, 2)).toEqual(['Single-leg', 'floor …'])
  })
})

describe('the balance beam', () => {
  it('draws a weight for each slot, tips to the heavier side and says it in words', () => {
    const { container } = render(Balance, {
      beams: [
        { left: 'push', right: 'pull', leftN: 2, rightN: 2, uneven: false },
        { left: 'straight', right: 'sideways', leftN: 3, rightN: 0, uneven: true },
      ],
    })
    const [even, tipped] = [...container.querySelectorAll('svg')]
    expect(even?.querySelectorAll('.weight').length).toBe(4)
    expect(even?.querySelector('g')?.getAttribute('transform')).toBe('rotate(0 104 30)')
    expect(tipped?.querySelector('g')?.getAttribute('transform')).toBe('rotate(-6 104 30)')
    expect(tipped?.getAttribute('aria-label')).toBe('straight 3, side, turning 0')
  })
})
