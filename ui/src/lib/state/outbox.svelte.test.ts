import 'fake-indexeddb/auto'
import { IDBFactory } from 'fake-indexeddb'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { Outbox, type Message } from './outbox.svelte'

// The server is a list of what it took; it may be away or lose an answer.
let took: { url: string; body: { clientId?: string; atMs: number } }[] = []
let fate: ('answer' | 'away' | 'lose the answer' | 'busy' | 'refuse' | 'no end')[] = []

beforeEach(() => {
  vi.stubGlobal('indexedDB', new IDBFactory())
  took = []
  fate = []
  vi.stubGlobal(
    'fetch',
    vi.fn(async (r: Request) => {
      const f = fate.length > 1 ? fate.shift() : fate[0]
      if (f === 'no end') return new Promise<Response>(() => undefined)
      if (f === 'away') throw new TypeError('no connection')
      const type = { headers: { 'Content-Type': 'application/json' } }
      if (f === 'busy') return new Response('{"detail":"busy"}', { status: 503, ...type })
      if (f === 'refuse') return new Response('{"detail":"no such run"}', { status: 404, ...type })
      took.push({ url: new URL(r.url).pathname, body: (await r.json()) as { atMs: number } })
      if (f === 'lose the answer') throw new TypeError('no connection')
      return new Response(JSON.stringify({ events: took.length }), type)
    }),
  )
})
afterEach(() => vi.unstubAllGlobals())

const press = (n: number): Message => ({ kind: 'press', run: 'r', body: { clientId: `c${n}`, kind: 'skip', atMs: n } })
const line = (done: number): Message => ({
  kind: 'line',
  occurrence: 'o',
  subject: 's',
  slot: 'x',
  body: { done, inForm: done, pain: 'none', atMs: done },
})
const until = (f: () => boolean) => vi.waitFor(() => expect(f()).toBe(true), { timeout: 5000 })
const instants = () => took.map((x) => x.body.atMs)

describe('the outbox', () => {
  it('sends in order, and tells each answer once its message is no longer waiting', async () => {
    fate = ['answer']
    const o = new Outbox()
    const heard: [number, number][] = []
    o.subscribe({ run: (_, now) => heard.push([now.events, o.presses('r').length]) })
    for (const n of [1, 2, 3]) o.post(press(n))
    expect(o.presses('r').map((p) => p.body.atMs)).toEqual([1, 2, 3])
    await until(() => heard.length === 3)
    expect(instants()).toEqual([1, 2, 3])
    expect(heard).toEqual([
      [1, 2],
      [2, 1],
      [3, 0],
    ])
  })
  it('keeps what no server took, for the next page too, and sends it with its id and instant', async () => {
    fate = ['no end'] // the page is closed while it asks
    const first = new Outbox()
    first.post(press(1))
    first.post(line(8))
    first.post(line(9))
    first.post({ kind: 'sore', occurrence: 'o', subject: 's', body: { region: 'knee', atMs: 10 } }) // sought in the lines
    expect(first.line('o', 's', 'x')?.done).toBe(9)
    await until(() => vi.mocked(fetch).mock.calls.length === 1)
    fate = ['away']
    const next = new Outbox() // the same browser, a new page, still no server
    next.start()
    await until(() => next.waiting.length === 4)
    expect(next.line('o', 's', 'x')?.done).toBe(9)
    expect([next.sore('o', 's'), next.sore('o', 'else')]).toEqual([['knee'], []])
    await until(() => next.stuck)
    fate = ['answer']
    dispatchEvent(new Event('online'))
    await until(() => next.waiting.length === 0)
    expect(instants()).toEqual([1, 8, 9, 10])
    expect(took[0]!.body.clientId).toBe('c1')
  })
  it('sends again with the same id when the answer was lost or the server was busy', async () => {
    fate = ['lose the answer', 'busy', 'answer']
    const o = new Outbox()
    o.start()
    o.post(press(1))
    await until(() => took.length === 1)
    dispatchEvent(new Event('online'))
    await until(() => o.waiting.length === 0)
    expect(took.map((x) => x.body.clientId)).toEqual(['c1', 'c1'])
  })
  it('says what the server refused, and goes on with the rest', async () => {
    fate = ['refuse', 'answer']
    const o = new Outbox()
    o.post(press(1))
    o.post(press(2))
    await until(() => o.waiting.length === 0)
    expect(o.refused?.detail).toBe('no such run')
    expect(instants()).toEqual([2])
  })
  it('lets what waits for one class hold up no other', async () => {
    vi.stubGlobal(
      'fetch',
      vi.fn(async (r: Request) => {
        const body = (await r.json()) as { atMs: number }
        if (r.url.includes('/runs/')) return new Response('{"detail":"broken"}', { status: 500 })
        took.push({ url: new URL(r.url).pathname, body })
        return new Response('{}', { headers: { 'Content-Type': 'application/json' } })
      }),
    )
    const o = new Outbox()
    o.post(press(1))
    o.post(line(8))
    o.post(press(2))
    o.post(line(9))
    await until(() => took.length === 2)
    expect(instants()).toEqual([8, 9])
    expect(o.presses('r').length).toBe(2)
    expect(o.stuck).toBe(true)
  })
  it('numbers what is done on this device, from page to page', async () => {
    fate = ['answer']
    const first = new Outbox()
    first.post(press(1))
    first.post(line(8))
    await until(() => first.waiting.length === 0)
    const next = new Outbox()
    next.post(press(2))
    await until(() => took.length === 3)
    const [a, b, c] = took.map((x) => x.body as { device?: string; n?: number })
    expect(a!.device).toMatch(/^[0-9a-z]{26}$/)
    expect([b!.device, c!.device]).toEqual([a!.device, a!.device])
    expect([b!.n! - a!.n!, c!.n! - b!.n!]).toEqual([1, 1])
  })
  it('works in a browser that keeps nothing', async () => {
    vi.stubGlobal('indexedDB', undefined)
    fate = ['away', 'answer']
    const o = new Outbox()
    o.start()
    o.post(press(1))
    await until(() => o.stuck)
    dispatchEvent(new Event('online'))
    await until(() => o.waiting.length === 0)
    expect(instants()).toEqual([1])
  })
})
