// Finding moves by what people call them: every word somewhere, or a name as one.

/** Letters without case and accents. */
const plain = (s: string): string =>
  s
    .toLowerCase()
    .normalize('NFD')
    .replace(/[\u0300-\u036f]/g, '')

// "pushup", "push up" and "push-up" are one.
const joined = (s: string): string => plain(s).replace(/[\s-]+/g, '')

export interface Searched {
  names: string[]
  words: string
}

/** What a thing is found by: its names, and what else is said of it. */
export const searched = (names: string[], said: string[] = []): Searched => ({
  names: names.map(joined),
  words: plain([...names, ...said].join(' ')),
})

/** Whether somebody means it. */
export function meant(text: string, by: Searched): boolean {
  const whole = joined(text)
  const asked = plain(text)
    .split(/[\s-]+/)
    .filter(Boolean)
  return asked.every((w) => by.words.includes(w)) || by.names.some((n) => n.includes(whole))
}
