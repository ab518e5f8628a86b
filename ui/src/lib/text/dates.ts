// Days and times, in the zone of the class.
import { date as t } from './gen/date'

/** A local day, as it stands in the calendar: "Wed 25 Nov". */
export function day(date: string): string {
  const d = new Date(`${date}T12:00:00Z`)
  return t.day(String(d.getUTCDay() || 7), d.getUTCDate(), String(d.getUTCMonth() + 1))
}

/** What the clock and the calendar show in a zone at an instant. */
function inZone(ms: number, timeZone: string): { date: string; time: string } {
  const parts = new Intl.DateTimeFormat('en-CA', {
    timeZone,
    year: 'numeric',
    month: '2-digit',
    day: '2-digit',
    hour: '2-digit',
    minute: '2-digit',
    hourCycle: 'h23',
  }).formatToParts(ms)
  const part = (type: Intl.DateTimeFormatPartTypes) => parts.find((p) => p.type === type)?.value ?? ''
  return { date: `${part('year')}-${part('month')}-${part('day')}`, time: `${part('hour')}:${part('minute')}` }
}

/** A day and time in the zone of the class: "Wed 25 Nov, 18:30". */
export function when(ms: number, timeZone: string): string {
  const { date, time } = inZone(ms, timeZone)
  return t.when(day(date), time)
}

/** The time of day in the zone of the class. */
export function timeOfDay(ms: number, timeZone: string): string {
  return inZone(ms, timeZone).time
}
