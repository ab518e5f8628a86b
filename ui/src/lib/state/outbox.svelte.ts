// What was done in class and has not reached the server yet: presses of the
// clock and lines of the log. They lie in the browser's own database, each with
// its id and the instant it was done, survive the page, and are sent in order,
// again and again until the server has taken or refused them.
import { openDB, type DBSchema, type IDBPDatabase } from 'idb'
import { api, ask, newId, type Answer, type Log, type LogSheet, type Problem, type Schemas } from '../api/client'

export interface Press {
  kind: 'press'
  run: string
  body: Schemas['Press'] & { atMs: number }
}
export interface Line {
  kind: 'line'
  occurrence: string
  subject: string
  slot: string
  body: Schemas['LogInput'] & { atMs: number }
}
/** The whole class went as planned, but for what is written already. */
export interface Planned {
  kind: 'planned'
  occurrence: string
  body: Schemas['AsPlanned'] & { atMs: number }
}
export type Message = Press | Line | Planned

/** What a view is told of its messages: the server's answer, in the order sent. */
export interface Listener {
  run?: (run: string, now: Schemas['RunNow']) => void
  sheet?: (occurrence: string, sheet: LogSheet) => void
  log?: (occurrence: string, log: Log) => void
}

interface Schema extends DBSchema {
  letter: { key: number; value: Message & { id: string } }
}

const firstWait = 1000
const longestWait = 8000
/** Answers that say "not now" rather than "no". */
const later = (p: Problem) => p.status === 0 || p.status === 429 || p.status >= 500

/**
 * This device's name, and the number of what is done on it next: so the server keeps
 * its presses and lines in their order whatever becomes of the clock. A browser that
 * keeps nothing is a new device for each page.
 */
class Device {
  private name = newId()
  private n = 0
  private kept(key: string): string | null {
    try {
      return localStorage.getItem(key)
    } catch {
      return null
    }
  }
  next(): { device: string; n: number } {
    const name = this.kept('device')
    if (name) this.name = name
    this.n = Math.max(this.n, Number(this.kept('device-n')) || 0) + 1
    try {
      localStorage.setItem('device', this.name)
      localStorage.setItem('device-n', String(this.n))
    } catch {
      // numbered as long as the page lives
    }
    return { device: this.name, n: this.n }
  }
}
const device = new Device()

export class Outbox {
  /** Still to be sent, in order. */
  waiting = $state.raw<(Message & { id: string })[]>([])
  /** The last try got no answer. */
  stuck = $state(false)
  /** What the server said no to. */
  refused = $state<Problem>()
  private db: IDBPDatabase<Schema> | undefined
  /** Work on the database, one thing after the other. */
  private chain: Promise<void>
  /** Where messages lie in the database, by id. */
  private keys = new Map<string, number>()
  private listeners = new Set<Listener>()
  private sending = false
  private wake: () => void = () => undefined

  constructor(name = 'outbox') {
    this.chain = this.open(name)
  }

  private async open(name: string): Promise<void> {
    try {
      this.db = await openDB<Schema>(name, 1, {
        upgrade: (db) => void db.createObjectStore('letter', { autoIncrement: true }),
      })
    } catch {
      this.db = undefined // a browser that keeps nothing: messages live as long as the page
    }
  }

  /** Begins to send what an earlier page left, and again whenever the network comes back. */
  start(): void {
    addEventListener('online', () => this.wake())
    void this.send()
  }

  subscribe(l: Listener): () => void {
    this.listeners.add(l)
    return () => this.listeners.delete(l)
  }

  post(message: Message): void {
    const kept = { ...message, id: newId(), body: { ...message.body, ...device.next() } } as Message & { id: string }
    this.waiting = [...this.waiting, kept]
    this.chain = this.chain.then(async () => {
      try {
        if (this.db) this.keys.set(kept.id, await this.db.add('letter', kept))
      } catch {
        // A full disk: the message is sent from memory.
      }
    })
    void this.send()
  }

  /** The presses of a run that the server has not counted yet. */
  presses(run: string): Press[] {
    return this.waiting.filter((l): l is Press & { id: string } => l.kind === 'press' && l.run === run)
  }

  /** What was typed last in a line of the log, while it is on its way. */
  line(occurrence: string, subject: string, slot: string): Line['body'] | undefined {
    const mine = (l: Message): l is Line =>
      l.kind === 'line' && l.occurrence === occurrence && l.subject === subject && l.slot === slot
    return (this.waiting as Message[]).findLast(mine)?.body
  }

  /** Whether a class was said to have gone as planned, and that is on its way. */
  planned(occurrence: string): boolean {
    return this.waiting.some((l) => l.kind === 'planned' && l.occurrence === occurrence)
  }

  // One window sends at a time, where the browser can tell windows apart.
  private async send(): Promise<void> {
    if (this.sending) return
    this.sending = true
    const drain = () => this.drain()
    await ('locks' in navigator ? navigator.locks.request('outbox', drain) : drain())
    this.sending = false
    if (this.waiting.length > 0) void this.send()
  }

  private async drain(): Promise<void> {
    await this.gather()
    let wait = firstWait
    while (this.waiting.length > 0) {
      const next = this.waiting[0]!
      const { data, problem } = await this.deliver(next)
      if (problem && later(problem)) {
        this.stuck = true
        await new Promise<void>((done) => {
          this.wake = done
          setTimeout(done, wait)
        })
        wait = Math.min(wait * 2, longestWait)
        continue
      }
      wait = firstWait
      this.stuck = false
      this.refused = problem ?? this.refused
      await this.forget(next.id)
      // Gone from here and counted there in one step, so that no screen shows a
      // press twice or not at all.
      this.waiting = this.waiting.filter((l) => l.id !== next.id)
      if (data) this.tell(next, data)
    }
    this.stuck = false
  }

  /** Takes in what other windows and earlier pages left, and drops what they have sent. */
  private async gather(): Promise<void> {
    await this.chain
    if (!this.db) return
    const [keys, messages] = await Promise.all([this.db.getAllKeys('letter'), this.db.getAll('letter')])
    const sent = (l: { id: string }) => this.keys.has(l.id) && !messages.some((k) => k.id === l.id)
    const fresh = this.waiting.filter((l) => !sent(l) && !messages.some((k) => k.id === l.id))
    this.keys = new Map(messages.map((l, i) => [l.id, keys[i]!]))
    this.waiting = [...messages, ...fresh]
  }

  private async forget(id: string): Promise<void> {
    await this.chain
    const key = this.keys.get(id)
    this.keys.delete(id)
    if (key !== undefined) await this.db?.delete('letter', key).catch(() => undefined)
  }

  private deliver(l: Message): Promise<Answer<unknown>> {
    if (l.kind === 'press')
      return ask(api.POST('/api/runs/{run}/events', { params: { path: { run: l.run } }, body: l.body }))
    if (l.kind === 'planned') {
      const path = { occurrence: l.occurrence }
      return ask(api.POST('/api/occurrences/{occurrence}/log/as-planned', { params: { path }, body: l.body }))
    }
    const { occurrence, subject, slot } = l
    const path = { occurrence, subject, slot }
    return ask(api.PUT('/api/occurrences/{occurrence}/log/{subject}/{slot}', { params: { path }, body: l.body }))
  }

  private tell(l: Message, data: unknown): void {
    for (const f of this.listeners) {
      if (l.kind === 'press') f.run?.(l.run, data as Schemas['RunNow'])
      else if (l.kind === 'planned') f.log?.(l.occurrence, data as Log)
      else f.sheet?.(l.occurrence, data as LogSheet)
    }
  }
}

export const outbox = new Outbox()
