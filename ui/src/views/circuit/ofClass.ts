// The circuit of a class, for pages of their own.
import { api, ask, type Circuit, type Problem } from '../../lib/api/client'

export async function ofClass(occurrence: string): Promise<{ data?: Circuit; problem?: Problem }> {
  const a = await ask(api.GET('/api/occurrences/{occurrence}', { params: { path: { occurrence } } }))
  const circuit = a.data?.circuitId
  if (!circuit) return a.problem ? { problem: a.problem } : {}
  return ask(api.GET('/api/circuits/{circuit}', { params: { path: { circuit } } }))
}
