// What every view shares: the studio, the movement library, the look.
import { api, ask, type Item, type Load, type Move, type Problem, type Schemas } from '../api/client'
import { language, useLanguage } from '../text/language'
import { mass, typedMass, type MassUnit } from '../text/format'
import { common } from '../text/gen/common'
import type { Names } from '../text/why'
import { partyName } from './parties'

class Studio {
  value = $state<Schemas['Studio']>({ name: '', timeZone: 'UTC', massUnit: 'kg', language })
  moves = $state.raw<Map<string, Move>>(new Map())
  problem = $state<Problem>()
  ready = $state(false)
  /** How this house counts, if nobody says. */
  format = $state<Schemas['Library']['format']>('timed')
  /** What a class can be spared. */
  limits = $state.raw<string[]>([])
  /** A new block's scheme of each kind, with the numbers that are usual. */
  schemes = $state.raw<Map<Schemas['Scheme']['kind'], Schemas['Scheme']>>(new Map())
  /** How long parts of combined moves take, in ms, by their names. */
  partMs = $state.raw<Record<string, number>>({})

  get unit(): MassUnit {
    return this.value.massUnit
  }

  async load(): Promise<void> {
    const [studio, library] = await Promise.all([ask(api.GET('/api/studio')), ask(api.GET('/api/library'))])
    this.problem = studio.problem ?? library.problem
    if (studio.data) this.value = studio.data
    if (studio.data) useLanguage(studio.data.language)
    if (library.data) this.format = library.data.format
    if (library.data) this.limits = library.data.limits
    if (library.data) this.schemes = new Map(library.data.schemes.map((s) => [s.kind, s]))
    if (library.data) this.partMs = library.data.partMs
    if (library.data) this.moves = new Map(library.data.moves.map((m) => [m.id, m]))
    this.ready = true
  }

  /** Changes the studio; what the server refuses stands as it was. */
  async put(next: Schemas['Studio']): Promise<Problem | undefined> {
    const before = this.value
    this.value = next
    const { problem } = await ask(api.PUT('/api/studio', { body: next }))
    if (problem) this.value = before
    else useLanguage(next.language)
    return problem
  }

  async setUnit(massUnit: MassUnit): Promise<void> {
    this.problem = await this.put({ ...this.value, massUnit })
  }

  move(id: string): string {
    return this.moves.get(id)?.name ?? id
  }

  /** The way to speak of a piece of kit: its name and its mass. */
  itemName(item: Item | undefined): string {
    if (!item) return common.unknown
    return item.mass ? common.item(item.name, typedMass(item.mass, this.unit)) : item.name
  }

  names(items: Item[], of?: Pick<Schemas['Occurrence'], 'people'>): Names {
    const byId = new Map(items.map((i) => [i.id, i]))
    return {
      unit: this.unit,
      move: (id) => this.move(id),
      item: (id) => this.itemName(byId.get(id)),
      who: (id) => partyName(of ?? { people: [] }, id),
    }
  }

  /** What a load is made of, a line for each kind: "8 × Tin, 455 g", "Can with 3.8 kg in it". */
  parts(load: Load, items: Item[]): string[] {
    const item = (id: string | undefined) => items.find((i) => i.id === id)
    if (load.kind === 'none') return [common.body]
    if (load.kind !== 'made') {
      const name = this.itemName(item(load.item))
      return [(load.count ?? 1) > 1 ? common.pieces(load.count ?? 1, name) : name]
    }
    const parts = (load.parts ?? []).map((p) =>
      p.fillsG
        ? common.filled(
            p.fillsG.length,
            item(p.id)?.name ?? common.unknown,
            p.fillsG.map((g) => (g > 0 ? mass(g, this.unit) : common.empty)),
          )
        : common.pieces(p.count ?? 0, this.itemName(item(p.id))),
    )
    return parts.length > 0 ? parts : [common.empty]
  }

  /** The same in a line: "Rucksack: 8 × Tin, 455 g; Can with 3.8 kg in it". */
  packing(load: Load, items: Item[]): string {
    const container = load.container ? (items.find((i) => i.id === load.container)?.name ?? common.unknown) : undefined
    return common.packed(container, this.parts(load, items))
  }

  /** A load in few words: "16 kg", "2 × 12 kg", "9 kg packed", "body". */
  loadText(load: Load, grams: number, items: Item[]): string {
    if (load.kind === 'none') return common.body
    if (load.kind === 'made') return load.container ? common.bag(mass(grams, this.unit)) : mass(grams, this.unit)
    const item = items.find((i) => i.id === load.item)
    const one = item?.mass ? typedMass(item.mass, this.unit) : mass(grams / Math.max(load.count ?? 1, 1), this.unit)
    return (load.count ?? 1) > 1 ? common.ofEach(load.count ?? 1, one) : one
  }
}

export const studio = new Studio()

class Look {
  dark = $state(false)

  start(): void {
    const stored = localStorage.getItem('look')
    this.set(stored ? stored === 'dark' : matchMedia('(prefers-color-scheme: dark)').matches)
  }

  set(dark: boolean): void {
    this.dark = dark
    document.documentElement.setAttribute('theme', dark ? 'g100' : 'white')
    localStorage.setItem('look', dark ? 'dark' : 'light')
  }
}

export const look = new Look()
