// Made by scripts/texts.sh from texts/*.json. Not to be edited: run it again.
import { language } from '../language'
import { loads as en } from './en/loads'

const other = import.meta.glob<{ loads: typeof en }>(['./*/loads.ts', '!./en/*'], { import: 'loads' })
export const loads = language === 'en' ? en : ((await other[`./${language}/loads.ts`]?.()) ?? en) as typeof en
