<script lang="ts">
  import { Button, InlineNotification } from 'carbon-components-svelte'
  import { flushSync, onDestroy, tick } from 'svelte'
  import {
    api,
    ask,
    type Circuit,
    type Problem as ProblemType,
    type Schemas,
    type TodayClass,
  } from '../../lib/api/client'
  import Balance from '../../lib/draw/Balance.svelte'
  import Pressure from '../../lib/draw/Pressure.svelte'
  import Score from '../../lib/draw/Score.svelte'
  import { navigate, p, route } from '../../lib/nav'
  import { keepKeys } from '../../lib/parts/keys'
  import Problem from '../../lib/parts/Problem.svelte'
  import Tabs from '../../lib/parts/Tabs.svelte'
  import Why from '../../lib/parts/Why.svelte'
  import { blockOf, mainBlock, slotsOf } from '../../lib/state/blocks'
  import { Editor } from '../../lib/state/editor.svelte'
  import { studio } from '../../lib/state/studio.svelte'
  import { when } from '../../lib/text/dates'
  import { clock } from '../../lib/text/format'
  import { circuit as t } from '../../lib/text/gen/circuit'
  import { common } from '../../lib/text/gen/common'
  import { moves as movesTexts } from '../../lib/text/gen/moves'
  import { today as todayTexts } from '../../lib/text/gen/today'
  import { nameOf } from '../../lib/text/names'
  import { whyText } from '../../lib/text/why'
  import History from './History.svelte'
  import CueLine from './CueLine.svelte'
  import Day from './Day.svelte'
  import Decided from './Decided.svelte'
  import Hall from './Hall.svelte'
  import Home from './Home.svelte'
  import OnPaper from './OnPaper.svelte'
  import ProposeForm from './ProposeForm.svelte'
  import Sessions from './Sessions.svelte'
  import Floor from './Floor.svelte'
  import Rehearsal from './Rehearsal.svelte'
  import Settings from './Settings.svelte'
  import SlotPanel from './SlotPanel.svelte'
  import Totals from './Totals.svelte'
  import Who from './Who.svelte'

  const occurrence = (route.params as { occurrence?: string }).occurrence ?? ''
  const editor = new Editor()
  let cls = $state.raw<TodayClass>()
  let problem = $state<ProblemType>()
  let proposing = $state(false)
  let tab = $state<'hall' | 'who' | 'day' | 'rehearsal' | 'home' | 'sessions' | 'history'>('hall')
  let compared = $state<number>()
  let slot = $state('')
  let party = $state('')
  let chosenBlock = $state('')
  const c = $derived(editor.circuit)
  const date = $derived(c?.occurrence) // said anew only where an edit changed it
  const at = $derived(date && `${when(date.startMs, date.timeZone)} · ${date.place}`)
  const items = $derived(c?.items) // what an edit left as it was is the same object: nothing is written anew for it
  const names = $derived(studio.names(items ?? [], c?.occurrence))
  const places = $derived(new Map(c && slotsOf(c.document).map((s) => [s.id, s])))

  void ask(api.GET('/api/occurrences/{occurrence}', { params: { path: { occurrence } } })).then(async (a) => {
    problem = a.problem
    cls = a.data
    if (a.data?.circuitId) await editor.load(a.data.circuitId)
  })
  onDestroy(() => editor.leave())

  // The cues are asked anew when the moves are others; a late answer for older ones is
  // dropped.
  let cues = $state.raw<Schemas['CueQueue']>()
  let asked = 0
  const id = $derived(c?.id)
  const moves = $derived(
    c &&
      slotsOf(c.document)
        .flatMap((s) => Object.values(s.entries).map((e) => e.variant))
        .join(' '),
  )
  $effect(() => {
    if (!id) return
    const turn = ++asked
    void moves
    void ask(api.GET('/api/circuits/{circuit}/cues', { params: { path: { circuit: id } } })).then((a) => {
      if (turn === asked) cues = a.data
    })
  })

  // What is only for paper follows a moment later, so that it holds up nothing on screen.
  let onPaper = $state.raw<Circuit>()
  $effect(() => {
    const next = c
    const later = setTimeout(() => (onPaper = next), 300)
    return () => clearTimeout(later)
  })

  // The block whose numbers stand below the score: the one chosen, that of the slot chosen,
  // or the first that the class is trained by.
  const block = $derived(
    c &&
      (c.document.blocks.find((b) => b.id === chosenBlock) ??
        blockOf(c.document, slot) ??
        mainBlock(c.document) ??
        c.document.blocks[0]),
  )
  function pickBlock(id: string): void {
    chosenBlock = id
    slot = ''
  }
  function moved(what: { slot?: string; block: string }, count: number): void {
    if (what.slot === undefined) editor.edit({ op: 'move-block', blockId: what.block, count })
    else editor.edit({ op: 'move-slot', slotId: what.slot, blockId: what.block, count })
  }
  /** Closes the panel; the keys go to the box it was of, or to another. */
  function leave(to = slot): void {
    const at = document.getElementById(`cell-${to}-${party}`)
    slot = ''
    void tick().then(() => at?.focus())
  }
  function pick(s: string, l: string, byKeys = false): void {
    if (byKeys) void tick().then(() => document.getElementById('slot-move')?.focus())
    slot = s
    party = l
    chosenBlock = ''
    // Where the panel is a sheet over the page, what was chosen stays in sight.
    void tick().then(() =>
      document
        .getElementById(`cell-${s}-${l}`)
        ?.scrollIntoView({ block: matchMedia('(max-width: 900px)').matches ? 'start' : 'nearest', inline: 'nearest' }),
    )
  }
  function keys(e: KeyboardEvent): void {
    // Esc leaves the panel of a slot for its box.
    if (e.key === 'Escape' && slot && e.target instanceof HTMLElement && e.target.closest('.side')) {
      leave()
      return
    }
    // Fields of numbers hold the plan's; only text being written has an undo of its own.
    const typing =
      e.target instanceof HTMLElement && e.target.matches('textarea, input:not([type=number], [type=checkbox])')
    if (!(e.ctrlKey || e.metaKey) || typing || !c) return
    if (e.key.toLowerCase() === 'z') {
      e.preventDefault()
      if (e.shiftKey) editor.redo()
      else editor.undo()
    } else if (e.key.toLowerCase() === 'y') {
      e.preventDefault()
      editor.redo()
    }
  }
  // What is saved at once need not be said to be saving: only what takes its time is.
  let said = $state<Editor['state']>('saved')
  $effect(() => {
    const now = editor.state
    const later = setTimeout(() => (said = now), now === 'saving' ? 300 : 0)
    return () => clearTimeout(later)
  })
  // A button that went or can no longer be pressed, as after the last undo or a proposal,
  // leaves the keys to the box chosen, else to the heading.
  let shown = false
  $effect(() => {
    void [c?.version, proposing]
    if (shown) return keepKeys(() => document.getElementById(`cell-${slot}-${party}`))
    shown = c !== undefined
  })
  const status = $derived({ saved: t.saved, saving: t.saving, unsaved: t.unsaved }[said])
  const people = $derived(
    (date?.lanes ?? cls?.lanes ?? [])
      .filter((l) => l.people > 0)
      .map((l) => `${l.people} ${nameOf.lane[l.lane]}`)
      .join(', '),
  )
</script>

<svelte:window onkeydown={keys} onbeforeprint={() => flushSync(() => (onPaper = c))} />

{#if problem}<main class="page" id="work"><Problem {problem} /></main>{/if}
{#if cls && !c && !cls.circuitId}
  <main class="page" id="work">
    <div class="head">
      <div class="grow">
        <h1>{cls.name}</h1>
        <p>{when(cls.startMs, cls.timeZone)} · {cls.place} · {people}</p>
      </div>
    </div>
    <p>{t.intro}</p>
    <ProposeForm occurrence={cls} send={(brief, signal) => editor.create(cls?.id ?? '', { brief }, signal)} />
    <Sessions {occurrence} use={(from) => editor.create(occurrence, { from })} />
  </main>
{:else if c}
  <div class="desk" class:wide={tab !== 'hall' || !slot}>
    <main class="page" id="work">
      <div class="head">
        <div class="grow">
          <h1>{c.occurrence.name}</h1>
          <p>{at} · {people}</p>
        </div>
        <div class="card total">
          <span class="time" id="total">{clock(c.plan.totalMs)}</span>
          <span class="muted">{t.of(c.plan.classMs)}</span>
          <span class:ember={!c.plan.fits} id="slack">
            {c.plan.slackMs < 0 ? t.over(-c.plan.slackMs) : t.spare(c.plan.slackMs)}
          </span>
          <Why why={c.plan.why} {names} label={t.wholeClass} />
          {#if c.plan.slackMs < 0}
            <Button id="make-fit" size="small" kind="tertiary" on:click={() => editor.fit()}>{t.makeFit}</Button>
          {/if}
        </div>
        <Button size="small" on:click={() => void navigate('/run/:occurrence', { params: { occurrence } })}
          >{todayTexts.run}</Button
        >
      </div>
      {#if editor.conflict}
        <InlineNotification
          kind="warning"
          lowContrast
          hideCloseButton
          title={t.conflict}
          subtitle={editor.beside ? t.beside(editor.beside) : ''}
        />
        {#if editor.beside}
          <Button
            id="compare"
            size="small"
            kind="tertiary"
            on:click={() => {
              compared = editor.beside
              tab = 'history'
            }}>{t.compare}</Button
          >
        {/if}
      {/if}
      {#if editor.problem}<Problem problem={editor.problem} />{/if}
      <div class="head tools">
        <Tabs
          grow
          label={t.title}
          tabs={[
            { id: 'hall', text: t.hallTab },
            { id: 'who', text: t.who.tab },
            { id: 'day', text: t.day.tab },
            { id: 'rehearsal', text: t.rehearsal.tab },
            { id: 'home', text: t.homeTab },
            { id: 'sessions', text: t.sessions.tab },
            { id: 'history', text: t.historyTab },
          ]}
          selected={tab}
          panel="circuit"
          onselect={(id) => (tab = id as typeof tab)}
        />
        <span role="status" id="saved" data-state={editor.state} class={said === 'unsaved' ? 'ember' : 'muted'}
          >{status}</span
        >
        <Button size="small" kind="ghost" disabled={!c.canUndo} on:click={() => editor.undo()}>{t.undo}</Button>
        <Button size="small" kind="ghost" disabled={!c.canRedo} on:click={() => editor.redo()}>{t.redo}</Button>
        {#if tab === 'hall'}<Button id="print-card" size="small" kind="ghost" on:click={() => print()}
            >{t.printCard}</Button
          >{/if}
        <Button size="small" kind="tertiary" on:click={() => (proposing = !proposing)}>{t.proposeAnew}</Button>
      </div>
      {#if proposing}
        <div class="card">
          <ProposeForm
            occurrence={c.occurrence}
            circuit={c}
            send={async (brief, signal) => {
              const answer = await editor.propose(brief, signal)
              if (answer.data?.circuit) {
                slot = ''
                proposing = false
              }
              return answer
            }}
          />
        </div>
      {/if}
      <div id="circuit" class="panel" role="tabpanel" aria-labelledby={`tab-${tab}`}>
        {#if c.notes.length > 0 && tab === 'hall'}
          <h2 class="small">{t.notes}</h2>
          <ul id="notes">
            {#each c.notes as n, i (i)}<li>{whyText(n, names)}</li>{/each}
          </ul>
        {/if}
        {#if tab === 'hall'}
          <Score
            circuit={c}
            {slot}
            {party}
            block={slot ? '' : (block?.id ?? '')}
            onpick={pick}
            onblock={pickBlock}
            onmove={moved}
          />
          {#if block}<Settings circuit={c} {editor} {block} onblock={pickBlock} />{/if}
          {#if block}
            {@const floor = c.plan.floors.find((f) => f.block === block.id)}
            {#if floor}
              <div class="head">
                <h2 class="small grow">{t.floor.title}</h2>
                <a id="station-sheet" href={p('/stations/:occurrence', { params: { occurrence } })}>{t.floor.sheet}</a>
              </div>
              <Floor {floor} occurrence={c.occurrence} slots={c.plan.slots} items={c.items} />
            {/if}
          {/if}
          <CueLine queue={cues} />
          <Decided circuit={c} {editor} />
          {#if !slot}<p class="muted hint">{t.pick}</p>{/if}
          <h2 class="small">{t.balance}</h2>
          <Balance beams={c.plan.balance} />
          <Totals circuit={c} />
          <h2>{t.flags}</h2>
          <ul id="flags">
            {#each c.plan.flags as f, i (i)}
              {@const s = f.slot && places.get(f.slot)}
              <li class={f.wrong || f.why.code === 'flag-too-long' ? 'ember' : ''}>
                {#if s}<strong>{nameOf.pattern[s.pattern]}</strong>{/if}
                {whyText(f.why, names)}
              </li>
            {:else}
              <li class="muted">{t.noFlags}</li>
            {/each}
          </ul>
          <Pressure circuit={c} />
          <Hall circuit={c} />
          <p class="muted">{movesTexts.stopAlways}</p>
          {#if onPaper}<OnPaper circuit={onPaper} {cues} />{/if}
        {:else if tab === 'who'}
          <h2 class="sr">{t.who.tab}</h2>
          <p><a id="who-sheet" href={p('/who/:occurrence', { params: { occurrence } })}>{t.who.sheet}</a></p>
          <Who circuit={c} />
        {:else if tab === 'day'}
          <Day circuit={c} {editor} />
        {:else if tab === 'rehearsal'}
          <Rehearsal circuit={c} />
        {:else if tab === 'sessions'}
          <Sessions {occurrence} circuit={c} use={(from) => editor.replace(from)} />
        {:else if tab === 'history'}
          <History circuit={c} {editor} start={compared} />
        {:else}
          <Home circuit={c} />
        {/if}
      </div>
    </main>
    {#if tab === 'hall' && slot && party}
      <SlotPanel circuit={c} {editor} {slot} {party} onclose={leave} onpick={pick} />
    {/if}
  </div>
{:else if !problem}
  <main class="page" id="work"><p role="status">{common.loading}</p></main>
{/if}

<style>
  .total {
    display: flex;
    gap: 8px;
    align-items: baseline;
    flex-wrap: wrap;
    padding: 6px 14px;
  }
  .tools {
    margin-bottom: 6px;
  }
  .tools :global(.tabs) {
    margin: 0;
  }
</style>
