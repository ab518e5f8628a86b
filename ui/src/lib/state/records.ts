// What is known of people, a record at a time: kept, changed, taken back.
import { api, ask, newId, type Answer, type Schemas } from '../api/client'

export async function putRecord(
  person: string,
  body: Schemas['RecordInput'],
  record = newId(),
): Promise<Answer<Schemas['PersonPage']>> {
  return ask(api.PUT('/api/people/{person}/records/{record}', { params: { path: { person, record } }, body }))
}

export async function removeRecord(person: string, record: string): Promise<Answer<Schemas['PersonPage']>> {
  return ask(api.DELETE('/api/people/{person}/records/{record}', { params: { path: { person, record } } }))
}
