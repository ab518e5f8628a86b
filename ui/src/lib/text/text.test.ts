import { afterEach, describe, expect, it, vi } from 'vitest'
import { nameOf, limit, painJoints } from './names'
import contract from '../../../../docs/formats/openapi.json'
import table from '../../../../internal/core/kit/data/household.json'
import type { Quantity, Why } from '../api/client'
import { day, timeOfDay, when } from './dates'
import { asTyped, clock, mass, percent, span, typedLength, typedMass } from './format'
import { whyText } from './why'

afterEach(() => localStorage.clear())

const q = (decimal: string, unit: Quantity['unit'], whole: number): Quantity => ({ decimal, unit, whole })

describe('quantities', () => {
  // 1 lb = 453.59237 g (NIST SP 811): 16 kg = 35.27 lb, 35 lb = 15.876 kg.
  it('shows what was typed in its own unit and converts the rest', () => {
    expect(typedMass(q('16', 'kg', 16_000), 'kg')).toBe('16 kg')
    expect(typedMass(q('16', 'kg', 16_000), 'lb')).toBe('35.3 lb')
    expect(typedMass(q('35', 'lb', 15_876), 'kg')).toBe('15.9 kg')
    expect(typedMass(q('24', 'lb-oz', 680), 'lb')).toBe('1 lb 8 oz')
    expect(asTyped(q('24', 'lb-oz', 680))).toBe('1 lb 8 oz')
    expect(typedLength(q('43', 'cm', 430), 'lb')).toBe('16.9 in')
    expect(mass(9999, 'kg')).toBe('10 kg')
    expect(mass(455, 'kg')).toBe('0.46 kg')
    expect(mass(1005, 'kg')).toBe('1.01 kg') // half away from zero, which 1.005 in binary is not
  })
  it('writes times, days and per cents', () => {
    expect([clock(2_673_000), clock(0), clock(3_600_000)]).toEqual(['44:33', '0:00', '1:00:00'])
    expect([span(17_500), span(40_000)]).toEqual(['17.5 s', '40 s'])
    expect([percent(3.9), percent(-12), percent(0), percent(-0.01)]).toEqual(['+3.9 %', '−12 %', '0 %', '0 %'])
    // 29 March 2026 is a Sunday, on which clocks in Berlin went from 2 to 3.
    expect(day('2026-03-29')).toBe('Sun 29 Mar')
    expect(when(Date.UTC(2026, 2, 29, 1), 'Europe/Berlin')).toBe('Sun 29 Mar, 03:00')
    expect(timeOfDay(Date.UTC(2026, 2, 29, 22), 'Europe/Berlin')).toBe('00:00')
  })
})

describe('golden texts', () => {
  interface Golden {
    language: string
    key: string
    unit?: string
    args?: unknown[]
    why?: Why
    text: string
  }
  const golden = Object.values(
    import.meta.glob<Golden[]>('../../../../internal/texts/testdata/golden.json', { eager: true, import: 'default' }),
  ).flat()
  const sections = import.meta.glob<Record<string, unknown>>('./gen/*.ts')
  const names = (unit: 'kg' | 'lb') => ({
    unit,
    move: (id: string) => `move ${id}`,
    item: (id: string) => `item ${id}`,
    who: (id: string) => `person ${id}`,
  })
  it.each(['en', 'en-XA'])('are those of the program, byte for byte: %s', async (language) => {
    // The page reads its language once.
    localStorage.setItem('language', language)
    vi.resetModules()
    const { whyText } = await import('./why')
    const texts: Record<string, unknown> = {}
    for (const load of Object.values(sections)) Object.assign(texts, await load())
    const wrong: string[] = []
    const mine = golden.filter((g) => g.language === language)
    expect(mine.length).toBeGreaterThan(1000)
    for (const g of mine) {
      const unit = g.unit === 'lb' ? 'lb' : 'kg'
      let said = g.key.split('.').reduce<unknown>((at, k) => (at as Record<string, unknown>)[k], texts)
      if (g.why) {
        said = whyText(g.why, names(unit))
      } else if (typeof said === 'function') {
        const args = (g.args ?? []).map((x: unknown) => x ?? undefined)
        said = (said as (...of: unknown[]) => unknown)(...(g.unit ? [unit, ...args] : args))
      }
      if (said !== g.text) wrong.push(`${g.key} ${JSON.stringify(g.args)}: ${String(said)} for ${g.text}`)
    }
    expect(wrong).toEqual([])
  })
})

describe('names of what the log and the limits say', () => {
  it('are there for every value of the contract', () => {
    const schemas = contract.components.schemas
    expect([...painJoints]).toEqual(schemas.LogInput.properties.joint.enum)
    for (const x of painJoints) {
      expect(limit(`${x}-spare`)).toBe(`Spare the ${nameOf.joint[x]}`)
      expect(limit(`${x}-mild`)).toMatch(/^Go easy/)
    }
    expect(limit('no-floor')).toBe('Not down to the floor')
    expect(limit('squat')).toBeUndefined()
  })
  it('says where a hinge works, and whose cell a flag is of', () => {
    const plain = { unit: 'kg' as const, move: (id: string) => id, item: (id: string) => id }
    const id = (name: string, text: string) => ({ name, kind: 'text' as const, text })
    const sum: Why = { code: 'resistance-sum', source: 'model', terms: [id('family', 'hinge')] }
    expect(whyText(sum, plain)).toMatch(/^At the hip:/)
    const fault: Why = { code: 'fault-limit', source: 'house', terms: [id('lane', 'reach'), id('limit', 'knee-spare')] }
    expect(whyText(fault, plain)).toBe('Reach: against a limit of this class: spare the knee')
  })
})

describe('names of the household', () => {
  it('are those of the table', () => {
    const all = [...table.substances, ...table.packages, ...table.vessels, ...table.known]
    expect(all.map((x) => [x.id, nameOf.household[x.id]])).toEqual(all.map((x) => [x.id, x.name]))
  })
})

// The library's own data: whatever a move can be, a screen can say.
interface Raw {
  id: string
  needs: string[]
  room?: string[]
  demands: Record<string, number>
  emphasis?: Record<string, number>
  parts?: { move: string }[]
}
const library = Object.values(
  import.meta.glob<Raw[]>('../../../../internal/core/moves/data/*.json', { eager: true, import: 'default' }),
).flat()

describe('names of the library', () => {
  it('has a name for every value that a move holds and the contract does not list', () => {
    expect(library.length).toBeGreaterThan(120)
    const joint: Record<string, string> = nameOf.joint
    const missing = library.flatMap((m) =>
      [
        ...m.needs.map((x) => [nameOf.anchor, x] as const),
        ...(m.room ?? []).map((x) => [nameOf.room, x] as const),
        ...Object.keys(m.demands).map((x) => [joint, x] as const),
        ...Object.keys(m.emphasis ?? {}).map((x) => [nameOf.region, x] as const),
        ...(m.parts ?? []).map((x) => [nameOf.partName, x.move] as const),
      ].flatMap(([list, x]) => (list[x] ? [] : [`${m.id}: ${x}`])),
    )
    expect(missing).toEqual([])
  })
})
