// Made by scripts/texts.sh from texts/*.json. Not to be edited: run it again.
import { language } from '../language'
import { names as en } from './en/names'

const other = import.meta.glob<{ names: typeof en }>(['./*/names.ts', '!./en/*'], { import: 'names' })
export const names = language === 'en' ? en : ((await other[`./${language}/names.ts`]?.()) ?? en) as typeof en
