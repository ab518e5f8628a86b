// Made by scripts/texts.sh from texts/*.json. Not to be edited: run it again.
import { language } from '../language'
import { date as en } from './en/date'

const other = import.meta.glob<{ date: typeof en }>(['./*/date.ts', '!./en/*'], { import: 'date' })
export const date = language === 'en' ? en : ((await other[`./${language}/date.ts`]?.()) ?? en) as typeof en
