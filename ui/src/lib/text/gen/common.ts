// Made by scripts/texts.sh from texts/*.json. Not to be edited: run it again.
import { language } from '../language'
import { common as en } from './en/common'

const other = import.meta.glob<{ common: typeof en }>(['./*/common.ts', '!./en/*'], { import: 'common' })
export const common = language === 'en' ? en : ((await other[`./${language}/common.ts`]?.()) ?? en) as typeof en
