// Made by scripts/texts.sh from texts/*.json. Not to be edited: run it again.
import { language } from '../language'
import { join as en } from './en/join'

const other = import.meta.glob<{ join: typeof en }>(['./*/join.ts', '!./en/*'], { import: 'join' })
export const join = language === 'en' ? en : ((await other[`./${language}/join.ts`]?.()) ?? en) as typeof en
