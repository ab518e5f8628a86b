import { describe, expect, it } from 'vitest'
import { t } from './catalogue'
import * as names from './names'
import contract from '../../../../docs/formats/openapi.json'
import table from '../../../../internal/core/kit/data/household.json'
import type { Quantity, Why } from '../api/client'
import { asTyped, clock, mass, percent, seconds, typedLength, typedMass } from './format'
import { whyText } from './why'

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
  })
  it('writes times and per cents', () => {
    expect([clock(2_673_000), clock(0), clock(3_600_000)]).toEqual(['44:33', '0:00', '1:00:00'])
    expect([seconds(17_500), seconds(40_000)]).toEqual(['17.5 s', '40 s'])
    expect([percent(3.9), percent(-12), percent(0)]).toEqual(['+3.9 %', '−12 %', '0 %'])
  })
})

describe('reasons', () => {
  it('have a text for every code of the contract, free of the other unit', () => {
    const codes = contract.components.schemas.Why.properties.code.enum as Why['code'][]
    expect(codes.length).toBeGreaterThan(40)
    for (const code of codes) {
      const text = whyText(
        { code, source: 'house', terms: [{ name: 'wanted', kind: 'massG', value: 15_400 }] },
        { unit: 'lb', move: (id) => id, item: (id) => id },
      )
      expect(text).not.toBe('')
      expect(text).not.toMatch(/kg|undefined|NaN/)
    }
  })
})

describe('names of what the log and the limits say', () => {
  it('are there for every value of the contract', () => {
    const schemas = contract.components.schemas
    for (const x of schemas.Decided.properties.advice.enum) expect(names.advice[x], x).toBeTruthy()
    expect([...names.painJoints]).toEqual(schemas.LogInput.properties.joint.enum)
    for (const x of schemas.LogInput.properties.joint.enum) {
      expect(names.joint[x], x).toBeTruthy()
      expect(names.limit(`${x}-spare`)).toBe(`Spare the ${names.joint[x]}`)
      expect(names.limit(`${x}-mild`)).toMatch(/^Go easy/)
    }
    expect(names.limit('no-floor')).toBe('Not down to the floor')
    expect(names.limit('squat')).toBeUndefined()
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
    expect(all.map((x) => [x.id, names.household[x.id]])).toEqual(all.map((x) => [x.id, x.name]))
  })
})

// The library's own data: whatever a move can be, a screen can say.
interface Raw {
  id: string
  holds: string[]
  needs: string[]
  room?: string[]
  pattern: string
  plane: string
  role: string
  view: string
  shoes: string
  class: string
  gate?: string
  demands: Record<string, number>
  emphasis?: Record<string, number>
  parts?: { move: string }[]
}
const library = Object.values(
  import.meta.glob<Raw[]>('../../../../internal/core/moves/data/*.json', { eager: true, import: 'default' }),
).flat()

describe('names of the library', () => {
  it('has a name for every value a move holds', () => {
    expect(library.length).toBeGreaterThan(120)
    const missing = library.flatMap((m) =>
      [
        ...m.holds.map((x) => [names.hold, x] as const),
        ...m.needs.map((x) => [names.anchor, x] as const),
        ...(m.room ?? []).map((x) => [names.room, x] as const),
        ...Object.keys(m.demands).map((x) => [names.joint, x] as const),
        ...Object.keys(m.emphasis ?? {}).map((x) => [names.region, x] as const),
        ...(m.parts ?? []).map((x) => [names.partName, x.move] as const),
        ...(m.gate ? [[t.moves.gate, m.gate] as const] : []),
        [names.pattern, m.pattern] as const,
        [names.plane, m.plane] as const,
        [names.role, m.role] as const,
        [names.view, m.view] as const,
        [names.shoes, m.shoes] as const,
        [names.loadClass, m.class] as const,
      ].flatMap(([list, x]) => (list[x] ? [] : [`${m.id}: ${x}`])),
    )
    expect(missing).toEqual([])
  })
})
