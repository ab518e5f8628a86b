import 'fake-indexeddb/auto'
import { IDBFactory } from 'fake-indexeddb'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import type { Cell, Circuit, SlotPlan } from '../api/client'
import { Editor } from './editor.svelte'
import { Outbox } from './outbox.svelte'

// The server is played by a list of answers; what was asked is kept.
interface Asked {
  url: string
  body: { base?: number; clientId?: string; ops?: unknown[] }
}
let asked: Asked[] = []
let answers: ((a: Asked) => Promise<Response> | Response)[] = []

const circuit = (version: number) =>
  ({ id: 'c'.repeat(26), tag: `"${version}"`, version, canUndo: version > 1 }) as Circuit
const edited = (version: number) => ({ circuit: circuit(version) })
const json = (body: unknown, status = 200) =>
  new Response(JSON.stringify(body), { status, headers: { 'Content-Type': 'application/json' } })
const settled = () => vi.runAllTimersAsync()

beforeEach(() => {
  vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout', 'setImmediate', 'clearImmediate'] })
  vi.stubGlobal('indexedDB', new IDBFactory())
  asked = []
  answers = []
  vi.stubGlobal(
    'fetch',
    vi.fn(async (r: Request) => {
      const text = r.method === 'GET' ? '' : await r.text()
      const a: Asked = { url: new URL(r.url).pathname, body: text ? (JSON.parse(text) as Asked['body']) : {} }
      asked.push(a)
      const next = answers.shift()
      if (!next) throw new TypeError('no connection')
      return next(a)
    }),
  )
})
afterEach(() => {
  vi.useRealTimers()
  vi.unstubAllGlobals()
})

function editing(version = 1): Editor {
  const e = new Editor(new Outbox())
  e.circuit = circuit(version)
  return e
}

describe('the editor', () => {
  it('sends edits one after the other, each from the version before', async () => {
    const e = editing()
    answers = [() => json(edited(2)), () => json(edited(3)), () => json(edited(4))]
    e.edit({ op: 'set-waves', slotId: 's1', count: 2 })
    e.edit({ op: 'set-waves', slotId: 's1', count: 3 })
    e.undo()
    expect(asked.length).toBeLessThanOrEqual(1)
    await settled()
    expect(asked.map((a) => a.body.base)).toEqual([1, 2, 3])
    expect(asked[2]?.url).toMatch(/undo$/)
    expect(new Set(asked.map((a) => a.body.clientId)).size).toBe(3)
    expect(e.circuit?.version).toBe(4)
    expect(e.state).toBe('saved')
  })

  it('keeps an edit that got no answer, says so, and sends it again with the same id', async () => {
    const e = editing()
    answers = [
      () => Promise.reject(new TypeError('gone')),
      () => json({ detail: 'the database is away' }, 503),
      () => json(edited(2)),
    ]
    e.edit({ op: 'set-waves', slotId: 's1', count: 2 })
    await vi.advanceTimersByTimeAsync(100)
    expect(e.state).toBe('unsaved')
    expect(e.circuit?.version).toBe(1) // what is seen stays
    await settled()
    expect(asked.length).toBe(3)
    expect(new Set(asked.map((a) => a.body.clientId)).size).toBe(1)
    expect(e.state).toBe('saved')
    expect(e.circuit?.version).toBe(2)
  })

  it('tells of a refused edit and goes on with the next', async () => {
    const e = editing()
    answers = [
      () => json({ detail: 'one field is wrong', errors: [{ location: 'body.rounds', message: 'from 1 to 20' }] }, 422),
      () => json(edited(2)),
    ]
    e.edit({ op: 'set-waves', slotId: 's1', count: 99 })
    await settled()
    expect(e.problem?.errors?.[0]?.message).toBe('from 1 to 20')
    e.edit({ op: 'set-waves', slotId: 's1', count: 2 })
    await settled()
    expect(e.problem).toBeUndefined()
    expect(e.circuit?.version).toBe(2)
  })

  it('lets the edits from an old version become a version of their own, then shows the newest', async () => {
    const e = editing()
    answers = [
      () => json({ detail: 'kept beside', beside: 8 }, 409),
      () => json({ detail: 'kept beside', beside: 9 }, 409),
      () => json(circuit(7)),
    ]
    e.edit({ op: 'set-waves', slotId: 's1', count: 2 })
    e.edit({ op: 'set-waves', slotId: 's1', count: 3 })
    await settled()
    expect(asked.map((a) => a.body.base)).toEqual([1, 8, undefined])
    expect(e.conflict).toBe(true)
    expect(e.beside).toBe(9)
    expect(e.circuit?.version).toBe(7)
    answers = [() => json(edited(10))]
    e.edit({ op: 'set-waves', slotId: 's1', count: 4 })
    await settled()
    expect(asked.at(-1)?.body.base).toBe(7)
    expect(e.conflict).toBe(false)
  })

  it('shows the newest after an undo that came too late, which is kept nowhere', async () => {
    const e = editing()
    e.circuit = circuit(2)
    answers = [() => json({ detail: 'changed elsewhere' }, 409), () => json(circuit(7))]
    e.undo()
    e.undo()
    await settled()
    expect(asked.map((a) => a.url.split('/').at(-1))).toEqual(['undo', 'c'.repeat(26)])
    expect(e.conflict).toBe(true)
    expect(e.beside).toBeUndefined()
  })

  it('leaves what was not sent to the next page, which sends it from the same version and shows it', async () => {
    const away = new Promise<Response>(() => undefined)
    answers = [() => away]
    const first = editing()
    first.edit({ op: 'set-waves', slotId: 's1', count: 2 })
    first.edit({ op: 'set-waves', slotId: 's1', count: 3 })
    await vi.advanceTimersByTimeAsync(100)
    expect(asked.length).toBe(1) // the page is closed while it asks
    const queue = new Outbox()
    const next = new Editor(queue)
    next.circuit = circuit(1)
    answers = [() => json(edited(2)), () => json(circuit(2)), () => json(edited(3)), () => json(circuit(3))]
    queue.start()
    await settled()
    expect(asked.map((a) => a.body.base)).toEqual([1, 1, undefined, 2, undefined])
    expect(asked[1]?.body.clientId).toBe(asked[0]?.body.clientId)
    expect(next.circuit.version).toBe(3)
    expect(next.state).toBe('saved')
  })

  it('asks for a proposal once every edit has been taken, from what they made', async () => {
    const e = editing()
    answers = [() => json(edited(2)), () => json({ feasible: true, circuit: circuit(3) })]
    e.edit({ op: 'set-waves', slotId: 's1', count: 2 })
    const proposed = e.propose({ minutes: 45 } as Parameters<Editor['propose']>[0], new AbortController().signal)
    await settled()
    expect((await proposed).data?.feasible).toBe(true)
    expect(asked.map((a) => [a.url.split('/').at(-1), a.body.base])).toEqual([
      ['edits', 1],
      ['propose', 2],
    ])
    expect(e.circuit?.version).toBe(3)
  })

  it('does nothing, quietly, for one undo or redo more than there is', async () => {
    const e = editing()
    e.circuit = circuit(2)
    answers = [() => json(edited(1))]
    e.undo()
    e.undo()
    e.redo()
    await settled()
    expect(asked.length).toBe(1)
    expect(e.problem).toBeUndefined()
    expect(e.state).toBe('saved')
  })

  it('lays what changed over what is shown, and loads the circuit when something else is shown', async () => {
    const e = editing()
    const cell = (party: string, reps: number) => ({ party, reps }) as Cell
    const slot = (id: string, slotMs: number) =>
      ({ id, slotMs, cells: [cell('ground', 1), cell('reach', 2)] }) as SlotPlan
    const [a, b, d] = [slot('s1', 1), slot('s2', 2), slot('s4', 4)]
    const shown = {
      ...circuit(1),
      items: [{ id: 'bell' }],
      plan: { totalMs: 3, order: { totalMs: 3 }, slots: [a, b, d] },
    }
    e.circuit = shown as unknown as Circuit
    const change = (from: number, to: number) => ({
      ...{ from: `"${from}"`, tag: `"${to}"`, version: to, canUndo: true, canRedo: false, document: { v: 2 } },
      plan: {
        totalMs: 5,
        slotIds: ['s2', 's3', 's4'],
        slots: [
          { id: 's3', slotMs: 3, parties: ['middle'], cells: [cell('middle', 3)] },
          { id: 's4', slotMs: 5, parties: ['reach', 'ground'], cells: [cell('ground', 9)] },
        ],
        flags: [],
      },
    })
    answers = [() => json({ change: change(1, 2) }), () => json({ change: change(7, 8) }), () => json(circuit(8))]
    e.edit({ op: 'remove-slot', slotId: 's1' })
    await settled()
    expect(e.circuit).toMatchObject({ version: 2, tag: '"2"', canUndo: true, document: { v: 2 }, plan: { totalMs: 5 } })
    expect(e.circuit.items).toBe(shown.items) // the same object: nothing of it is drawn anew
    expect(e.circuit.plan.order).toBe(shown.plan.order)
    expect(e.circuit.plan.slots.map((s) => s.id)).toEqual(['s2', 's3', 's4'])
    expect(e.circuit.plan.slots[1]?.cells).toEqual([cell('middle', 3)])
    expect(e.circuit.plan.slots[2]?.cells).toEqual([cell('reach', 2), cell('ground', 9)])
    expect(e.circuit.plan.slots[2]?.cells[0]).toBe(d.cells[1])
    expect(e.circuit.plan.slots[0]).toBe(b)
    e.undo()
    await settled()
    expect(asked.at(-1)?.url).toBe(`/api/circuits/${'c'.repeat(26)}`)
    expect(e.circuit.version).toBe(8)
  })
})
