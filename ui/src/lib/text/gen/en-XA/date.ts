// Made by scripts/texts.sh from texts/*.json. Not to be edited: run it again.
import * as f from '../../format'
import { names } from './names'

export const date = {
  day: (weekday: string, day: number, month: string): string => `${(names.weekday[weekday] ?? weekday)} ${f.number(day)} ${(names.month[month] ?? month)}`,
  when: (day: string, time: string): string => `${day}, ${time}`,
}
