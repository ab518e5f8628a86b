// Made by scripts/texts.sh from texts/*.json. Not to be edited: run it again.
import { language } from '../language'
import { people as en } from './en/people'

const other = import.meta.glob<{ people: typeof en }>(['./*/people.ts', '!./en/*'], { import: 'people' })
export const people = language === 'en' ? en : ((await other[`./${language}/people.ts`]?.()) ?? en) as typeof en
