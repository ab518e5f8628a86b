import { afterEach, describe, expect, it, vi } from 'vitest'
import { api, ask, asking, asItStands, fieldProblem, newId, textOf, whenNewer, type Schemas } from './client'

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
  it('gives up what a view no longer asks: its request ends, and its answer is dropped', async () => {
    const asked: Request[] = []
    const answer: ((r: Response) => void)[] = []
    vi.stubGlobal('fetch', (r: Request) => {
      asked.push(r)
      return new Promise<Response>((done) => answer.push(done))
    })
    const heard: number[] = []
    const look = () =>
      asking(
        (signal) => api.GET('/api/clock', { signal }),
        (a) => heard.push(a.data?.nowMs ?? -1),
      )
    const giveUp = look()
    await vi.waitFor(() => expect(asked.length).toBe(1))
    giveUp()
    look()
    await vi.waitFor(() => expect(asked.length).toBe(2))
    expect(asked.map((r) => r.signal.aborted)).toEqual([true, false])
    answer[1]!(json({ nowMs: 2 }))
    answer[0]!(json({ nowMs: 1 })) // late
    await vi.waitFor(() => expect(heard.length).toBeGreaterThan(0))
    await new Promise((done) => setTimeout(done, 20))
    expect(heard).toEqual([2])
  })
  it('tells once when the server has newer pages', async () => {
    const told = vi.fn()
    whenNewer(told)
    answers(json({ nowMs: 1 }), json({ nowMs: 2 }), json({ nowMs: 3 }, 200, 'b'), json({ nowMs: 4 }, 200, 'b'))
    for (let i = 0; i < 4; i++) await ask(api.GET('/api/clock'))
    expect(told).toHaveBeenCalledTimes(1)
  })
  it('reads a file as UTF-8 or not at all, and sends it as it stands', async () => {
    const file = (...bytes: number[]) =>
      ({ arrayBuffer: () => Promise.resolve(Uint8Array.from(bytes).buffer) }) as unknown as Blob
    expect(await textOf(file(0x47, 0x6c, 0xc3, 0xbc, 0x68))).toBe('Glüh')
    expect(await textOf(file(0x47, 0x6c, 0xfc, 0x68))).toBeNull() // the same in Windows-1252
    let sent = ''
    vi.stubGlobal('fetch', async (r: Request) => {
      sent = await r.text()
      return json({})
    })
    await ask(api.POST('/api/own-moves/preview', { body: {} as Schemas['File'], ...asItStands('{"v":1,"v":2}') }))
    expect(sent).toBe('{"v":1,"v":2}')
  })
  it('names new things with 26 letters and digits of chance', () => {
    const ids = new Set(Array.from({ length: 500 }, newId))
    expect(ids.size).toBe(500)
    for (const id of ids) expect(id).toMatch(/^[0-9a-z]{26}$/)
  })
})
