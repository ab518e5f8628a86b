// Made by scripts/texts.sh from texts/*.json. Not to be edited: run it again.
import { language } from '../language'
import { why as en } from './en/why'

const other = import.meta.glob<{ why: typeof en }>(['./*/why.ts', '!./en/*'], { import: 'why' })
export const why = language === 'en' ? en : ((await other[`./${language}/why.ts`]?.()) ?? en) as typeof en
