// Who entries are for: lanes with people in them, and participants with entries of their
// own, each after their lane. Names come with a class, documents know ids only.
import type { Cell, Lane, Schemas } from '../api/client'
import { common } from '../text/gen/common'
import { nameOf } from '../text/names'

type Occurrence = Schemas['Occurrence']

export interface Party {
  party: string
  lane: Lane
  name: string
  people: number
  /** Of Ground, Middle, Reach: 1, 2, 3. */
  mark: number
}

/** The name of a party: a lane's, or a participant's; of one whom nobody knows, what they are. */
export function partyName(occurrence: Pick<Occurrence, 'people'>, party: string): string {
  if (party in nameOf.lane) return nameOf.lane[party as Lane]
  return occurrence.people.find((p) => p.id === party)?.name ?? common.dropIn
}

/** The parties of a class that have cells anywhere in its plan. */
export function parties(occurrence: Occurrence, slots: { cells: Cell[] }[]): Party[] {
  const cells = slots.flatMap((s) => s.cells)
  const own = (l: Lane) => [...new Set(cells.filter((c) => c.lane === l && c.party !== l).map((c) => c.party))]
  return (Object.keys(nameOf.lane) as Lane[]).flatMap((lane, i) => {
    const of = occurrence.lanes.find((l) => l.lane === lane)
    const named = own(lane).map((party) => ({
      party,
      lane,
      name: partyName(occurrence, party),
      people: 1,
      mark: i + 1,
    }))
    if (!of || of.people === 0) return named
    return [{ party: lane, lane, name: nameOf.lane[lane], people: of.people, mark: i + 1 }, ...named]
  })
}
