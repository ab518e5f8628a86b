// Made by scripts/texts.sh from texts/*.json. Not to be edited: run it again.
import { language } from '../language'
import { studio as en } from './en/studio'

const other = import.meta.glob<{ studio: typeof en }>(['./*/studio.ts', '!./en/*'], { import: 'studio' })
export const studio = language === 'en' ? en : ((await other[`./${language}/studio.ts`]?.()) ?? en) as typeof en
