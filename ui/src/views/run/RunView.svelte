<script lang="ts">
  import { onDestroy } from 'svelte'
  import {
    api,
    ask,
    newId,
    type Cell,
    type Lane,
    type Problem as ProblemType,
    type Run,
    type Schemas,
  } from '../../lib/api/client'
  import Glyph from '../../lib/draw/Glyph.svelte'
  import { navigate, route } from '../../lib/nav'
  import Problem from '../../lib/parts/Problem.svelte'
  import { studio } from '../../lib/state/studio.svelte'
  import { blockKind, hold, lane as laneName, pattern, side, t } from '../../lib/text/catalogue'
  import { clock, timeOfDay } from '../../lib/text/format'
  import { at, measureOffset, where, type Event } from './clock'
  import { beeps, Sound } from './sound'

  const occurrence = (route.params as { occurrence?: string }).occurrence ?? ''
  // What the class runs by is read once; where it is changes under it.
  let run = $state.raw<Run>()
  let live = $state.raw<Schemas['RunNow']>()
  let problem = $state<ProblemType>()
  let lost = $state(false)
  let offset = $state(Date.now() - performance.now())
  let tick = $state(performance.now())
  let sound = $state(true)
  let awake = $state(false)
  let audible = $state(false)
  const player = new Sound()

  async function open(): Promise<void> {
    const found = await ask(api.GET('/api/occurrences/{occurrence}', { params: { path: { occurrence } } }))
    problem = found.problem
    if (!found.data) return
    if (found.data.runId) {
      const a = await ask(api.GET('/api/runs/{run}', { params: { path: { run: found.data.runId } } }))
      problem = a.problem
      begin(a.data)
    }
    if (!run) await create()
    if (!run) return
    offset = (await measureOffset()) ?? offset
  }
  async function create(): Promise<void> {
    const path = { run: newId() }
    const a = await ask(api.PUT('/api/runs/{run}', { params: { path }, body: { occurrenceId: occurrence } }))
    problem = a.problem
    begin(a.data)
  }
  function begin(next: Run | undefined): void {
    run = live = next
    if (next) offset = next.nowMs - performance.now() // until it is measured
  }
  async function read(id: string): Promise<void> {
    const a = await ask(api.GET('/api/runs/{run}/now', { params: { path: { run: id } } }))
    lost = a.problem?.status === 0
    take(id, a.data)
  }
  // Answers are numbered by the presses they know of: an older one is dropped.
  function take(id: string, next: Schemas['RunNow'] | undefined): void {
    if (!next || !live || run?.id !== id || next.events < live.events) return
    if (live.anchor.state !== next.anchor.state || live.anchor.positionMs !== next.anchor.positionMs) player.clear()
    live = next
  }
  void open()

  // Presses are sent one after the other; one that gets no answer is sent again
  // with its id until it counts.
  let presses: Schemas['Press'][] = []
  let sending = false
  function press(kind: Schemas['Press']['kind'], ms?: number): void {
    presses.push({ clientId: newId(), kind, ...(ms ? { ms } : {}) })
    void send()
  }
  async function send(): Promise<void> {
    if (sending || !run) return
    sending = true
    while (presses.length > 0) {
      const body = presses[0]!
      const a = await ask(api.POST('/api/runs/{run}/events', { params: { path: { run: run.id } }, body }))
      if (a.problem && (a.problem.status === 0 || a.problem.status >= 500)) {
        lost = true
        await new Promise((done) => setTimeout(done, 1000))
        continue
      }
      lost = false
      presses = presses.slice(1)
      problem = a.problem
      take(run.id, a.data)
    }
    sending = false
  }

  const now = $derived(tick + offset)
  const here = $derived(run && live ? where(live.anchor, run.order.totalMs, now) : { position: 0, wait: 0 })
  const ended = $derived(run !== undefined && (live?.anchor.state === 'ended' || here.position >= run.order.totalMs))
  const block = $derived(run ? at(run.order.blocks, here.position) : undefined)
  const nextBlock = $derived.by(() => {
    if (!run || !block) return undefined
    return run.order.blocks.find(
      (b) => b.fromMs >= block.untilMs && (b.kind === 'work' || b.kind === 'close' || b.kind === 'learn'),
    )
  })
  const lanes = $derived((run?.occurrence.lanes ?? []).filter((l) => l.people > 0))
  const byLane = $derived(
    new Map(lanes.map((l) => [l.lane, (run?.order.events ?? []).filter((e) => e.lane === l.lane)])),
  )
  const events = $derived(new Map(lanes.map((l) => [l.lane, at(byLane.get(l.lane) ?? [], here.position)])))
  const left = $derived(block ? block.untilMs - here.position + here.wait : 0)
  const count = $derived(Math.ceil(left / 1000 - 1e-6))
  const digits = $derived(count >= 100 ? clock(count * 1000) : String(count))
  const sounds = $derived(run ? beeps(run.order.blocks, run.order.events) : [])
  const rounds = $derived(Math.max(0, ...(run?.order.blocks ?? []).map((b) => b.round ?? 0)))
  const slotOf = (id: string | undefined) => run?.slots.find((s) => s.id === id)
  const cellOf = (id: string | undefined, l: Lane): Cell | undefined => slotOf(id)?.cells.find((c) => c.lane === l)
  const loadOf = (c: Cell | undefined) => (c && run ? studio.loadText(c.entry.load, c.loadG, run.items) : '')

  // The class has one name for now: the pattern, or the move where all lanes do
  // the same.
  function title(id: string | undefined): string {
    const s = slotOf(id)
    if (!s) return ''
    const names = [...new Set(s.cells.map((c) => studio.move(c.entry.variant)))]
    return names.length === 1 ? (names[0] ?? '') : (pattern[s.pattern] ?? '')
  }
  const heading = $derived.by(() => {
    if (!run) return ''
    if (ended) return t.run.ended
    if (!block) return ''
    if (block.kind === 'prep') return t.run.prepWith(run.prep.map((m) => studio.move(m)).join(', '))
    if (block.kind === 'learn') return t.run.learn(title(block.slot))
    if (block.kind === 'close') return t.run.closeNow
    if (block.kind === 'work') return title(block.slot)
    return blockKind[block.kind] ?? ''
  })
  const long = $derived(heading.length > 24)
  function sideText(e: Event | undefined): string {
    if (!e || !block || block.kind !== 'work') return ''
    if (e.kind === 'change-sides') return t.run.switchNow(side[e.next ?? 'right'] ?? '')
    if (e.kind === 'work' && e.side && e.side !== 'both') return side[e.side] ?? ''
    if (e.kind === 'rest') return blockKind.rest ?? ''
    return ''
  }
  const switching = $derived.by(() => {
    for (const l of lanes) {
      const e = events.get(l.lane)
      const next = byLane.get(l.lane)?.find((x) => x.fromMs === e?.untilMs)
      if (e?.kind === 'work' && next?.kind === 'change-sides')
        return { in: Math.ceil((e.untilMs - here.position) / 1000), at: e.untilMs }
      if (e?.kind === 'change-sides') return { in: 0, at: e.fromMs }
    }
    return undefined
  })

  // Ten looks a second are enough for a clock of whole seconds, and spare a
  // phone's battery; sounds are planned a few times a second.
  const ticker = setInterval(() => (tick = performance.now()), 100)
  const planner = setInterval(() => {
    if (!run || live?.anchor.state !== 'moving' || !sound || !audible) return
    const w = where(live.anchor, run.order.totalMs, performance.now() + offset)
    if (w.wait === 0) player.plan(sounds, w.position)
  }, 250)
  // Another screen may have pressed something: it is seen here within a second.
  const watcher = setInterval(() => {
    if (run && !sending && presses.length === 0) void read(run.id)
  }, 600)
  const remeasure = setInterval(() => void measureOffset().then((o) => (offset = o ?? offset)), 60_000)

  let lock: { release: () => Promise<void> } | undefined
  async function keepAwake(): Promise<void> {
    try {
      lock = await navigator.wakeLock.request('screen')
      awake = true
    } catch {
      awake = false // the browser cannot, or not now
    }
  }
  onDestroy(() => {
    clearInterval(ticker)
    clearInterval(planner)
    clearInterval(watcher)
    clearInterval(remeasure)
    player.clear()
    void lock?.release()
  })
  async function touched(): Promise<void> {
    audible = await player.wake()
    if (!awake) await keepAwake()
  }

  // A tap that only wakes the sound must not hold the class.
  let armed = false
  const moving = $derived(live?.anchor.state === 'moving')
  function toggle(): void {
    if (!live) return
    press(live.anchor.state === 'ready' ? 'start' : moving ? 'hold' : 'resume')
  }
  function keys(e: KeyboardEvent): void {
    if (e.ctrlKey || e.metaKey || e.altKey || document.querySelector('.bx--modal.is-visible')) return
    void touched()
    const onButton = e.target instanceof HTMLElement && /^(BUTTON|A)$/.test(e.target.tagName)
    const act: Record<string, () => void> = {
      ' ': toggle,
      ArrowRight: () => press('skip'),
      ArrowLeft: () => press('back'),
      '+': () => press('add', 15_000),
      m: () => (sound = !sound),
    }
    const f = act[e.key]
    if (!f || (onButton && e.key === ' ') || ended) return
    e.preventDefault()
    f()
  }
  $effect(() => {
    if (!sound) player.clear()
  })
  // The live region speaks at changes, never each second.
  const announced = $derived(
    live?.anchor.state === 'held' ? t.run.held : block ? t.run.announce(blockKind[block.kind] ?? '', heading) : heading,
  )
  const wall = $derived(run ? run.order.totalMs - here.position + here.wait : 0)
</script>

<svelte:window onkeydown={keys} onpointerup={() => void touched()} />

<main class="run" id="work" class:held={live?.anchor.state === 'held'}>
  {#if problem}<Problem {problem} />{/if}
  {#if run && live}
    <h1 class="sr">{run.occurrence.name}</h1>
    <div class="sr" role="status">{announced}</div>
    <svg class="progress" viewBox={`0 0 ${run.order.totalMs} 100`} preserveAspectRatio="none" aria-hidden="true">
      {#each run.order.blocks as b (b.fromMs)}
        <rect
          class={b.kind}
          class:past={b.untilMs <= here.position}
          class:now={b === block}
          x={b.fromMs}
          y="0"
          width={Math.max(b.untilMs - b.fromMs - 4000, 1000)}
          height="100"
        />
      {/each}
      <rect class="at" x={here.position - 2500} y="0" width="5000" height="100" />
    </svg>
    <div class="top">
      <b
        >{block?.round
          ? t.run.roundOf(block.round, rounds)
          : block
            ? blockKind[block.kind]
            : ''}{#if block?.wave && (slotOf(block.slot)?.waves ?? 1) > 1}<span class="call">
            · {t.run.wave(block.wave, slotOf(block.slot)?.waves ?? 1)}</span
          >{/if}</b
      >
      {#if live.anchor.state === 'held'}<b class="call">{t.run.held}</b>{/if}
      {#if here.wait > 0}<b class="call">{t.run.waiting(clock(here.wait))}</b>{/if}
      {#if lost}<b class="call">{t.run.lost}</b>{/if}
      <span>{t.run.left(clock(wall), timeOfDay(now + wall, run.occurrence.timeZone))}</span>
    </div>

    <!-- A tap anywhere on the stage holds and goes on; Space and the first key do
         the same for those who do not tap. -->
    <!-- svelte-ignore a11y_click_events_have_key_events, a11y_no_static_element_interactions -->
    <div class="stage" onpointerdown={() => (armed = audible || !sound)} onclick={() => armed && !ended && toggle()}>
      <div class="what">
        <p class="tag">{live.anchor.state === 'ready' ? t.run.ready : t.run.now}</p>
        <p class="name" class:long>{heading}</p>
        {#if switching}<p class="call big">
            {switching.in > 0 ? t.run.switchIn(switching.in) : blockKind['change-sides']}
          </p>{/if}
      </div>
      <div class="clock" role="timer" aria-label={t.run.title} id="clock">{ended ? '0' : digits}</div>
    </div>
    {#if block && !ended}
      <svg class="bar" viewBox={`0 0 ${block.untilMs - block.fromMs} 10`} preserveAspectRatio="none" aria-hidden="true">
        <rect class="whole" x="0" y="0" width={block.untilMs - block.fromMs} height="10" />
        <rect class="gone" x="0" y="0" width={Math.max(here.position - block.fromMs, 0)} height="10" />
        {#if switching}<rect class="switch" x={switching.at - block.fromMs - 100} y="0" width="200" height="10" />{/if}
      </svg>
    {/if}

    {#if ended}
      <div class="keys">
        <button type="button" onclick={() => void navigate('/log/:occurrence', { params: { occurrence } })}
          >{t.run.toLog}</button
        >
        <button
          type="button"
          onclick={() => {
            run = live = undefined
            void create()
          }}>{t.run.again}</button
        >
        <button type="button" onclick={() => void navigate('/')}>{t.run.leave}</button>
      </div>
    {:else}
      <div class="lanes">
        {#each lanes as l, li (l.lane)}
          {@const id =
            block?.kind === 'work' || block?.kind === 'learn' || block?.kind === 'hand-over'
              ? block.slot
              : nextBlock?.slot}
          {@const c = cellOf(id, l.lane)}
          <section class={`lane w${li + 1}`} aria-label={laneName[l.lane]}>
            <p class="who"><span>{laneName[l.lane]}</span> <b>{sideText(events.get(l.lane))}</b></p>
            {#if c}
              <p class="load">{loadOf(c)}</p>
              <p class="move">
                {studio.move(c.entry.variant)}{c.entry.load.kind === 'none' ? '' : `, ${hold[c.entry.hold]}`}
              </p>
              <p class="dim">{studio.variants.get(c.entry.variant)?.cues[0] ?? ''}</p>
            {/if}
          </section>
        {/each}
      </div>
      <div class="next">
        <p>
          <span class="tag">{t.run.next}</span>
          {#if nextBlock?.slot}
            <svg width="20" height="20" aria-hidden="true"
              ><Glyph pattern={slotOf(nextBlock.slot)?.pattern ?? ''} x={2} y={2} /></svg
            >
          {/if}
          <b>{nextBlock ? (nextBlock.slot ? title(nextBlock.slot) : blockKind[nextBlock.kind]) : t.run.ended}</b>
        </p>
        {#if nextBlock?.slot}
          <ul>
            {#each lanes as l (l.lane)}
              {@const c = cellOf(nextBlock.slot, l.lane)}
              {#if c}<li>
                  <span class="dim">{laneName[l.lane]}</span>
                  {studio.move(c.entry.variant)}, {loadOf(c)}
                </li>{/if}
            {/each}
          </ul>
        {/if}
      </div>
      <div class="keys" role="group" aria-label={t.run.keys}>
        <button type="button" id="toggle" onclick={toggle}
          ><kbd>{t.run.key.space}</kbd>
          {live.anchor.state === 'ready' ? t.run.start : moving ? t.run.hold : t.run.resume}</button
        >
        <button type="button" id="skip" disabled={live.anchor.state === 'ready'} onclick={() => press('skip')}
          ><kbd>→</kbd> {t.run.skip}</button
        >
        <button type="button" id="back" disabled={live.anchor.state === 'ready'} onclick={() => press('back')}
          ><kbd>←</kbd> {t.run.back}</button
        >
        <button type="button" id="add" disabled={live.anchor.state === 'ready'} onclick={() => press('add', 15_000)}
          ><kbd>+</kbd> {t.run.add}</button
        >
        <button type="button" id="sound" aria-pressed={sound} onclick={() => (sound = !sound)}
          ><kbd>{t.run.key.sound}</kbd> {sound ? t.run.sound : t.run.soundOff}</button
        >
        <button type="button" id="end" disabled={live.anchor.state === 'ready'} onclick={() => press('end')}
          >{t.run.end}</button
        >
        <button type="button" id="leave" onclick={() => void navigate('/')}>{t.run.leave}</button>
      </div>
      <!-- A line of its own: words that come and go must not move the keys under a finger. -->
      <p class="notes">
        {#if sound && !audible}<span class="call" id="silent">{t.run.silent}</span>{/if}
        {#if awake}<span>{t.run.awake}.</span>{/if}
        <span>{t.run.stop}</span>
      </p>
    {/if}
  {:else if !problem}
    <p role="status">{t.loading}</p>
  {/if}
</main>

<style>
  .run {
    --dark: #12161c;
    --box: #1c222b;
    --pale: #f0ece4;
    --dim: #a3a9b3;
    --go: #5cc8be;
    --call: #ff8f56;
    background: var(--dark);
    color: var(--pale);
    min-height: 100vh;
    box-sizing: border-box;
    padding: 2.4vh 3vw;
    display: flex;
    flex-direction: column;
    gap: 1.4vh;
    font-size: clamp(14px, 2.2vh, 24px);
  }
  .run :focus-visible {
    outline-color: var(--go);
  }
  .run p {
    margin: 0;
    font-size: inherit;
    line-height: 1.3;
  }
  .progress {
    width: 100%;
    height: 14px;
    flex: none;
  }
  .progress rect {
    fill: #39424f;
  }
  .progress .work {
    fill: #56616f;
  }
  .progress .past {
    fill: #262d37;
  }
  .progress .now {
    fill: var(--go);
  }
  .progress .at {
    fill: var(--call);
  }
  .top {
    display: flex;
    flex-wrap: wrap;
    gap: 4px 24px;
    align-items: baseline;
  }
  .top span:last-child {
    margin-left: auto;
    color: var(--dim);
  }
  .call {
    color: var(--call);
    font-weight: 600;
  }
  .run p.big {
    font-size: 1.5em;
  }
  .dim {
    color: var(--dim);
  }
  .stage {
    display: flex;
    gap: 2vw;
    align-items: center;
    flex: 1 1 auto;
  }
  .what {
    flex: 1 1 0;
    min-width: 0;
  }
  .tag {
    color: var(--go);
    font-weight: 600;
  }
  .run p.name {
    font-size: max(6.6vh, 30px);
    line-height: 1.1;
    font-weight: 600;
    overflow-wrap: break-word;
  }
  .run p.name.long {
    font-size: max(6.1vh, 24px);
  }
  .clock {
    font-weight: 600;
    font-size: min(44vh, 30vw);
    line-height: 0.8;
    font-variant-numeric: tabular-nums;
    text-align: right;
  }
  .bar {
    width: 100%;
    height: 16px;
    flex: none;
  }
  .bar .whole {
    fill: #262d37;
  }
  .bar .gone {
    fill: var(--call);
  }
  .bar .switch {
    fill: var(--pale);
  }
  .lanes {
    display: grid;
    grid-auto-flow: column;
    grid-auto-columns: minmax(0, 1fr);
    gap: 12px;
  }
  .lane {
    background: var(--box);
    padding: 10px 14px;
    border-bottom: 3px solid var(--go);
  }
  .lane.w2 {
    box-shadow:
      inset 0 -3px 0 var(--box),
      inset 0 -6px 0 var(--go);
    padding-bottom: 16px;
  }
  .lane.w3 {
    box-shadow:
      inset 0 -3px 0 var(--box),
      inset 0 -6px 0 var(--go),
      inset 0 -9px 0 var(--box),
      inset 0 -12px 0 var(--go);
    padding-bottom: 22px;
  }
  .who {
    display: flex;
    justify-content: space-between;
    gap: 8px;
    color: var(--dim);
  }
  .who b {
    color: var(--call);
    font-size: 1.2em;
  }
  .run p.load {
    font-size: 1.9em;
    font-weight: 600;
    line-height: 1.2;
  }
  .run p.move {
    font-size: 1.15em;
  }
  .next {
    border-top: 1px solid #333b47;
    border-bottom: 1px solid #333b47;
    padding: 0.8vh 0;
  }
  .next p {
    display: flex;
    gap: 10px;
    align-items: center;
  }
  .next ul {
    display: flex;
    flex-wrap: wrap;
    gap: 2px 28px;
    list-style: none;
    margin: 0;
    padding: 0;
    font-size: 0.9em;
  }
  .next :global(.glyph) {
    stroke: var(--go);
  }
  .keys {
    display: flex;
    flex-wrap: wrap;
    gap: 8px;
    align-items: center;
    font-size: 14px;
  }
  .keys button {
    font: inherit;
    color: var(--pale);
    background: var(--box);
    border: 1px solid #566070;
    border-radius: 4px;
    min-height: 44px;
    padding: 4px 14px;
    cursor: pointer;
  }
  .keys button:disabled {
    color: #7d8591;
    cursor: default;
  }
  .keys kbd {
    font: inherit;
    font-weight: 600;
    border: 1px solid #566070;
    border-radius: 3px;
    padding: 1px 6px;
    margin-right: 4px;
  }
  .run p.notes {
    color: var(--dim);
    font-size: 14px;
    min-height: 20px;
  }
  @media (max-width: 700px) {
    .stage {
      flex-direction: column-reverse;
      align-items: stretch;
      flex: none;
    }
    .clock {
      text-align: center;
      font-size: min(40vh, 60vw);
    }
    .lanes {
      grid-auto-flow: row;
    }
    .keys kbd {
      display: none;
    }
    .keys {
      position: sticky;
      bottom: 0;
      background: var(--dark);
      padding: 8px 0;
    }
  }
</style>
