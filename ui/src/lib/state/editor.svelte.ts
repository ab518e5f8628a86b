// The circuit being edited. Edits go to the server one after the other, each
// with the version it came from; the answer says what changed. An edit
// that gets no answer stays and is sent again with the same id. Edits from a
// version that another window has left behind are kept by the server as a version
// of their own; then the newest is shown, with the other to compare.
import { api, ask, newId, type Answer, type Circuit, type Op, type Problem, type Schemas } from '../api/client'
import { changed } from './changed'

type Change = (circuit: Circuit, clientId: string, base: number) => Promise<Answer<Schemas['Edited']>>

const retryMs = 1500

export class Editor {
  circuit = $state.raw<Circuit>()
  state = $state<'saved' | 'saving' | 'unsaved'>('saved')
  problem = $state<Problem>()
  conflict = $state(false)
  /** Counts what the server has taken or refused: fields then show what stands. */
  answers = $state(0)
  /** The version that holds this window's edits beside the newest, after a conflict. */
  beside = $state<number>()
  private queue: { change: Change; clientId: string; can: (c: Circuit) => boolean }[] = []
  private busy = false
  private gone = false
  /** While edits go beside: the version the next of them comes from. */
  private chain: number | undefined

  async load(id: string): Promise<void> {
    const { data, problem } = await ask(api.GET('/api/circuits/{circuit}', { params: { path: { circuit: id } } }))
    if (data) this.circuit = data
    this.problem = problem
  }

  edit(...ops: Op[]): void {
    this.push((c, clientId, base) =>
      ask(
        api.POST('/api/circuits/{circuit}/edits', {
          params: { path: { circuit: c.id } },
          body: { clientId, base, ops },
        }),
      ),
    )
  }

  /** One more than there is to undo does nothing, quietly; so does redo. */
  undo(): void {
    this.push(
      (c, clientId, base) =>
        ask(
          api.POST('/api/circuits/{circuit}/undo', {
            params: { path: { circuit: c.id } },
            body: { clientId, base },
          }),
        ),
      (c) => c.canUndo,
    )
  }

  redo(): void {
    this.push(
      (c, clientId, base) =>
        ask(
          api.POST('/api/circuits/{circuit}/redo', {
            params: { path: { circuit: c.id } },
            body: { clientId, base },
          }),
        ),
      (c) => c.canRedo,
    )
  }

  addSlot(pattern: Schemas['AddSlotInput']['pattern'], place: number): void {
    this.push((c, clientId, base) =>
      ask(
        api.POST('/api/circuits/{circuit}/slots', {
          params: { path: { circuit: c.id } },
          body: { clientId, base, pattern, place },
        }),
      ),
    )
  }

  /** Brings a past version back as the newest. */
  restore(version: number): void {
    this.push((c, clientId, base) =>
      ask(
        api.POST('/api/circuits/{circuit}/restore', {
          params: { path: { circuit: c.id } },
          body: { clientId, base, version },
        }),
      ),
    )
  }

  /** Shows what an edit made of the circuit; of another than is shown it is loaded. */
  private async take(e: Schemas['Edited']): Promise<void> {
    if (e.circuit) this.circuit = e.circuit
    else if (e.change && this.circuit && e.change.from === this.circuit.tag)
      this.circuit = changed(this.circuit, e.change)
    else if (this.circuit) await this.load(this.circuit.id)
  }

  leave(): void {
    this.gone = true
  }

  private push(change: Change, can: (c: Circuit) => boolean = () => true): void {
    this.queue.push({ change, clientId: newId(), can })
    void this.drain()
  }

  private async drain(): Promise<void> {
    if (this.busy) return
    this.busy = true
    while (this.queue.length > 0 && this.circuit && !this.gone) {
      if (this.state === 'saved') this.state = 'saving'
      const next = this.queue[0]!
      if (this.chain === undefined && !next.can(this.circuit)) {
        this.queue.shift()
        continue
      }
      // What was typed on top of an edit that went beside belongs there too.
      const { data, problem } = await next.change(this.circuit, next.clientId, this.chain ?? this.circuit.version)
      if (problem && (problem.status === 0 || problem.status >= 500)) {
        this.state = 'unsaved'
        this.problem = problem.status === 0 ? undefined : problem // what the operator must mend
        await new Promise((done) => setTimeout(done, retryMs))
        continue
      }
      this.queue.shift()
      this.answers++
      if (problem?.status === 409) {
        this.conflict = true
        this.chain = this.beside = problem.beside ?? this.chain
        if (!problem.beside) this.queue = []
        if (this.queue.length === 0) {
          this.chain = undefined
          await this.load(this.circuit.id)
        }
        continue
      }
      this.problem = problem
      if (data) {
        await this.take(data)
        this.conflict = false
        this.beside = undefined
      }
    }
    this.state = 'saved'
    this.busy = false
  }
}
