// Made by scripts/texts.sh from texts/*.json. Not to be edited: run it again.
import { language } from '../language'
import { kit as en } from './en/kit'

const other = import.meta.glob<{ kit: typeof en }>(['./*/kit.ts', '!./en/*'], { import: 'kit' })
export const kit = language === 'en' ? en : ((await other[`./${language}/kit.ts`]?.()) ?? en) as typeof en
