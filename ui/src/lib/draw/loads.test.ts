import { fireEvent, render } from '@testing-library/svelte'
import { describe, expect, it } from 'vitest'
import type { Schemas } from '../api/client'
import Checks from '../parts/Checks.svelte'
import { studio } from '../state/studio.svelte'
import { loads } from '../text/gen/loads'
import { nameOf } from '../text/names'
import Rule from './Rule.svelte'
import Steps from './Steps.svelte'

// jsdom lays nothing out and watches no sizes: the rule keeps the width it begins with.
class NoSizes implements ResizeObserver {
  observe(): void {
    // nothing ever changes
  }
  unobserve(): void {
    // nothing was observed
  }
  disconnect(): void {
    // nothing was observed
  }
}
globalThis.ResizeObserver ??= NoSizes

const items: Schemas['Item'][] = [
  { id: 'kb', name: 'Bell', kind: 'kettlebell', mass: { decimal: '16', unit: 'kg', whole: 16_000 } },
  { id: 'can', name: 'Water can', kind: 'object' },
  { id: 'bag', name: 'Rucksack', kind: 'container' },
]
const made: Schemas['Load'] = { kind: 'made', container: 'bag', parts: [{ id: 'can', fillsG: [5000, 2800] }] }

describe('the load rule as a slider', () => {
  const mark = (totalG: number, load: Schemas['Load']) => ({ load, hold: 'goblet' as const, totalG })
  const rule: Schemas['LoadRule'] = {
    bodyG: 70_000,
    maxBagG: 20_000,
    marks: [mark(8000, made), mark(9000, made), mark(16_000, { kind: 'implement', item: 'kb', count: 1 })],
    gaps: [
      { fromG: 8000, toG: 9000, ironPct: 12.5, resistancePct: 1.4, ironAlone: false, allowed: true },
      { fromG: 9000, toG: 16_000, ironPct: 77.8, resistancePct: 9.9, ironAlone: false, allowed: false },
    ],
  }
  it('goes from load to load by key and says what each is', async () => {
    const { getByRole, container } = render(Rule, {
      rule,
      at: 0,
      say: (m: Schemas['RuleMark']) => studio.packing(m.load, items),
    })
    const slider = getByRole('slider')
    expect(slider.getAttribute('aria-valuetext')).toBe('8 kg: Rucksack: 2 × Water can, with 5 kg and 2.8 kg in them')
    await fireEvent.keyDown(slider, { key: 'End' })
    expect(slider.getAttribute('aria-valuetext')).toBe('16 kg: Bell, 16 kg')
    await fireEvent.keyDown(slider, { key: 'ArrowRight' })
    expect(slider.getAttribute('aria-valuenow')).toBe('2')
    await fireEvent.keyDown(slider, { key: 'ArrowLeft' })
    expect(slider.getAttribute('aria-valuenow')).toBe('1')
    await fireEvent.keyDown(slider, { key: 'PageDown' })
    expect(slider.getAttribute('aria-valuenow')).toBe('0')
    expect(container.querySelectorAll('.block').length).toBe(1)
    expect(container.querySelectorAll('.made').length).toBe(2)
    expect(container.querySelectorAll('.hatched').length).toBe(2)
  })
})

describe('a bridge as steps', () => {
  it('names each week, its load and what it is packed with', () => {
    const week = (n: number, loadG: number, reps: number, by: Schemas['BridgeWeek']['by'], madeG: number) => ({
      ...{ week: n, loadG, sets: 3, blend: null, reps, by, madeG, tempo: '2-0-2-0', move: 'goblet-squat' },
      ...(madeG > 0 ? { load: made } : {}),
    })
    const bridge = {
      ...{ fromG: 8000, toG: 12_000, ready: false, predictedReps: 11, ironPct: 50, resistancePct: 5.8 },
      ...{ ironAlone: false, allowed: false, why: { code: 'bridge-needed', source: 'house' } },
      reached: true,
      weeks: [
        week(1, 8000, 11, 'reps', 8000),
        { ...week(2, 8000, 10, 'blend', 8000), blend: { sets: 1, loadG: 12_000, reps: 4 } },
        week(3, 12_000, 8, 'load', 11_980),
        week(4, 14_000, 8, 'load', 0),
      ],
    } as Schemas['BridgeAnswer']
    const { getAllByRole, getByRole } = render(Steps, { bridge, items, move: 'goblet-squat' })
    expect(getByRole('list').getAttribute('aria-label')).toBe('From 8 kg to 12 kg in 4 weeks')
    const text = getAllByRole('listitem').map((x) => x.textContent.replace(/\s+/g, ' ').trim())
    expect(text[0]).toContain('week 1 3 × 11 with 8 kg more repetitions')
    expect(text[0]).not.toContain('8.000')
    expect(text[1]).toContain('1 × 4 with 12 kg 2 × 10 with 8 kg')
    expect(text[2]).toContain('(11.980 kg)')
    expect(text[3]).toContain(loads.bridge.missing)
  })
})

describe('what is looked at before use', () => {
  it('is a box to tick for each, with its reason; nothing for nothing', () => {
    const { getAllByRole } = render(Checks, { id: 'x', what: Object.keys(nameOf.check) })
    expect(getAllByRole('checkbox').length).toBe(10)
    const none = render(Checks, { id: 'y', what: [] })
    expect(none.container.querySelector('fieldset')).toBeNull()
  })
  it('has a short name for a table', () => {
    expect(nameOf.checkShort.closure).toBe('the closure')
    expect(nameOf.changed.iron).toBe('iron in the hand')
    expect(nameOf.changed.grip).toBe('grip')
  })
})
