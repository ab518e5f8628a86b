// Made by scripts/texts.sh from texts/*.json. Not to be edited: run it again.
import { language } from '../language'
import { moves as en } from './en/moves'

const other = import.meta.glob<{ moves: typeof en }>(['./*/moves.ts', '!./en/*'], { import: 'moves' })
export const moves = language === 'en' ? en : ((await other[`./${language}/moves.ts`]?.()) ?? en) as typeof en
