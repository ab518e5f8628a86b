// Quantities as text, in the unit the reader uses. What was typed in that unit is
// shown as typed; everything else is derived from exact grams and millimetres.
import type { Quantity } from '../api/client'

export type MassUnit = 'kg' | 'lb'

const gramsPerPound = 453.59237
const millimetresPerInch = 25.4

function short(n: number, decimals: number): string {
  return String(Number(n.toFixed(decimals)))
}

/** A mass in grams, to a tenth from ten units on and to a hundredth below. */
export function mass(grams: number, unit: MassUnit): string {
  const n = unit === 'lb' ? grams / gramsPerPound : grams / 1000
  return `${short(n, Math.abs(n) >= 9.995 ? 1 : 2)} ${unit}`
}

/** A mass as a scale shows it, to a thousandth. */
export function weight(grams: number, unit: MassUnit): string {
  return `${(unit === 'lb' ? grams / gramsPerPound : grams / 1000).toFixed(3)} ${unit}`
}

const massSystem: Record<string, MassUnit> = { kg: 'kg', g: 'kg', lb: 'lb', oz: 'lb', 'lb-oz': 'lb' }

/** A typed mass: as typed where the unit is the reader's, converted where not. */
export function typedMass(q: Quantity, unit: MassUnit): string {
  if (massSystem[q.unit] !== unit) return mass(q.whole, unit)
  if (q.unit !== 'lb-oz') return `${q.decimal} ${q.unit}`
  const ounces = Number(q.decimal)
  return `${Math.floor(ounces / 16)} lb ${short(ounces % 16, 2)} oz`
}

/** A typed length; readers in pounds read inches. */
export function typedLength(q: Quantity, unit: MassUnit): string {
  const inches = q.unit === 'in'
  if (inches === (unit === 'lb')) return `${q.decimal} ${q.unit}`
  return length(q.whole, unit)
}

export function length(mm: number, unit: MassUnit): string {
  return unit === 'lb' ? `${short(mm / millimetresPerInch, 1)} in` : `${short(mm / 10, 1)} cm`
}

/** A volume in millilitres. */
export function volume(ml: number): string {
  return ml >= 1000 ? `${short(ml / 1000, 2)} l` : `${ml} ml`
}

/** What to type to get a typed quantity again. */
export function asTyped(q: { decimal: string; unit: Quantity['unit']; whole?: number } | undefined): string {
  if (!q) return ''
  return q.unit === 'lb-oz' ? typedMass({ whole: 0, ...q }, 'lb') : `${q.decimal} ${q.unit}`
}

/** Seconds without needless decimals: "40 s", "17.5 s". */
export function seconds(ms: number): string {
  return `${short(ms / 1000, 3)} s`
}

/** A clock: "7:05", with hours from 60 minutes on. */
export function clock(ms: number): string {
  const s = Math.max(0, Math.round(ms / 1000))
  const two = (n: number) => String(n).padStart(2, '0')
  if (s >= 3600) return `${Math.floor(s / 3600)}:${two(Math.floor(s / 60) % 60)}:${two(s % 60)}`
  return `${Math.floor(s / 60)}:${two(s % 60)}`
}

/** A share of one: ".878". */
export function share(n: number): string {
  return short(n, 3).replace(/^0\./, '.')
}

export function percent(n: number): string {
  return `${n > 0 ? '+' : n < 0 ? '−' : ''}${short(Math.abs(n), 1)} %`
}

/** A day and time in the zone of the class. */
/** A local day, as it stands in the calendar: "Wed 25 Nov". */
export function day(date: string): string {
  return new Date(`${date}T12:00:00Z`).toLocaleDateString('en-GB', {
    weekday: 'short',
    day: 'numeric',
    month: 'short',
    timeZone: 'UTC',
  })
}

export function when(ms: number, timeZone: string): string {
  return new Intl.DateTimeFormat('en-GB', {
    timeZone,
    weekday: 'short',
    day: 'numeric',
    month: 'short',
    hour: '2-digit',
    minute: '2-digit',
  }).format(ms)
}

/** The time of day in the zone of the class. */
export function timeOfDay(ms: number, timeZone: string): string {
  return new Intl.DateTimeFormat('en-GB', { timeZone, hour: '2-digit', minute: '2-digit' }).format(ms)
}
