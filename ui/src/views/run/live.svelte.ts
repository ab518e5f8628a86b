// A class as it runs on this screen: what the server said last, the presses on
// their way to it, and what follows from both for every lane.
import { api, ask, newId, type Cell, type Problem, type Run, type Schemas } from '../../lib/api/client'
import { outbox } from '../../lib/state/outbox.svelte'
import { blockTitle } from '../../lib/state/blocks'
import { parties } from '../../lib/state/parties'
import { serverTime } from '../../lib/state/servertime.svelte'
import { studio } from '../../lib/state/studio.svelte'
import { run as t } from '../../lib/text/gen/run'
import { lookup, nameOf } from '../../lib/text/names'
import { at, press, where, type Stretch, type Event } from './clock'

/** For so long a call is in sight, in ms. */
const saidFor = 3000

export class LiveRun {
  // What the class runs by is read once; where it is changes under it.
  run = $state.raw<Run>()
  problem = $state<Problem>()
  lost = $state(false)
  private latest = $state.raw<Schemas['RunNow']>()
  private tick = $state(performance.now())
  private unsubscribe: () => void

  constructor(
    private occurrence: string,
    /** Called when the class no longer goes on as it did: planned sounds are wrong. */
    private jumped: () => void,
  ) {
    this.unsubscribe = outbox.subscribe({ run: (id, now) => this.take(id, now) })
  }

  leave(): void {
    this.unsubscribe()
  }

  async open(): Promise<void> {
    const path = { occurrence: this.occurrence }
    const found = await ask(api.GET('/api/occurrences/{occurrence}', { params: { path } }))
    this.problem = found.problem
    if (!found.data) return
    if (found.data.runId) {
      const a = await ask(api.GET('/api/runs/{run}', { params: { path: { run: found.data.runId } } }))
      this.problem = a.problem
      this.begin(a.data)
    }
    if (!this.run) await this.create()
    if (this.run) await serverTime.measure()
  }

  /** Begins the class anew. */
  async create(): Promise<void> {
    this.run = this.latest = undefined
    const path = { run: newId() }
    const body = { occurrenceId: this.occurrence }
    const a = await ask(api.PUT('/api/runs/{run}', { params: { path }, body }))
    this.problem = a.problem
    this.begin(a.data)
  }

  private begin(next: Run | undefined): void {
    this.run = this.latest = next
    if (next) serverTime.set(next.nowMs)
  }

  /** Asks where the class is: another screen may have pressed something. While
   *  presses of this screen are on their way their answers say it. */
  async look(): Promise<void> {
    const id = this.run?.id
    if (!id || outbox.presses(id).length > 0) return
    const a = await ask(api.GET('/api/runs/{run}/now', { params: { path: { run: id } } }))
    this.lost = a.problem?.status === 0
    if (outbox.presses(id).length === 0) this.take(id, a.data)
  }

  // Answers are numbered by the presses they know of: an older one is dropped.
  private take(id: string, next: Schemas['RunNow'] | undefined): void {
    if (!next || !this.latest || this.run?.id !== id || next.events < this.latest.events) return
    this.lost = false
    const before = this.anchor
    this.latest = next
    if (before?.state !== this.anchor?.state || before?.positionMs !== this.anchor?.positionMs) this.jumped()
  }

  press(kind: Schemas['Press']['kind'], ms?: number): void {
    if (!this.run) return
    const body = { clientId: newId(), kind, atMs: Math.round(serverTime.now()), ...(ms ? { ms } : {}) }
    outbox.post({ kind: 'press', run: this.run.id, body })
    this.jumped()
  }

  /** Start, hold or go on, whichever is next. */
  toggle(): void {
    if (this.anchor) this.press(this.anchor.state === 'ready' ? 'start' : this.moving ? 'hold' : 'resume')
  }

  beat(): void {
    this.tick = performance.now()
  }

  readonly pending = $derived(this.run ? outbox.presses(this.run.id) : [])
  /** Presses are on their way and the server does not answer. */
  readonly unsent = $derived(outbox.stuck && this.pending.length > 0)
  readonly anchor = $derived.by(() => {
    const { run, latest } = this
    if (!run || !latest) return undefined
    return this.pending.reduce((a, p) => press(run.keys, run.order.totalMs, a, p.body), latest.anchor)
  })
  readonly state = $derived(this.anchor?.state)
  readonly moving = $derived(this.state === 'moving')
  readonly now = $derived(this.tick + serverTime.offset)
  readonly here = $derived(
    this.run && this.anchor ? where(this.anchor, this.run.order.totalMs, this.now) : { position: 0, wait: 0 },
  )
  readonly ended = $derived(
    this.run !== undefined && (this.state === 'ended' || this.here.position >= this.run.order.totalMs),
  )
  readonly stretch = $derived(this.run ? at(this.run.order.stretches, this.here.position) : undefined)
  readonly next = $derived.by(() => {
    const from = this.stretch?.untilMs
    if (!this.run || from === undefined) return undefined
    return this.run.order.stretches.find((b) => b.fromMs >= from && ['prep', 'work', 'close', 'learn'].includes(b.kind))
  })
  /** What is left of the block, of the class. */
  readonly left = $derived(this.stretch ? this.stretch.untilMs - this.here.position + this.here.wait : 0)
  readonly leftOfAll = $derived(this.run ? this.run.order.totalMs - this.here.position + this.here.wait : 0)
  /** The block at hand: what it is for, and its scheme. */
  readonly block = $derived(this.run?.blocks.find((b) => b.id === this.stretch?.block))
  private rounds = $derived(
    Math.max(
      0,
      ...(this.run?.order.stretches ?? [])
        .filter((x) => x.block === this.stretch?.block && this.sameCount(x))
        .map((x) => x.round ?? 0),
    ),
  )
  /** Sets are counted slot by slot, rounds and rungs through a block. */
  private sameCount(x: Stretch): boolean {
    return this.block?.scheme?.kind !== 'sets' || (x.kind === 'work' && x.slot === this.stretch?.slot)
  }
  /** Where in its block the class is, in words. */
  readonly place = $derived.by(() => {
    const s = this.stretch
    if (!s) return ''
    const kind = nameOf.stretchKind[s.kind] ?? ''
    const n = s.round ?? 0
    if (n === 0) return this.block && s.kind === 'work' ? blockTitle(this.block) : kind
    const scheme = this.block?.scheme?.kind
    if (scheme === 'sets' || scheme === 'interval') return t.setOf(n, this.rounds)
    if (scheme === 'ladder') return t.rungOf(n, this.rounds, this.block?.scheme?.ladder?.rungs[n - 1] ?? 0)
    if (scheme === 'drop') return blockTitle(this.block ?? { kind: 'work' })
    if (scheme === 'window' || scheme === 'called') return blockTitle(this.block ?? { kind: 'work' })
    return t.roundOf(n, this.rounds)
  })

  readonly lanes = $derived(this.run ? parties(this.run.occurrence, this.run.slots) : [])
  private byLane = $derived(
    new Map(this.lanes.map((l) => [l.party, (this.run?.order.events ?? []).filter((e) => e.party === l.party)])),
  )
  private events = $derived(
    new Map(this.lanes.map((l) => [l.party, at(this.byLane.get(l.party) ?? [], this.here.position)])),
  )

  slot(id: string | undefined): Schemas['RunSlot'] | undefined {
    return this.run?.slots.find((s) => s.id === id)
  }
  cell(id: string | undefined, l: string): Cell | undefined {
    return this.slot(id)?.cells.find((c) => c.party === l)
  }
  load(c: Cell | undefined): string {
    return c && this.run ? studio.loadText(c.entry.load, c.loadG, this.run.items) : ''
  }

  // The class has one name for now: the nameOf.pattern, or the move where all lanes do
  // the same.
  title(id: string | undefined): string {
    const s = this.slot(id)
    if (!s) return ''
    const names = [...new Set(s.cells.map((c) => studio.move(c.entry.variant)))]
    return names.length === 1 ? (names[0] ?? '') : (nameOf.pattern[s.pattern] ?? '')
  }
  readonly heading = $derived.by(() => {
    const b = this.stretch
    if (!this.run) return ''
    if (this.ended) return t.ended
    if (!b) return ''
    return this.said(b)
  })
  /** What a block asks of the class, in words. */
  said(b: Stretch): string {
    if (b.kind === 'prep') return studio.move(b.drill ?? '')
    if (b.kind === 'learn') return t.learn(this.title(b.slot))
    if (b.kind === 'close') return t.closeNow
    if (b.kind === 'work') return b.slot ? this.title(b.slot) : this.all(b)
    return nameOf.stretchKind[b.kind] ?? ''
  }
  /** What all of a window is, slot by slot. */
  private all(b: Stretch): string {
    const names = this.run?.slots.filter((s) => s.block === b.block).map((s) => this.title(s.id)) ?? []
    return names.join(', ')
  }
  /** For so long after its end the class may go on where it stopped, in ms. */
  readonly mayGoOn = $derived(
    this.run && this.anchor?.state === 'ended' ? this.anchor.atMs + this.run.keys.goOnMs - this.now : 0,
  )
  /** The call of these seconds that is said in words: ten are left, or what comes. */
  readonly called = $derived.by(() => {
    const { position } = this.here
    const c = this.run?.order.calls.findLast((x) => x.atMs <= position && position < x.atMs + saidFor)
    if (c?.kind === 'last-ten') return t.lastTen
    if (c?.kind === 'next' && c.slot) return t.nextIs(this.title(c.slot))
    return ''
  })
  /** What is called out at the moment and stands until the next: a part, a stage, where to. */
  readonly spoken = $derived.by(() => {
    const s = this.stretch
    if (s?.kind !== 'work' || this.state === 'ready') return ''
    const { position } = this.here
    const c = this.run?.order.calls.findLast(
      (x) => x.atMs <= position && x.atMs >= s.fromMs && (x.kind === 'part' || x.kind === 'direction') && x.name,
    )
    if (!c?.name) return ''
    if (c.kind === 'direction') return lookup(nameOf.callWord, c.name)
    return lookup(nameOf.partName, c.name) === c.name ? studio.move(c.name) : lookup(nameOf.partName, c.name)
  })
  /** The live region speaks at changes, never each second. */
  readonly announced = $derived(
    this.state === 'held'
      ? t.held
      : this.called
        ? this.called
        : this.stretch
          ? t.announce(this.stretch.kind, this.heading)
          : this.heading,
  )

  sideText(l: string): string {
    const e: Event | undefined = this.events.get(l)
    if (!e || this.stretch?.kind !== 'work') return ''
    if (e.kind === 'change-sides') return t.switchNow(e.next ?? 'right')
    if (e.kind === 'work' && e.side && e.side !== 'both') return nameOf.side[e.side] ?? ''
    if (e.kind === 'rest') return nameOf.stretchKind.rest ?? ''
    return ''
  }
  /** The change of sides ahead: in how many seconds, and where it lies. */
  readonly switching = $derived.by(() => {
    for (const l of this.lanes) {
      const e = this.events.get(l.party)
      const next = this.byLane.get(l.party)?.find((x) => x.fromMs === e?.untilMs)
      if (e?.kind === 'work' && next?.kind === 'change-sides')
        return { in: Math.ceil((e.untilMs - this.here.position) / 1000), at: e.untilMs }
      if (e?.kind === 'change-sides') return { in: 0, at: e.fromMs }
    }
    return undefined
  })
}
