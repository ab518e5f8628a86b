// How the server's values are called on screen: the tables of names, and what is put
// together from them.
import { names } from './gen/names'

export { names as nameOf } from './gen/names'

/** A value by its name; one that the table does not have, as it is. */
export function lookup(table: Record<string, string>, value: string): string {
  return table[value] ?? value
}

/** The joints and regions that a log can name. */
export const painJoints = [
  'ankle',
  'knee',
  'hip',
  'low-back',
  'neck',
  'shoulder',
  'elbow',
  'wrist',
  'hamstring',
] as const

/** What a class must be spared, by name; nothing for what is no limit. */
export function limit(id: string): string | undefined {
  const [, part, how] = /^(.+)-(mild|spare)$/.exec(id) ?? []
  if (!part) return names.limit[id]
  if (!(part in names.theJoint)) return undefined
  return (how === 'mild' ? names.limitMild : names.limitSpare)(part)
}

/** What is to be left out, by name: a pattern, a limit or a move. */
export function banName(id: string, move: (id: string) => string): string {
  return (names.pattern as Record<string, string>)[id] ?? limit(id) ?? move(id)
}
