// Quantities of a thing as somebody types them: what the server read of each, and what is
// wrong with it. The one parser is the server's: it is asked when a field is left.
import { api, ask, fieldProblem, type Place, type Problem } from '../../lib/api/client'
import { studio } from '../../lib/state/studio.svelte'
import { length, mass, volume } from '../../lib/text/format'
import { kit as t } from '../../lib/text/gen/kit'
import { loads } from '../../lib/text/gen/loads'

export type Sort = 'mass' | 'length' | 'volume'

export class Typed {
  text = $state<Record<string, string>>({})
  problem = $state<Problem>()
  private read = $state<Record<string, { text?: string; wrong?: string }>>({})

  constructor(
    private readonly place: Place,
    text: Record<string, string>,
  ) {
    this.text = text
  }

  async look(field: string, sort: Sort): Promise<void> {
    const text = this.text[field] ?? ''
    if (text.trim() === '') {
      this.read[field] = {}
      return
    }
    const { massUnit } = this.place
    const bare = sort === 'volume' ? 'l' : sort === 'mass' ? massUnit : massUnit === 'lb' ? 'in' : 'cm'
    const a = await ask(api.POST('/api/read-quantity', { body: { text, unit: bare, kind: sort } }))
    if (a.data) {
      const as = sort === 'volume' ? volume(a.data.whole) : (sort === 'mass' ? mass : length)(a.data.whole, studio.unit)
      this.read[field] = { text: a.data.assumed ? `${t.assumed(bare)}. ${t.read(as)}` : t.read(as) }
    } else {
      this.read[field] = { wrong: a.problem?.errors?.[0]?.message ?? a.problem?.detail ?? '' }
    }
  }

  /** Those of some fields that something is typed in, as a request has them. */
  filled(...fields: string[]): Record<string, string> {
    return Object.fromEntries(fields.flatMap((f) => (this.text[f]?.trim() ? [[f, this.text[f]]] : [])))
  }

  help(field: string, sort: Sort): string {
    const hints = { mass: t.hint[studio.unit], length: t.lengthHint[studio.unit], volume: loads.item.litres }
    return this.read[field]?.text ?? hints[sort]
  }

  wrong(field: string): { invalid: boolean; invalidText: string } {
    const text = this.read[field]?.wrong ?? fieldProblem(this.problem, field)
    return { invalid: text !== '', invalidText: text }
  }
}

/** The keys of a set that are on. */
export const on = (set: Record<string, boolean>): string[] => Object.keys(set).filter((k) => set[k])
