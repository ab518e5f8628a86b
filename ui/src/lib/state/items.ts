// The things of a place by name.
import type { Item, Place } from '../api/client'

/** Everything a place has, as whoever names a load needs it. */
export function itemsOf(place: Place): Item[] {
  return [
    ...place.implements.map((i) => ({ id: i.id, name: i.name, kind: i.kind, ...(i.mass ? { mass: i.mass } : {}) })),
    ...place.objects.map((o) => ({ id: o.id, name: o.name, kind: 'object', mass: o.mass })),
    ...place.containers.map((c) => ({ id: c.id, name: c.name, kind: 'container' })),
  ]
}
