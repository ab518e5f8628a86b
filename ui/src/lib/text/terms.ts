// The terms of a reason, as the texts of reasons ask for them.
import type { Term, Why } from '../api/client'
import * as f from './format'
import { join } from './gen/join'
import { names } from './gen/names'
import { banName } from './names'

/** What a reason needs to know to speak of things by name. */
export interface Names {
  unit: f.MassUnit
  move: (id: string) => string
  item: (id: string) => string
  /** A participant's name, by id. */
  who?: (id: string) => string
}

type Table = Record<string, string>

export class Terms {
  private readonly terms: Term[]
  private readonly names: Names

  constructor(w: Why, names: Names) {
    this.terms = w.terms ?? []
    this.names = names
  }

  private find(name: string): Term | undefined {
    return this.terms.find((x) => x.name === name)
  }
  has(name: string): boolean {
    return this.find(name) !== undefined
  }
  n(name: string): number {
    return this.find(name)?.value ?? 0
  }
  id(name: string): string {
    return this.find(name)?.text ?? ''
  }
  count(name: string): string {
    return f.number(this.n(name))
  }
  mass(name: string): string {
    return f.mass(this.n(name), this.names.unit)
  }
  length(name: string): string {
    return f.length(this.n(name), this.names.unit)
  }
  volume(name: string): string {
    return f.volume(this.n(name))
  }
  span(name: string): string {
    return f.span(this.n(name))
  }
  clock(name: string): string {
    return f.clock(this.n(name))
  }
  percent(name: string): string {
    return f.percent(this.n(name))
  }
  share(name: string): string {
    return f.share(this.n(name))
  }
  /** A value of the contract by its name, one that has none as it is. */
  name(table: Table, name: string): string {
    return table[this.id(name)] ?? this.id(name)
  }
  /** All terms of a name: "the knee and the hip". */
  all(table: Table, name: string, joined: (j: typeof join, parts: string[]) => string): string {
    const found = this.terms.filter((x) => x.name === name && x.text)
    return joined(
      join,
      found.map((x) => table[x.text ?? ''] ?? x.text ?? ''),
    )
  }
  /** All spans but the others of a reason: "prep 405 s + work 1120 s". */
  sum(table: Table, others: string[]): string {
    return this.terms
      .filter((x) => x.kind === 'spanMs' && !others.includes(x.name))
      .map((x) => join.term(f.within(table[x.name] ?? x.name), x.value ?? 0))
      .reduce((a, b) => (a === '' ? b : join.plus(a, b)), '')
  }
  move(name: string): string {
    return this.names.move(this.id(name))
  }
  item(name: string): string {
    return this.names.item(this.id(name))
  }
  /** A lane, or somebody. */
  party(name: string): string {
    const id = this.id(name)
    return (names.lane as Table)[id] ?? (id === '' ? '' : (this.names.who?.(id) ?? ''))
  }
  /** What is to be left out: a pattern, a limit or a move. */
  ban(name: string): string {
    const id = this.id(name)
    return f.within(banName(id, this.names.move))
  }
}
