// Who does what in a circuit, somebody by somebody.
import { lanes, type Cell, type Circuit, type Lane } from '../api/client'
import { circuit as t } from '../text/gen/circuit'
import { nameOf } from '../text/names'
import { partyName } from './parties'

export interface Doer {
  party: string
  lane: Lane
  name: string
}

/** Who is there on the day: each lane, which those without a name do, then its people by name. */
export function doers(c: Circuit): Doer[] {
  const absent = c.document.day?.absent ?? []
  const here = c.occurrence.people.filter((p) => !absent.includes(p.id))
  return lanes.flatMap((lane) => {
    const named = here.filter((p) => p.lane === lane)
    const fewer = c.document.day?.fewer?.find((f) => f.lane === lane)?.people ?? 0
    const gone = c.occurrence.people.filter((p) => p.lane === lane && absent.includes(p.id)).length
    const all = (c.occurrence.lanes.find((l) => l.lane === lane)?.people ?? 0) - gone - fewer
    const others = Math.max(0, all - named.length)
    if (all === 0) return []
    const unnamed = others > 0 && named.length > 0
    return [
      { party: lane, lane, name: unnamed ? t.who.others(nameOf.lane[lane], others) : nameOf.lane[lane] },
      ...named.map((p) => ({ party: p.id, lane, name: partyName(c.occurrence, p.id) })),
    ]
  })
}

/** What somebody does in a slot, and whether it is their own. */
export function cellFor(c: Circuit, slot: string, who: Doer): { cell: Cell; own: boolean } | undefined {
  const cells = c.plan.slots.find((s) => s.id === slot)?.cells ?? []
  const own = cells.find((x) => x.party === who.party)
  const cell = own ?? cells.find((x) => x.party === who.lane)
  return cell && { cell, own: own !== undefined && own.party !== own.lane }
}
