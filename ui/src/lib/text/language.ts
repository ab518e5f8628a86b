// The language of the texts. It belongs to the studio; this browser keeps it, so that the
// first page is in it before the server has answered.
const key = 'language'

/** A language that the texts are in; en-XA is English as no English, for trying the pages. */
export type Language = 'en' | 'en-XA'

export const language: Language = localStorage.getItem(key) === 'en-XA' ? 'en-XA' : 'en'
document.documentElement.lang = language

/** Takes the studio's language: where it is another than the page is in, it is read anew. */
export function useLanguage(next: Language): void {
  if (next === language) return
  localStorage.setItem(key, next)
  location.reload()
}
