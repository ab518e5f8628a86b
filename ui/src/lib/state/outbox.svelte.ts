// What was done and has not reached the server yet: edits of a circuit, presses of the
// clock, lines of the log. They lie in the browser's own database, each with its id and,
// where it matters, the instant it was done, survive the page, and are sent in order, again
// and again until the server has taken or refused them. What one circuit, run or class
// waits for holds up no other.
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
/** Somebody was sore the day after, where they should not be. */
export interface Sore {
  kind: 'sore'
  occurrence: string
  subject: string
  body: Schemas['SoreInput'] & { atMs: number }
}
/** An edit of a circuit, from the version that was shown when it was made. */
export type Edit = {
  kind: 'edit'
  circuit: string
  base: number
  /** The page that it was made on: of each page its edits follow each other. */
  page: string
} & (
  | { call: 'edits'; body: Schemas['EditInput'] }
  | { call: 'undo' | 'redo' | 'fit'; body: Schemas['Revision'] }
  | { call: 'slots'; body: Schemas['AddSlotInput'] }
  | { call: 'restore'; body: Schemas['RestoreInput'] }
)
export type Message = Press | Line | Planned | Sore | Edit

/** What became of an edit: what the server made of it, or why it did not; where it was sent
 * by another page, nothing is known but that it is gone. */
export interface Outcome {
  data?: Schemas['Edited']
  problem?: Problem
}

/** What a view is told of its messages: the server's answer, in the order sent. */
export interface Listener {
  run?: (run: string, now: Schemas['RunNow']) => void
  sheet?: (occurrence: string, sheet: LogSheet) => void
  log?: (occurrence: string, log: Log) => void
  /** Whoever shows the circuit says that the outcome is shown; else it is said to everybody. */
  edit?: (edit: Edit, outcome: Outcome) => boolean | Promise<boolean>
}

interface Head {
  version: number
  canUndo: boolean
  canRedo: boolean
}

interface Schema extends DBSchema {
  letter: { key: number; value: Message & { id: string } }
}

const firstWait = 1000
const longestWait = 8000
/** Answers that say "not now" rather than "no". */
const later = (p: Problem) => p.status === 0 || p.status === 429 || p.status >= 500

/** What is sent in its order: the presses of a run, the lines of a class, a page's edits. */
function stream(m: Message): string {
  if (m.kind === 'press') return m.run
  return m.kind === 'edit' ? `${m.circuit} ${m.page}` : m.occurrence
}

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
  /** What the last try failed of, where the server said: for the operator to mend. */
  trouble = $state<Problem>()
  /** The page's own name. */
  readonly page = newId()
  /** What the next edit of a stream comes from: what the one before it made. */
  private heads = new Map<string, Head>()
  private db: IDBPDatabase<Schema> | undefined
  /** Work on the database, one thing after the other. */
  private chain: Promise<void>
  /** Where messages lie in the database, by id. */
  private keys = new Map<string, number>()
  private listeners = new Set<Listener>()
  private sending = false
  /** What earlier pages left has been taken in. */
  private gathered = false
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
    // A circuit's order is that of its versions; presses and lines are numbered.
    const order = message.kind === 'edit' ? {} : device.next()
    const kept = {
      ...$state.snapshot(message),
      id: newId(),
      body: { ...$state.snapshot(message.body), ...order },
    } as Message & { id: string }
    this.waiting = [...this.waiting, kept]
    // An edit that is answered at once need not be written down: what takes longer is.
    if (message.kind === 'edit') setTimeout(() => this.keep(kept), 80)
    else this.keep(kept)
    void this.send()
  }

  /** Writes down what is still to be sent. */
  private keep(kept: Message & { id: string }): void {
    this.chain = this.chain.then(async () => {
      if (!this.waiting.some((m) => m.id === kept.id)) return
      try {
        if (this.db) this.keys.set(kept.id, await this.db.add('letter', kept))
      } catch {
        // A full disk: the message is sent from memory.
      }
    })
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

  /** Where somebody was said to be sore, while that is on its way. */
  sore(occurrence: string, subject: string): Sore['body']['region'][] {
    const mine = (l: Message): l is Sore => l.kind === 'sore' && l.occurrence === occurrence && l.subject === subject
    return (this.waiting as Message[]).filter(mine).map((l) => l.body.region)
  }

  /** The edits of a circuit that were made on a page and are on their way. */
  edits(circuit: string, page = this.page): (Edit & { id: string })[] {
    return this.waiting.filter(
      (l): l is Edit & { id: string } => l.kind === 'edit' && l.circuit === circuit && l.page === page,
    )
  }

  /** Takes back what has not been sent yet. */
  private async drop(messages: { id: string }[]): Promise<void> {
    for (const m of messages) await this.forget(m.id)
    this.waiting = this.waiting.filter((l) => !messages.some((m) => m.id === l.id))
  }

  /** Whether a class was said to have gone as planned, and that is on its way. */
  planned(occurrence: string): boolean {
    return this.waiting.some((l) => l.kind === 'planned' && l.occurrence === occurrence)
  }

  // One window sends at a time, where the browser can tell windows apart. A page's own edits
  // wait neither for that nor for the browser's database, which writes them down meanwhile:
  // somebody looks at the numbers. Sent twice they count once.
  private async send(): Promise<void> {
    if (this.sending) return
    this.sending = true
    const drain = () => this.gather().then(() => this.drain())
    if (this.gathered && this.waiting.every((m) => m.kind === 'edit' && m.page === this.page)) await this.drain()
    else await ('locks' in navigator ? navigator.locks.request('outbox', drain) : drain())
    this.sending = false
    if (this.waiting.length > 0) void this.send()
  }

  private async drain(): Promise<void> {
    let wait = firstWait
    const held = new Set<string>() // streams whose first must wait
    while (this.waiting.length > 0) {
      const next = this.waiting.find((m) => !held.has(stream(m)))
      if (!next) {
        await new Promise<void>((done) => {
          this.wake = done
          setTimeout(done, wait)
        })
        wait = Math.min(wait * 2, longestWait)
        held.clear()
        continue
      }
      if (this.needless(next)) {
        await this.drop([next])
        continue
      }
      const { data, problem } = await this.deliver(next)
      if (problem && later(problem)) {
        this.stuck = true
        this.trouble = problem.status === 0 ? undefined : problem
        // Without a connection nothing goes; else only what this belongs to waits.
        for (const m of problem.status === 0 ? this.waiting : [next]) held.add(stream(m))
        continue
      }
      wait = firstWait
      this.stuck = held.size > 0
      this.trouble = undefined
      if (next.kind !== 'edit') this.refused = problem ?? this.refused
      const forgotten = this.forget(next.id)
      if (next.kind !== 'edit') await forgotten
      // Gone from here and counted there in one step, so that no screen shows a
      // press twice or not at all.
      this.waiting = this.waiting.filter((l) => l.id !== next.id)
      if (next.kind === 'edit') await this.outcome(next, { ...(data ? { data } : {}), ...(problem ? { problem } : {}) })
      else if (data) this.tell(next, data)
    }
    this.stuck = false
    this.trouble = undefined
  }

  /** After an edit: what follows on the same page comes from the version that it made. */
  private async outcome(edit: Edit, { data, problem }: { data?: unknown; problem?: Problem }): Promise<void> {
    const made = data as Schemas['Edited'] | undefined
    const following = this.edits(edit.circuit, edit.page)
    if (problem?.status === 409 && !problem.beside) await this.drop(following) // typed on what is no more
    const head = made?.circuit ?? made?.change
    if (head) this.heads.set(stream(edit), { version: head.version, canUndo: head.canUndo, canRedo: head.canRedo })
    // What was typed on top of an edit that went beside belongs there too.
    if (problem?.beside) this.heads.set(stream(edit), { version: problem.beside, canUndo: true, canRedo: true })
    if (this.edits(edit.circuit, edit.page).length === 0) this.heads.delete(stream(edit))
    let shown = false
    for (const l of this.listeners) {
      const seen = await l.edit?.(edit, { ...(made ? { data: made } : {}), ...(problem ? { problem } : {}) })
      shown = seen === true || shown
    }
    if (!shown) this.refused = problem ?? this.refused
  }

  /** Takes in what other windows and earlier pages left, and drops what they have sent. */
  private async gather(): Promise<void> {
    await this.chain
    this.gathered = true
    if (!this.db) return
    const [keys, messages] = await Promise.all([this.db.getAllKeys('letter'), this.db.getAll('letter')])
    const sent = (l: { id: string }) => this.keys.has(l.id) && !messages.some((k) => k.id === l.id)
    const gone = this.waiting.filter((l): l is Edit & { id: string } => l.kind === 'edit' && sent(l))
    const fresh = this.waiting.filter((l) => !sent(l) && !messages.some((k) => k.id === l.id))
    this.keys = new Map(messages.map((l, i) => [l.id, keys[i]!]))
    this.waiting = [...messages, ...fresh]
    for (const edit of gone) for (const l of this.listeners) await l.edit?.(edit, {})
  }

  private forget(id: string): Promise<void> {
    this.chain = this.chain.then(async () => {
      const key = this.keys.get(id)
      this.keys.delete(id)
      if (key !== undefined) await this.db?.delete('letter', key).catch(() => undefined)
    })
    return this.chain
  }

  private deliver(l: Message): Promise<Answer<unknown>> {
    if (l.kind === 'press')
      return ask(api.POST('/api/runs/{run}/events', { params: { path: { run: l.run } }, body: l.body }))
    if (l.kind === 'edit') return this.change(l)
    if (l.kind === 'planned') {
      const path = { occurrence: l.occurrence }
      return ask(api.POST('/api/occurrences/{occurrence}/log/as-planned', { params: { path }, body: l.body }))
    }
    if (l.kind === 'sore') {
      const path = { occurrence: l.occurrence, subject: l.subject }
      return ask(api.POST('/api/occurrences/{occurrence}/log/{subject}/sore', { params: { path }, body: l.body }))
    }
    const { occurrence, subject, slot } = l
    const path = { occurrence, subject, slot }
    return ask(api.PUT('/api/occurrences/{occurrence}/log/{subject}/{slot}', { params: { path }, body: l.body }))
  }

  /** One undo or redo more than there is. */
  private needless(l: Message): boolean {
    const head = l.kind === 'edit' ? this.heads.get(stream(l)) : undefined
    if (!head || l.kind !== 'edit') return false
    return (l.call === 'undo' && !head.canUndo) || (l.call === 'redo' && !head.canRedo)
  }

  private change(l: Edit): Promise<Answer<unknown>> {
    const params = { path: { circuit: l.circuit } }
    const base = this.heads.get(stream(l))?.version ?? l.base
    switch (l.call) {
      case 'edits':
        return ask(api.POST('/api/circuits/{circuit}/edits', { params, body: { ...l.body, base } }))
      case 'undo':
        return ask(api.POST('/api/circuits/{circuit}/undo', { params, body: { ...l.body, base } }))
      case 'redo':
        return ask(api.POST('/api/circuits/{circuit}/redo', { params, body: { ...l.body, base } }))
      case 'fit':
        return ask(api.POST('/api/circuits/{circuit}/fit', { params, body: { ...l.body, base } }))
      case 'slots':
        return ask(api.POST('/api/circuits/{circuit}/slots', { params, body: { ...l.body, base } }))
      case 'restore':
        return ask(api.POST('/api/circuits/{circuit}/restore', { params, body: { ...l.body, base } }))
    }
  }

  private tell(l: Press | Line | Planned | Sore, data: unknown): void {
    for (const f of this.listeners) {
      if (l.kind === 'press') f.run?.(l.run, data as Schemas['RunNow'])
      else if (l.kind === 'planned') f.log?.(l.occurrence, data as Log)
      else f.sheet?.(l.occurrence, data as LogSheet)
    }
  }
}

export const outbox = new Outbox()
