// Made by scripts/texts.sh from texts/*.json. Not to be edited: run it again.
import { language } from '../language'
import { words as en } from './en/words'

const other = import.meta.glob<{ words: typeof en }>(['./*/words.ts', '!./en/*'], { import: 'words' })
export const words = language === 'en' ? en : ((await other[`./${language}/words.ts`]?.()) ?? en) as typeof en
