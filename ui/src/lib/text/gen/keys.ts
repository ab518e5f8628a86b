// Made by scripts/texts.sh from texts/*.json. Not to be edited: run it again.
import { language } from '../language'
import { keys as en } from './en/keys'

const other = import.meta.glob<{ keys: typeof en }>(['./*/keys.ts', '!./en/*'], { import: 'keys' })
export const keys = language === 'en' ? en : ((await other[`./${language}/keys.ts`]?.()) ?? en) as typeof en
