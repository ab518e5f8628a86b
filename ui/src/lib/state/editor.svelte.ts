// The circuit being edited. Edits go through the outbox, one after the other, each with the
// version it came from; the answer says what changed. An edit that gets no answer stays, on
// a page that is opened later too, and is sent again with the same id. Edits from a version
// that another window has left behind are kept by the server as a version of their own;
// then the newest is shown, with the other to compare.
import { api, ask, newId, type Answer, type Circuit, type Op, type Problem, type Schemas } from '../api/client'
import { changed } from './changed'
import { outbox, type Edit, type Outbox, type Outcome } from './outbox.svelte'

export class Editor {
  circuit = $state.raw<Circuit>()
  conflict = $state(false)
  /** Counts what the server has taken or refused: fields then show what stands. */
  answers = $state(0)
  /** The version that holds this window's edits beside the newest, after a conflict. */
  beside = $state<number>()
  private refusal = $state<Problem>()
  private readonly queue: Outbox
  private readonly unsubscribe: () => void
  private idle: (() => void)[] = []

  constructor(queue: Outbox = outbox) {
    this.queue = queue
    this.unsubscribe = queue.subscribe({ edit: (edit, outcome) => this.hear(edit, outcome) })
  }

  private get waiting(): boolean {
    const id = this.circuit?.id
    return this.queue.waiting.some((m) => m.kind === 'edit' && m.circuit === id)
  }
  get state(): 'saved' | 'saving' | 'unsaved' {
    if (!this.waiting) return 'saved'
    return this.queue.stuck ? 'unsaved' : 'saving'
  }
  /** Why the last edit was refused, or what the operator must mend before the next goes. */
  get problem(): Problem | undefined {
    return (this.waiting ? this.queue.trouble : undefined) ?? this.refusal
  }

  async load(id: string): Promise<void> {
    const { data, problem } = await ask(api.GET('/api/circuits/{circuit}', { params: { path: { circuit: id } } }))
    if (data) this.circuit = data
    this.refusal = problem
  }

  /** Reads the circuit again, once every edit has been taken: the house has changed about it. */
  async again(): Promise<void> {
    await this.settled()
    if (this.circuit) await this.load(this.circuit.id)
  }

  edit(...ops: Op[]): void {
    this.post((body) => ({ call: 'edits', body: { ...body, ops } }))
  }

  /** One more than there is to undo does nothing, quietly; so does redo. */
  undo(): void {
    if (this.waiting || this.circuit?.canUndo) this.post((body) => ({ call: 'undo', body }))
  }

  redo(): void {
    if (this.waiting || this.circuit?.canRedo) this.post((body) => ({ call: 'redo', body }))
  }

  /** Brings the circuit into its minutes. */
  fit(): void {
    this.post((body) => ({ call: 'fit', body }))
  }

  addSlot(blockId: string, pattern: Schemas['AddSlotInput']['pattern'], place: number): void {
    this.post((body) => ({ call: 'slots', body: { ...body, blockId, pattern, place } }))
  }

  /** Brings a past version back as the newest. */
  restore(version: number): void {
    this.post((body) => ({ call: 'restore', body: { ...body, version } }))
  }

  /** Asks for a proposal in place of the circuit, once every edit has been taken; it may be
   * given up. */
  async propose(brief: Schemas['ProposalBrief'], signal: AbortSignal): Promise<Answer<Schemas['Proposed']>> {
    await this.settled()
    const c = this.circuit!
    const answer = await ask(
      api.POST('/api/circuits/{circuit}/propose', {
        params: { path: { circuit: c.id } },
        body: { clientId: newId(), base: c.version, brief },
        signal,
      }),
    )
    if (answer.data?.circuit) this.circuit = answer.data.circuit
    return answer
  }

  /** Puts another session in place of the circuit, once every edit has been taken. */
  async replace(from: Schemas['Source']): Promise<Answer<Schemas['Proposed']>> {
    await this.settled()
    const c = this.circuit!
    const answer = await ask(
      api.POST('/api/circuits/{circuit}/again', {
        params: { path: { circuit: c.id } },
        body: { clientId: newId(), base: c.version, from },
      }),
    )
    if (answer.data?.circuit) this.circuit = answer.data.circuit
    return answer
  }

  /** Changes the plan as little as can be for the day as it came. */
  async day(day: Schemas['Day']): Promise<Answer<Schemas['DayDone']>> {
    await this.settled()
    const c = this.circuit!
    const answer = await ask(
      api.POST('/api/circuits/{circuit}/day', {
        params: { path: { circuit: c.id } },
        body: { clientId: newId(), base: c.version, day },
      }),
    )
    if (answer.data) await this.take(answer.data)
    return answer
  }

  /** Asks for the first proposal of a class, or makes it from a session. */
  async create(
    occurrenceId: string,
    by: Pick<Schemas['CreateCircuit'], 'brief' | 'from'>,
    signal?: AbortSignal,
  ): Promise<Answer<Schemas['Proposed']>> {
    const answer = await ask(
      api.PUT('/api/circuits/{circuit}', {
        params: { path: { circuit: newId() } },
        body: { occurrenceId, clientId: newId(), ...by },
        ...(signal ? { signal } : {}),
      }),
    )
    if (answer.data?.circuit) this.circuit = answer.data.circuit
    return answer
  }

  leave(): void {
    this.unsubscribe()
  }

  private post(of: (body: Schemas['Revision']) => Pick<Edit, 'call' | 'body'>): void {
    const c = this.circuit
    if (!c) return
    const call = of({ clientId: newId(), base: c.version })
    this.queue.post({ kind: 'edit', circuit: c.id, base: c.version, page: this.queue.page, ...call } as Edit)
  }

  private async settled(): Promise<void> {
    while (this.waiting) await new Promise<void>((done) => this.idle.push(done))
  }

  /** Shows what became of an edit of the circuit that is shown. */
  private async hear(edit: Edit, { data, problem }: Outcome): Promise<boolean> {
    if (edit.circuit !== this.circuit?.id) return false
    const mine = edit.page === this.queue.page && (data ?? problem)
    this.answers++
    if (problem?.status === 409) {
      this.conflict = true
      this.beside = problem.beside ?? this.beside
      if (!this.waiting) await this.load(this.circuit.id)
    } else {
      this.refusal = problem
      if (!mine) {
        await this.load(this.circuit.id) // of an earlier page, or sent by another
      } else if (data) {
        await this.take(data)
        this.conflict = false
        this.beside = undefined
      }
    }
    for (const done of this.idle.splice(0)) done()
    return true
  }

  /** Shows what an edit made of the circuit; of another than is shown it is loaded. */
  private async take(e: Schemas['Edited']): Promise<void> {
    if (e.circuit) this.circuit = e.circuit
    else if (e.change && this.circuit && e.change.from === this.circuit.tag)
      this.circuit = changed(this.circuit, e.change)
    else if (this.circuit) await this.load(this.circuit.id)
  }
}
