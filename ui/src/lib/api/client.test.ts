import { afterEach, describe, expect, it, vi } from 'vitest'
import { api, ask, fieldProblem, newId, whenNewer } from './client'

afterEach(() => vi.unstubAllGlobals())

const answers = (...list: (Response | Error)[]) =>
  vi.stubGlobal('fetch', () => {
    const next = list.shift()
    return next instanceof Response ? Promise.resolve(next) : Promise.reject(next ?? new Error('nothing left'))
  })
const json = (body: unknown, status = 200, version = 'a') =>
  new Response(JSON.stringify(body), {
    status,
    headers: { 'Content-Type': 'application/json', 'X-Page-Version': version },
  })

describe('the client', () => {
  it('never throws: a lost connection is a problem of status 0, a refusal names its fields', async () => {
    answers(
      new TypeError('gone'),
      json({ detail: 'no', errors: [{ location: 'body.mass', message: 'type a mass' }] }, 422),
    )
    const lost = await ask(api.GET('/api/clock'))
    expect(lost.problem?.status).toBe(0)
    const refused = await ask(api.GET('/api/clock'))
    expect(refused.problem?.status).toBe(422)
    expect(fieldProblem(refused.problem, 'mass')).toBe('type a mass')
    expect(fieldProblem(refused.problem, 'name')).toBe('')
  })
  it('tells once when the server has newer pages', async () => {
    const told = vi.fn()
    whenNewer(told)
    answers(json({ nowMs: 1 }), json({ nowMs: 2 }), json({ nowMs: 3 }, 200, 'b'), json({ nowMs: 4 }, 200, 'b'))
    for (let i = 0; i < 4; i++) await ask(api.GET('/api/clock'))
    expect(told).toHaveBeenCalledTimes(1)
  })
  it('names new things with 26 letters and digits of chance', () => {
    const ids = new Set(Array.from({ length: 500 }, newId))
    expect(ids.size).toBe(500)
    for (const id of ids) expect(id).toMatch(/^[0-9a-z]{26}$/)
  })
})
