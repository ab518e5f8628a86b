// Made by scripts/texts.sh from texts/*.json. Not to be edited: run it again.
import { language } from '../language'
import { circuit as en } from './en/circuit'

const other = import.meta.glob<{ circuit: typeof en }>(['./*/circuit.ts', '!./en/*'], { import: 'circuit' })
export const circuit = language === 'en' ? en : ((await other[`./${language}/circuit.ts`]?.()) ?? en) as typeof en
