// The circuit being edited. Edits go to the server one after the other, each
// with the version it came from; the answer replaces everything shown. An edit
// that gets no answer stays and is sent again with the same id.
import { api, ask, newId, type Answer, type Circuit, type Op, type Problem, type Schemas } from '../api/client'

type Change = (circuit: Circuit, clientId: string) => Promise<Answer<Circuit>>

const retryMs = 1500

export class Editor {
  circuit = $state.raw<Circuit>()
  state = $state<'saved' | 'saving' | 'unsaved'>('saved')
  problem = $state<Problem>()
  conflict = $state(false)
  private queue: { change: Change; clientId: string }[] = []
  private busy = false
  private gone = false

  async load(id: string): Promise<void> {
    const { data, problem } = await ask(api.GET('/api/circuits/{circuit}', { params: { path: { circuit: id } } }))
    if (data) this.circuit = data
    this.problem = problem
  }

  edit(...ops: Op[]): void {
    this.push((c, clientId) =>
      ask(
        api.POST('/api/circuits/{circuit}/edits', {
          params: { path: { circuit: c.id } },
          body: { clientId, base: c.version, ops },
        }),
      ),
    )
  }

  undo(): void {
    this.push((c, clientId) =>
      ask(
        api.POST('/api/circuits/{circuit}/undo', {
          params: { path: { circuit: c.id } },
          body: { clientId, base: c.version },
        }),
      ),
    )
  }

  redo(): void {
    this.push((c, clientId) =>
      ask(
        api.POST('/api/circuits/{circuit}/redo', {
          params: { path: { circuit: c.id } },
          body: { clientId, base: c.version },
        }),
      ),
    )
  }

  addSlot(pattern: Schemas['AddSlotInput']['pattern'], place: number): void {
    this.push((c, clientId) =>
      ask(
        api.POST('/api/circuits/{circuit}/slots', {
          params: { path: { circuit: c.id } },
          body: { clientId, base: c.version, pattern, place },
        }),
      ),
    )
  }

  leave(): void {
    this.gone = true
  }

  private push(change: Change): void {
    this.queue.push({ change, clientId: newId() })
    void this.drain()
  }

  private async drain(): Promise<void> {
    if (this.busy) return
    this.busy = true
    while (this.queue.length > 0 && this.circuit && !this.gone) {
      if (this.state === 'saved') this.state = 'saving'
      const next = this.queue[0]!
      const { data, problem } = await next.change(this.circuit, next.clientId)
      if (problem && (problem.status === 0 || problem.status >= 500)) {
        this.state = 'unsaved'
        await new Promise((done) => setTimeout(done, retryMs))
        continue
      }
      this.queue.shift()
      this.conflict = problem?.status === 409
      this.problem = this.conflict ? undefined : problem
      if (data) this.circuit = data
      else if (this.conflict) {
        this.queue = []
        await this.load(this.circuit.id)
      }
    }
    this.state = 'saved'
    this.busy = false
  }
}
