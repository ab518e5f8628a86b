// Where people stand in a block, in words.
import type { Cell, Schemas } from '../api/client'
import { circuit as t } from '../text/gen/circuit'
import { nameOf } from '../text/names'
import { partyName } from './parties'
import { studio } from './studio.svelte'

type Floor = Schemas['Floor']
type Occurrence = Pick<Schemas['Occurrence'], 'people'>
type Items = Parameters<typeof studio.names>[0]

/** Somebody of a group: by name, or a lane with a number. */
export const guestName = (o: Occurrence, g: Schemas['Guest']): string =>
  g.number ? t.floor.guest(nameOf.lane[g.lane], g.number) : partyName(o, g.party)

/** The same, short where nobody else of the class is called so: a first name. */
export function shortName(o: Occurrence, g: Schemas['Guest']): string {
  const whole = guestName(o, g)
  const first = (name: string | undefined) => (name ?? '').split(' ')[0] ?? ''
  const one = o.people.filter((p) => first(p.name) === first(whole)).length === 1
  return !g.number && one ? first(whole) : whole
}

export const guests = (o: Occurrence, who: Schemas['Guest'][]): string => who.map((g) => guestName(o, g)).join(', ')

/** What is done at a station: one name where all do the same. */
export function stationTitle(cells: Cell[], pattern: string): string {
  const names = [...new Set(cells.map((c) => studio.move(c.entry.variant)))]
  return names.length === 1 ? (names[0] ?? '') : (nameOf.pattern[pattern as keyof typeof nameOf.pattern] ?? pattern)
}

/** A thing of the kit: with its load or height, for a studio can have two of one name. */
export function itemName(items: Items, id: string): string {
  return studio.itemName(items.find((i) => i.id === id))
}

/** The lines of a station: its kit, its heights, what is shared. */
export function stationLines(
  o: Occurrence,
  items: Items,
  s: Floor['stations'][number],
): { kit: string; heights: string[]; shared: string[] } {
  return {
    kit: s.kit.map((k) => t.floor.piece(k.n, itemName(items, k.item))).join(', ') || t.floor.none,
    heights:
      s.settings.length === 1
        ? s.settings.map((x) => t.floor.heightAll(studio.unit, x.heightMm))
        : s.settings.map((x) => t.floor.height(studio.unit, x.heightMm, guests(o, x.for), x.turn)),
    shared: s.shared.map((x) => t.floor.shared(x.people, x.pieces, itemName(items, x.item))),
  }
}
