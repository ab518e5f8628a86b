<script lang="ts">
  import { onDestroy } from 'svelte'
  import { navigate, route } from '../../lib/nav'
  import { keepKeys } from '../../lib/parts/keys'
  import Problem from '../../lib/parts/Problem.svelte'
  import { serverTime } from '../../lib/state/servertime.svelte'
  import { timeOfDay } from '../../lib/text/dates'
  import { clock } from '../../lib/text/format'
  import { common } from '../../lib/text/gen/common'
  import { run as t } from '../../lib/text/gen/run'
  import { nameOf } from '../../lib/text/names'
  import Ahead from './Ahead.svelte'
  import Board from './Board.svelte'
  import Lanes from './Lanes.svelte'
  import { LiveRun } from './live.svelte'
  import Ribbon from './Ribbon.svelte'
  import { beeps, Sound } from './sound'

  const occurrence = (route.params as { occurrence?: string }).occurrence ?? ''
  const player = new Sound()
  const live = new LiveRun(occurrence, () => player.clear())
  void live.open()

  // A second screen shows the class and has no say in it.
  const wall = new URLSearchParams(location.search).has('wall')
  let sound = $state(!wall)
  let late = $state(false)
  let awake = $state(false)
  let audible = $state(false)
  const block = $derived(live.stretch)
  const here = $derived(live.here)
  const ready = $derived(live.state === 'ready')
  const count = $derived(Math.ceil(live.left / 1000 - 1e-6))
  const digits = $derived(count >= 100 ? clock(count * 1000) : String(count))
  const waves = $derived(live.slot(block?.slot)?.waves ?? 1)
  const sounds = $derived(live.run ? beeps(live.run.order.calls) : [])

  // Ten looks a second are enough for a clock of whole seconds, and spare a
  // phone's battery; sounds are planned a few times a second; what another screen
  // pressed is seen within a second.
  const timers = [
    setInterval(() => live.beat(), 100),
    setInterval(() => {
      if (live.moving && sound && audible && live.here.wait === 0) {
        live.beat()
        player.plan(sounds, live.here.position)
      }
    }, 250),
    setInterval(() => void live.look(), 600),
    setInterval(() => void serverTime.measure(), 60_000),
  ]
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
    timers.forEach(clearInterval)
    live.leave()
    player.clear()
    void lock?.release()
  })
  async function touched(): Promise<void> {
    audible = await player.wake()
    if (!awake) await keepAwake()
  }
  $effect(() => {
    if (!sound) player.clear()
  })

  // A tap that only wakes the sound must not hold the class.
  let armed = false
  function keys(e: KeyboardEvent): void {
    if (e.ctrlKey || e.metaKey || e.altKey || document.querySelector('.bx--modal.is-visible')) return
    void touched()
    // Space is the class's from anywhere but what is typed in, End, Leave and links.
    const to = e.target instanceof HTMLElement ? e.target : undefined
    const own =
      to?.matches('input, select, textarea, a, #end, #leave, .after button, .lane button, dialog button') ?? false
    const act: Record<string, () => void> = {
      ' ': () => live.toggle(),
      ArrowRight: () => live.press('skip'),
      ArrowLeft: () => live.press('back'),
      '+': () => live.press('add', 15_000),
      n: () => live.press('next'),
      m: () => (sound = !sound),
    }
    const f = act[e.key]
    if (!f || (own && e.key === ' ') || live.ended || wall) return
    e.preventDefault()
    f()
  }
  // A button under the keys must not act on the Space that the class has had.
  function spaceUp(e: KeyboardEvent): void {
    const on = e.target instanceof HTMLElement && e.target.matches('.keys button:not(#end, #leave)')
    if (e.key === ' ' && on && !live.ended) e.preventDefault()
  }

  // End acts when it is held for a second, by finger or key; a press that no finger and
  // no key made is a screen reader's, which cannot hold.
  const holdToEnd = 1000
  let ending: ReturnType<typeof setTimeout> | undefined = $state()
  let touchedEnd = false
  function endDown(): void {
    touchedEnd = true
    ending ??= setTimeout(() => {
      ending = undefined
      live.press('end')
    }, holdToEnd)
  }
  function endUp(): void {
    clearTimeout(ending)
    ending = undefined
  }
  function endClick(): void {
    if (!touchedEnd) live.press('end')
    touchedEnd = false
  }
  $effect(() => (live.ended ? keepKeys() : undefined))
  const endKey = (e: KeyboardEvent) => e.key === ' ' || e.key === 'Enter'
</script>

<svelte:window onkeyup={spaceUp} onkeydown={keys} onpointerup={() => void touched()} />

<main class="run" id="work" class:held={live.state === 'held'}>
  {#if live.problem}<Problem problem={live.problem} />{/if}
  {#if live.run && live.anchor}
    <h1 class="sr">{live.run.occurrence.name}</h1>
    <div class="sr" role="status">{live.announced}</div>
    <Ribbon
      stretches={live.run.order.stretches}
      totalMs={live.run.order.totalMs}
      position={here.position}
      now={block}
    />
    <div class="top">
      <b
        >{live.place}{#if block?.wave && waves > 1}<span class="call">
            · {live.floorOf(block)?.layout === 'partners' ? t.partner(block.wave) : t.wave(block.wave, waves)}</span
          >{/if}</b
      >
      {#if live.state === 'held'}<b class="call">{t.held}</b>{/if}
      {#if here.wait > 0}<b class="call">{t.waiting(here.wait)}</b>{/if}
      {#if live.lost || live.unsent}<b class="call" id="lost">{t.lost(live.pending.length)}</b>{/if}
      <span
        >{live.ended
          ? t.ended
          : t.left(live.leftOfAll, timeOfDay(live.now + live.leftOfAll, live.run.occurrence.timeZone))}</span
      >
    </div>

    <!-- A tap anywhere on the stage holds and goes on; Space and the first key do
         the same for those who do not tap. -->
    <!-- svelte-ignore a11y_click_events_have_key_events, a11y_no_static_element_interactions -->
    <div
      class="stage"
      onpointerdown={() => (armed = audible || !sound)}
      onclick={() => armed && !live.ended && live.toggle()}
    >
      <div class="what">
        <p class="tag">{ready ? t.ready : t.now}</p>
        <p class="name" class:long={live.heading.length > 24}>{live.heading}</p>
        {#if live.spoken}<p class="call huge" id="spoken">{live.spoken}</p>{/if}
        {#if live.switching}<p class="call big">
            {live.switching.in > 0 ? t.switchIn(live.switching.in) : nameOf.stretchKind['change-sides']}
          </p>
        {:else if live.called && !live.spoken}<p class="call big" id="called">{live.called}</p>{/if}
      </div>
      <div class="clock" class:lower={live.inWindow || live.board} role="timer" aria-label={t.title} id="clock">
        {live.ended ? '0' : digits}
      </div>
    </div>
    {#if block && !live.ended}
      <svg class="bar" viewBox={`0 0 ${block.untilMs - block.fromMs} 10`} preserveAspectRatio="none" aria-hidden="true">
        <rect class="whole" x="0" y="0" width={block.untilMs - block.fromMs} height="10" />
        <rect class="gone" x="0" y="0" width={Math.max(here.position - block.fromMs, 0)} height="10" />
        {#if live.switching}<rect
            class="switch"
            x={live.switching.at - block.fromMs - 100}
            y="0"
            width="200"
            height="10"
          />{/if}
      </svg>
    {/if}

    {#if live.ended && !wall}
      <div class="keys after">
        {#if live.mayGoOn > 0}
          <button type="button" id="go-on" onclick={() => live.press('resume')}
            >{t.goOn} ({t.goOnFor(Math.ceil(live.mayGoOn / 1000))})</button
          >
        {/if}
        <button type="button" onclick={() => void navigate('/log/:occurrence', { params: { occurrence } })}
          >{t.toLog}</button
        >
        <button type="button" onclick={() => void live.create()}>{t.again}</button>
        <button type="button" onclick={() => void navigate('/')}>{t.leave}</button>
      </div>
    {:else}
      {#if live.board}<Board {live} floor={live.board.floor} turn={live.board.turn} />{:else}<Lanes
          {live}
          {wall}
        />{/if}
      <Ahead {live} />
      {#if wall}<p class="notes">{t.watching}</p>{/if}
      {#if !wall}<div class="keys" role="group" aria-label={t.keys}>
          <button type="button" id="toggle" onclick={() => live.toggle()}
            ><kbd>{t.key.space}</kbd> {ready ? t.start : live.moving ? t.hold : t.resume}</button
          >
          <button type="button" id="all-done" disabled={ready} onclick={() => live.press('next')}
            ><kbd>{t.key.allDone}</kbd> {t.allDone}</button
          >
          <button type="button" id="skip" disabled={ready} onclick={() => live.press('skip')}
            ><kbd>→</kbd> {t.skip}</button
          >
          <button type="button" id="back" disabled={ready} onclick={() => live.press('back')}
            ><kbd>←</kbd> {t.back}</button
          >
          <button type="button" id="add" disabled={ready} onclick={() => live.press('add', 15_000)}
            ><kbd>+</kbd> {t.add}</button
          >
          <button type="button" id="sound" aria-pressed={sound} onclick={() => (sound = !sound)}
            ><kbd>{t.key.sound}</kbd> {sound ? t.sound : t.soundOff}</button
          >
          <button
            type="button"
            id="end"
            class:ending={ending !== undefined}
            disabled={ready}
            onpointerdown={endDown}
            onpointerup={endUp}
            onpointerleave={endUp}
            onkeydown={(e) => endKey(e) && endDown()}
            onkeyup={(e) => endKey(e) && endUp()}
            onblur={endUp}
            onclick={endClick}>{t.end}</button
          >
          <button type="button" id="late" onclick={() => (late = true)}>{common.came}</button>
          <a id="wall" href={`/run/${occurrence}?wall`} target="_blank" rel="noopener">{t.wall}</a>
          <button type="button" id="leave" onclick={() => void navigate('/')}>{t.leave}</button>
        </div>{/if}
      <!-- A line of its own: words that come and go must not move the keys under a finger. -->
      <p class="notes">
        {#if sound && !audible}<span class="call" id="silent">{t.silent}</span>{/if}
        {#if awake}<span>{t.awake}.</span>{/if}
        <span>{t.stop}</span>
      </p>
    {/if}
  {:else if !live.problem}
    <p role="status">{common.loading}</p>
  {/if}
</main>
{#if late}
  {#await import('../../lib/parts/Attendance.svelte') then { default: Attendance }}<Attendance
      {occurrence}
      onclose={(changed) => {
        late = false
        if (changed) live.came(changed)
      }}
    />{/await}
{/if}

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
    min-width: 0;
    overflow-x: clip;
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
  .run p.huge {
    font-size: 3em;
    line-height: 1.1;
  }
  .run p.huge::first-letter {
    text-transform: uppercase;
  }
  .run p.big {
    font-size: 1.5em;
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
    font-size: min(37vh, 30vw);
    line-height: 0.8;
    font-variant-numeric: tabular-nums;
    text-align: right;
  }
  .clock.lower {
    font-size: min(20vh, 20vw);
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
  /* In sight however much is said above. */
  .keys {
    position: sticky;
    bottom: 0;
    display: flex;
    flex-wrap: wrap;
    gap: 8px;
    align-items: center;
    font-size: 14px;
    background: var(--dark);
    padding: 4px 0;
  }
  .keys a,
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
  .keys a {
    display: inline-flex;
    align-items: center;
    box-sizing: border-box;
    text-decoration: none;
  }
  .keys button:disabled {
    color: #7d8591;
    cursor: default;
  }
  .keys button.ending {
    background: linear-gradient(to right, #7a2d10 50%, var(--box) 50%) right / 200% 100%;
    animation: ending 1s linear forwards;
  }
  @keyframes ending {
    to {
      background-position: left;
    }
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
    .keys kbd {
      display: none;
    }
  }
  /* A phone, upright or lying: the buttons stand at the bottom edge, under the thumb. */
  @media (max-width: 700px), (max-height: 500px) {
    .run {
      padding-bottom: 124px;
    }
    .keys {
      position: fixed;
      z-index: 2;
      right: 0;
      bottom: 0;
      left: 0;
      display: grid;
      grid-template-columns: repeat(auto-fit, minmax(76px, 1fr));
      gap: 6px;
      background: var(--dark);
      border-top: 1px solid #566070;
      padding: 8px 10px;
    }
    .keys a,
    .keys button {
      justify-content: center;
      padding: 4px;
      font-size: 13px;
    }
  }
  @media (max-height: 500px) {
    .run {
      padding-bottom: 68px;
    }
    .clock {
      font-size: 34vh;
    }
  }
</style>
