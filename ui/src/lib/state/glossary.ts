// The words of the trade, found where they occur: each once in a text.
import type { Schemas } from '../api/client'

interface Piece {
  text: string
  means?: string
}

class Glossary {
  private forms = new Map<string, string>()
  private pattern: RegExp | undefined

  /** Takes the server's list; longer forms are found before shorter ones. */
  learn(words: Schemas['Word'][]): void {
    this.forms = new Map(words.flatMap((w) => [w.term, ...w.also].map((f) => [f.toLowerCase(), w.means] as const)))
    const all = [...this.forms.keys()].sort((a, b) => b.length - a.length)
    this.pattern = all.length > 0 ? new RegExp(`\\b(${all.join('|')})\\b`, 'gi') : undefined
  }

  split(text: string): Piece[] {
    if (!this.pattern) return [{ text }]
    const out: Piece[] = []
    const told = new Set<string>()
    let from = 0
    for (const m of text.matchAll(this.pattern)) {
      const means = this.forms.get(m[0].toLowerCase())
      if (!means || told.has(means)) continue
      told.add(means)
      out.push({ text: text.slice(from, m.index) }, { text: m[0], means })
      from = m.index + m[0].length
    }
    out.push({ text: text.slice(from) })
    return out.filter((p) => p.text !== '')
  }
}

export const glossary = new Glossary()
