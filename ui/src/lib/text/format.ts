// Quantities as text, in the unit the reader uses. What was typed in that unit is
// shown as typed; everything else is derived from exact grams and millimetres. Symbols of
// units are the same in every language (SI Brochure 5.2). internal/texts writes the same
// for the program: texts.golden.test.ts holds the two together, byte for byte.
import type { Quantity } from '../api/client'

export type MassUnit = 'kg' | 'lb'

const gramsPerPound = 453.59237
const millimetresPerInch = 25.4

/** A fraction, rounded half away from zero to so many decimals, as its digits; by a multiplication
 * and a division at most, which are the same everywhere. */
function digits(times: number, by: number, decimals: number): { minus: boolean; text: string } {
  const whole = Math.floor((Math.abs(times) * 10 ** decimals) / by + 0.5)
  const padded = String(whole).padStart(decimals + 1, '0')
  const at = padded.length - decimals
  const text = decimals > 0 ? `${padded.slice(0, at)}.${padded.slice(at)}` : padded
  return { minus: times < 0 && whole > 0, text }
}

/** The same without needless zeros. */
function short(times: number, by: number, decimals: number): string {
  const { minus, text } = digits(times, by, decimals)
  return (minus ? '-' : '') + (decimals > 0 ? text.replace(/\.?0+$/, '') : text)
}

/** A number without a unit: to a thousandth. */
export function number(n: number): string {
  return short(n, 1, 3)
}

/** A mass in grams, to a tenth from ten units on and to a hundredth below. */
export function mass(grams: number, unit: MassUnit): string {
  const by = unit === 'lb' ? gramsPerPound : 1000
  return `${short(grams, by, Math.abs(grams) >= 9.995 * by ? 1 : 2)} ${unit}`
}

/** A mass as a scale shows it, to a thousandth. */
export function weight(grams: number, unit: MassUnit): string {
  const { minus, text } = digits(grams, unit === 'lb' ? gramsPerPound : 1000, 3)
  return `${minus ? '-' : ''}${text} ${unit}`
}

const massSystem: Record<string, MassUnit> = { kg: 'kg', g: 'kg', lb: 'lb', oz: 'lb', 'lb-oz': 'lb' }

/** A typed mass: as typed where the unit is the reader's, converted where not. */
export function typedMass(q: Quantity, unit: MassUnit): string {
  if (massSystem[q.unit] !== unit) return mass(q.whole, unit)
  if (q.unit !== 'lb-oz') return `${q.decimal} ${q.unit}`
  const ounces = Number(q.decimal)
  return `${Math.floor(ounces / 16)} lb ${short(ounces % 16, 1, 2)} oz`
}

/** A typed length; readers in pounds read inches. */
export function typedLength(q: Quantity, unit: MassUnit): string {
  const inches = q.unit === 'in'
  if (inches === (unit === 'lb')) return `${q.decimal} ${q.unit}`
  return length(q.whole, unit)
}

export function length(mm: number, unit: MassUnit): string {
  return unit === 'lb' ? `${short(mm, millimetresPerInch, 1)} in` : `${short(mm, 10, 1)} cm`
}

/** A volume in millilitres. */
export function volume(ml: number): string {
  return ml >= 1000 ? `${short(ml, 1000, 2)} l` : `${short(ml, 1, 0)} ml`
}

/** What to type to get a typed quantity again. */
export function asTyped(q: { decimal: string; unit: Quantity['unit']; whole?: number } | undefined): string {
  if (!q) return ''
  return q.unit === 'lb-oz' ? typedMass({ whole: 0, ...q }, 'lb') : `${q.decimal} ${q.unit}`
}

/** Seconds without needless decimals: "40 s", "17.5 s". */
export function span(ms: number): string {
  return `${short(ms, 1000, 3)} s`
}

/** A clock: "7:05", with hours from 60 minutes on. */
export function clock(ms: number): string {
  const s = Math.max(0, Math.floor(ms / 1000 + 0.5))
  const two = (n: number) => String(n).padStart(2, '0')
  if (s >= 3600) return `${Math.floor(s / 3600)}:${two(Math.floor(s / 60) % 60)}:${two(s % 60)}`
  return `${Math.floor(s / 60)}:${two(s % 60)}`
}

/** A share of one: ".878". */
export function share(n: number): string {
  return short(n, 1, 3).replace(/^0\./, '.')
}

/** A share of one in whole per cent: "62 %". */
export function whole(n: number): string {
  return `${short(n * 100, 1, 0)} %`
}

/** A difference in per cent: "+3.9 %". */
export function percent(n: number): string {
  const { minus, text } = digits(n, 1, 1)
  return `${minus ? '−' : text === '0.0' ? '' : '+'}${text.replace(/\.0$/, '')} %`
}

const rules = new Map<string, Intl.PluralRules>()

/** The plural form of a number in a language: "one", "other" and what else it has. */
export function plural(language: string, n: number): Intl.LDMLPluralRule {
  const kept = rules.get(language) ?? new Intl.PluralRules(language)
  rules.set(language, kept)
  return kept.select(n)
}

/** Whether an argument that may be absent is. */
export function none(x: string | number | readonly unknown[] | undefined): boolean {
  return x === undefined || x === '' || (Array.isArray(x) && x.length === 0)
}

/** A name as it stands inside a sentence. */
export function within(name: string): string {
  return name.charAt(0).toLowerCase() + name.slice(1)
}

/** A sentence as it stands by itself. */
export function sentence(text: string): string {
  return text.charAt(0).toUpperCase() + text.slice(1)
}

type Joiner = (a: string, b: string) => string

/** Several in a line: "a, b, c"; "a, b and c"; "a; b; c". */
export const list = (j: { list: Joiner }, parts: string[]): string =>
  parts.length > 0 ? parts.reduce((a, b) => j.list(a, b)) : ''
export const and = (j: { list: Joiner; and: Joiner }, parts: string[]): string =>
  parts.length > 1 ? j.and(list(j, parts.slice(0, -1)), parts.at(-1) ?? '') : (parts[0] ?? '')
export const semicolons = (j: { semicolons: Joiner }, parts: string[]): string =>
  parts.length > 0 ? parts.reduce((a, b) => j.semicolons(a, b)) : ''
