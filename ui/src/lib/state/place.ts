// The place one works with: in the address where a view is of one place, and the last
// one everywhere else where a place is asked for.
import type { Place } from '../api/client'

const key = 'place'

export function rememberPlace(id: string): void {
  if (id) localStorage.setItem(key, id)
}

/** The place to begin with: that of the address, else the last one, else the first. */
export function startPlace(places: Place[], asked = ''): string {
  const has = (id: string | null) => places.some((p) => p.id === id)
  const last = localStorage.getItem(key)
  if (has(asked)) return asked
  return has(last) ? (last ?? '') : (places[0]?.id ?? '')
}
