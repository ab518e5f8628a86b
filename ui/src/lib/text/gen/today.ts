// Made by scripts/texts.sh from texts/*.json. Not to be edited: run it again.
import { language } from '../language'
import { today as en } from './en/today'

const other = import.meta.glob<{ today: typeof en }>(['./*/today.ts', '!./en/*'], { import: 'today' })
export const today = language === 'en' ? en : ((await other[`./${language}/today.ts`]?.()) ?? en) as typeof en
