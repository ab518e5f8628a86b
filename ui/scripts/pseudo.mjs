// English as no English: every letter with a mark, vowels drawn out until a text is a third
// longer. What is read plainly on a screen in it is no text of ours, and what is cut off
// would be cut off in a language of longer words. internal/texts has the same for the
// library of moves; a test holds the two together.
const plain = 'abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ'
const marked = 'áƀçđéƒğĥíĵķľɱñóþɋŕšţúṽŵẋýžÁƁÇĐÉƑĞĤÍĴĶĽṀÑÓÞɊŔŠŢÚṼŴẊÝŽ'

const letters = new Map([...plain].map((c, i) => [c, [...marked][i]]))

/** A text with a mark on every letter, a third longer. */
export function pseudo(text) {
  let want = Math.ceil([...text].filter((c) => letters.has(c)).length / 3)
  return [...text]
    .map((c) => {
      const to = letters.get(c) ?? c
      if (want <= 0 || !'aeiou'.includes(c)) return to
      want--
      return to + to
    })
    .join('')
}
