// Made by scripts/texts.sh from texts/*.json. Not to be edited: run it again.
import { language } from '../language'
import { run as en } from './en/run'

const other = import.meta.glob<{ run: typeof en }>(['./*/run.ts', '!./en/*'], { import: 'run' })
export const run = language === 'en' ? en : ((await other[`./${language}/run.ts`]?.()) ?? en) as typeof en
