// Made by scripts/texts.sh from texts/*.json. Not to be edited: run it again.
import { language } from '../language'
import { log as en } from './en/log'

const other = import.meta.glob<{ log: typeof en }>(['./*/log.ts', '!./en/*'], { import: 'log' })
export const log = language === 'en' ? en : ((await other[`./${language}/log.ts`]?.()) ?? en) as typeof en
