// A class as it runs on this screen: what the server said last, the presses on
// their way to it, and what follows from both for every lane.
import { api, ask, newId, type Cell, type Entry, type Problem, type Run, type Schemas } from '../../lib/api/client'
import { outbox } from '../../lib/state/outbox.svelte'
import { blockTitle } from '../../lib/state/blocks'
import { parties, partyName } from '../../lib/state/parties'
import { serverTime } from '../../lib/state/servertime.svelte'
import { studio } from '../../lib/state/studio.svelte'
import { common } from '../../lib/text/gen/common'
import { run as t } from '../../lib/text/gen/run'
import { lookup, nameOf } from '../../lib/text/names'
import { at, press, where, type Stretch, type Event } from './clock'

/** For so long a call is in sight, in ms. */
const saidFor = 3000

/** More cards than this are not read across a room. */
const mostCards = 6

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

  /** The view is left: an answer that is still on its way is nobody's. */
  private gone = false
  leave(): void {
    this.gone = true
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

  // Answers are numbered by the presses they know of: an older one is dropped. What somebody
  // does instead of the plan changes the plan, which is read anew.
  private take(id: string, next: Schemas['RunNow'] | undefined): void {
    if (this.gone || !next || !this.latest || this.run?.id !== id || next.events < this.latest.events) return
    this.lost = false
    const before = this.anchor
    const swaps = (now: Schemas['RunNow']) => now.did.filter((d) => d.kind === 'swapped').map((d) => d.count)
    if (swaps(next).join() !== swaps(this.latest).join()) void this.reread(id)
    this.latest = next
    if (before?.state !== this.anchor?.state || before?.positionMs !== this.anchor?.positionMs) this.jumped()
  }

  private async reread(id: string): Promise<void> {
    const a = await ask(api.GET('/api/runs/{run}', { params: { path: { run: id } } }))
    if (a.data && this.run?.id === id) this.run = a.data
  }

  press(kind: Schemas['Press']['kind'], ms?: number): void {
    this.post({ kind, ...(ms ? { ms } : {}) })
    this.jumped()
  }

  private post(what: Omit<Schemas['Press'], 'clientId' | 'atMs'>): void {
    if (!this.run) return
    const body = { clientId: newId(), atMs: Math.round(serverTime.now()), ...what }
    outbox.post({ kind: 'press', run: this.run.id, body })
  }

  /** What a party did in a slot: the clock is not touched by it. */
  did(kind: Schemas['Deed']['kind'], party: string, slot: string, entry?: Entry): void {
    this.post({ kind, party, slot, ...(entry ? { entry } : {}) })
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
    const said = this.counted(n)
    if (s.turn) return `${said} · ${t.turn(s.turn, this.floorOf(s)?.stations.length ?? s.turn)}`
    const plain = !this.block || this.block.kind === 'work'
    return plain || said === blockTitle(this.block) ? said : `${nameOf.blockKind[this.block.kind]} · ${said}`
  })
  /** Which set, rung or round it is, in words. */
  private counted(n: number): string {
    const scheme = this.block?.scheme
    switch (scheme?.kind) {
      case 'sets':
      case 'interval':
        return t.setOf(n, this.rounds)
      case 'ladder':
        return t.rungOf(n, this.rounds, scheme.ladder?.rungs[n - 1] ?? 0)
      case 'drop':
      case 'window':
      case 'called':
        return blockTitle(this.block ?? { kind: 'work' })
      default:
        return t.roundOf(n, this.rounds)
    }
  }

  readonly lanes = $derived(this.run ? parties(this.run.occurrence, this.run.slots) : [])
  /** Whom a card is for: with many people by name the lanes, of which they are lines. */
  readonly cards = $derived(this.lanes.length > mostCards ? this.lanes.filter((l) => l.party === l.lane) : this.lanes)
  private byLane = $derived(
    new Map(this.lanes.map((l) => [l.party, (this.run?.order.events ?? []).filter((e) => e.party === l.party)])),
  )
  private events = $derived(
    new Map(this.lanes.map((l) => [l.party, at(this.byLane.get(l.party) ?? [], this.here.position)])),
  )

  /** What parties did, with what is still on its way to the server. */
  private deeds = $derived.by(() => {
    const { run, latest } = this
    if (!run || !latest) return []
    let anchor = latest.anchor
    let out = latest.did
    for (const p of this.pending) {
      const { position } = where(anchor, run.order.totalMs, p.body.atMs)
      anchor = press(run.keys, run.order.totalMs, anchor, p.body)
      const { kind, party, slot } = p.body
      if (!party || !slot) continue
      const was = out.find((d) => d.party === party && d.slot === slot && d.kind === kind)
      const now = { party, slot, kind: kind as Schemas['Deed']['kind'], count: (was?.count ?? 0) + 1, atMs: position }
      out = [...out.filter((d) => d !== was), now]
    }
    return out
  })
  /** The set at hand, or in a rest the one before it: what somebody is done with or stopped in. */
  readonly set = $derived.by(() => {
    const { run, stretch } = this
    if (!run || !stretch || this.state === 'ready' || this.ended) return undefined
    if (stretch.kind === 'work') return stretch
    if (stretch.kind === 'change-sides') return undefined
    const before = at(run.order.stretches, stretch.fromMs - 1)
    return stretch.fromMs > 0 && before?.kind === 'work' ? before : undefined
  })
  /** The slots of a stretch: one, or all of a window. */
  slotsOf(s: Stretch | undefined): Schemas['RunSlot'][] {
    const of = this.run?.slots ?? []
    return of.filter((x) => (s?.slot ? x.id === s.slot : x.block === s?.block && s.kind === 'work'))
  }
  /** What a party did last of some kinds in the set at hand. */
  private last(party: string, kinds: Schemas['Deed']['kind'][]): Schemas['Deed'] | undefined {
    const s = this.set
    if (!s) return undefined
    const here = new Set(this.slotsOf(s).map((x) => x.id))
    return this.deeds
      .filter((d) => d.party === party && here.has(d.slot) && kinds.includes(d.kind) && d.atMs >= s.fromMs)
      .sort((a, b) => a.atMs - b.atMs)
      .at(-1)
  }
  isDone(party: string): boolean {
    return this.last(party, ['done']) !== undefined
  }
  hasStopped(party: string): boolean {
    return this.last(party, ['stopped', 'again'])?.kind === 'stopped'
  }
  roundsOf(party: string): number {
    const here = new Set(this.slotsOf(this.set).map((x) => x.id))
    return this.deeds
      .filter((d) => d.party === party && d.kind === 'round' && here.has(d.slot))
      .reduce((n, d) => n + d.count, 0)
  }
  /** Who is in the class has changed: the plan stays as it began. */
  came(occurrence: Schemas['Occurrence']): void {
    if (this.run) this.run = { ...this.run, occurrence }
  }

  /** Those of a lane who are named, or drop-ins, and have no keys of their own here. */
  others(lane: string): Schemas['Participant'][] {
    const own = new Set(this.lanes.map((l) => l.party))
    return (this.run?.occurrence.people ?? []).filter((x) => x.lane === lane && !own.has(x.id))
  }
  /** Who of a party has stopped in the set at hand, in words. */
  stoppedOf(party: string): string {
    const people = this.others(party).filter((x) => this.hasStopped(x.id))
    const names = people.map((x) => x.name ?? common.dropIn)
    const all = this.hasStopped(party) ? [partyName(this.run?.occurrence ?? { people: [] }, party), ...names] : names
    return all.join(', ')
  }
  /** How long it is to the next set, in ms. */
  readonly untilWork = $derived.by(() => {
    const { position, wait } = this.here
    const next = this.run?.order.stretches.find((x) => x.kind === 'work' && x.fromMs > position)
    return next ? next.fromMs - position + wait : this.leftOfAll
  })
  /** Whether a party does something in a slot that was not planned. */
  changed(party: string, slot: string): boolean {
    return this.deeds.some((d) => d.party === party && d.slot === slot && d.kind === 'swapped')
  }
  /** Whether sets at hand end when whoever does them is done, not by the clock. */
  readonly byReps = $derived.by(() => {
    const scheme = this.run?.blocks.find((b) => b.id === this.set?.block)?.scheme
    if (!scheme || ['window', 'called', 'chain', 'interval'].includes(scheme.kind)) return false
    return scheme.circuit?.format !== 'timed'
  })
  readonly inWindow = $derived(
    this.stretch?.kind === 'work' &&
      this.run?.blocks.find((b) => b.id === this.stretch?.block)?.scheme?.kind === 'window',
  )
  /** What a party's hands do on the way to the next slot, in words; nothing of empty ones. */
  hands(party: string): string {
    const { run, stretch, next } = this
    if (!run || !next?.slot || stretch?.kind === 'work') return ''
    const before = run.order.stretches.findLast((x) => x.kind === 'work' && x.untilMs <= (stretch?.fromMs ?? 0))
    const h = run.hands.find((x) => x.party === party && x.to === next.slot && (x.from ?? '') === (before?.slot ?? ''))
    if (!h) return ''
    const load = this.load(this.cell(next.slot, party))
    if (h.do === 'pick-up') return t.hands['pick-up'](load)
    if (h.do === 'keep') return t.hands.keep(load)
    if (h.do === 'regrip' && h.hold) return t.hands.regrip(load, h.hold)
    return t.hands['put-down']
  }

  /** Where people stand in a block, where they are dealt. */
  floorOf(s: Stretch | undefined): Schemas['Floor'] | undefined {
    return this.run?.floors.find((f) => f.block === s?.block)
  }
  /** The stations at hand: those of a turn, or in the change after it of the next. */
  readonly board = $derived.by(() => {
    const { run, stretch } = this
    if (!run || !stretch || this.ended) return undefined
    const s = stretch.kind === 'work' || stretch.turn === undefined ? stretch : this.next
    const floor = this.floorOf(s)
    return floor?.layout === 'stations' && s?.kind === 'work' && s.turn ? { floor, turn: s.turn } : undefined
  })
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
    if (b.kind === 'prep') return b.slot ? t.ramp(studio.move(b.drill ?? '')) : studio.move(b.drill ?? '')
    if (b.kind === 'learn') return t.learn(this.title(b.slot))
    if (b.kind === 'close') return t.closeNow
    if (b.kind === 'work' && b.turn) return t.stations
    if (b.kind === 'work') return b.slot ? this.title(b.slot) : this.all(b)
    return nameOf.stretchKind[b.kind] ?? ''
  }
  /** What comes, in words: of stations which turn. */
  ahead(b: Stretch): string {
    return b.turn && b.kind === 'work' ? t.turn(b.turn, this.floorOf(b)?.stations.length ?? b.turn) : this.said(b)
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
    if (c?.kind === 'change')
      return this.floorOf(this.stretch)?.layout === 'partners' ? t.changePartners : t.changeStations
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
    return c.name in nameOf.partName ? lookup(nameOf.partName, c.name) : studio.move(c.name)
  })
  /** The next thing to pick up, party by party, in the rest before it. */
  private handed = $derived(
    this.lanes
      .map((l) => ({ name: l.name, what: this.hands(l.party) }))
      .filter((x) => x.what)
      .map((x) => t.hands.of(x.name, x.what))
      .join('. '),
  )
  /** The live region speaks at changes, never each second. */
  readonly announced = $derived.by(() => {
    if (this.state === 'held') return t.held
    if (this.called) return this.called
    if (!this.stretch) return this.heading
    const now = t.announce(this.stretch.kind, this.heading)
    return this.handed ? `${now}. ${this.handed}` : now
  })

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
