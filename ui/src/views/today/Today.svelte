<script lang="ts">
  import { Button } from 'carbon-components-svelte'
  import {
    api,
    ask,
    type Occurrence,
    type Problem as ProblemType,
    type Today,
    type TodayClass,
  } from '../../lib/api/client'
  import { navigate } from '../../lib/nav'
  import Problem from '../../lib/parts/Problem.svelte'
  import { studio } from '../../lib/state/studio.svelte'
  import { partyName } from '../../lib/state/parties'
  import { when } from '../../lib/text/dates'
  import { asTyped } from '../../lib/text/format'
  import { common } from '../../lib/text/gen/common'
  import { today as t } from '../../lib/text/gen/today'
  import { nameOf } from '../../lib/text/names'
  import { whyText } from '../../lib/text/why'

  let today = $state.raw<Today>()
  let problem = $state<ProblemType>()
  let form = $state(false)
  let ticking = $state('')
  let edited = $state.raw<Occurrence>()
  let hasPlaces = $state(true)

  async function read(): Promise<void> {
    const [a, places] = await Promise.all([ask(api.GET('/api/today')), ask(api.GET('/api/places'))])
    problem = a.problem ?? places.problem
    today = a.data ?? today
    hasPlaces = (places.data?.length ?? 1) > 0
  }
  void read()

  // Whether a class is being run now: its run is asked, of those that may be.
  let running = $state.raw<Record<string, boolean>>({})
  const soFar = 4 * 3_600_000
  $effect(() => {
    const now = today?.nowMs ?? 0
    const may = [today?.next, ...(today?.past ?? [])].filter(
      (c): c is TodayClass => c?.runId !== undefined && Math.abs(now - c.startMs) < soFar,
    )
    for (const c of may)
      void ask(api.GET('/api/runs/{run}/now', { params: { path: { run: c.runId ?? '' } } })).then((a) => {
        const on = a.data?.anchor.state === 'moving' || a.data?.anchor.state === 'held'
        running = { ...running, [c.id]: on }
      })
  })

  function open(o?: Occurrence): void {
    edited = o
    form = true
  }
  // A class in which nothing happened can be taken away; put again it is there again.
  let gone = $state.raw<TodayClass>()
  async function remove(c: TodayClass): Promise<void> {
    const a = await ask(api.DELETE('/api/occurrences/{occurrence}', { params: { path: { occurrence: c.id } } }))
    problem = a.problem
    if (!a.data) return
    today = a.data
    gone = c
  }
  async function undo(c: TodayClass): Promise<void> {
    const body = {
      ...{ name: c.name, date: c.date, time: c.time, minutes: c.minutes, placeId: c.placeId },
      lanes: c.lanes.map((l) => ({
        ...{ lane: l.lane, people: l.people, stature: asTyped(l.stature) },
        ...(l.bodyKnown ? { body: asTyped(l.body) } : {}),
      })),
    }
    const a = await ask(api.PUT('/api/occurrences/{occurrence}', { params: { path: { occurrence: c.id } }, body }))
    problem = a.problem
    gone = undefined
    await read()
  }
  const whoComes = (c: TodayClass) =>
    c.lanes
      .filter((l) => l.people > 0)
      .map((l) => `${l.people} ${nameOf.lane[l.lane]}`)
      .join(', ')
</script>

{#snippet line(c: TodayClass, past: boolean)}
  <li class="card">
    <b>{c.name}</b>
    <div class="muted">{when(c.startMs, c.timeZone)} · {common.minutes(c.minutes)} · {c.place} · {whoComes(c)}</div>
    <div>
      {#if past}
        {#if running[c.id]}<a class="ember" href={`/run/${c.id}`}>{t.running}<span class="sr">: {c.name}</span></a> ·
        {/if}
        {t.logged(c.logged)} · <a href={`/log/${c.id}`}>{t.log}<span class="sr">: {c.name}</span></a>
      {:else}
        <a href={`/circuit/${c.id}`}>{c.circuitId ? t.openCircuit : t.makeCircuit}<span class="sr">: {c.name}</span></a>
      {/if}
      ·
      <button type="button" class="link" data-edit={c.id} onclick={() => open(c)}
        >{t.edit}<span class="sr">: {c.name}</span></button
      >
      {#if c.logged === 0 && !c.runId && c.people.length === 0}
        ·
        <button type="button" class="link" data-remove={c.id} onclick={() => void remove(c)}
          >{t.remove}<span class="sr">: {c.name}</span></button
        >
      {/if}
    </div>
  </li>
{/snippet}

<main class="page" id="work">
  <div class="head">
    <div class="grow"><h1>{t.title}</h1></div>
    <Button size="small" disabled={!hasPlaces} on:click={() => open()}>{t.add}</Button>
  </div>
  {#if problem}<Problem {problem} />{/if}
  {#if gone}
    <p role="status">
      {t.removed(gone.name)}
      <button type="button" class="link" id="undo-remove" onclick={() => gone && void undo(gone)}>{t.undo}</button>
    </p>
  {/if}
  {#if !hasPlaces}<p><a href="/kit">{t.noPlace}</a></p>{/if}
  {#if today}
    {@const names = studio.names(today.items, today.next)}
    {#if today.next}
      {@const c = today.next}
      <section class="card next" aria-labelledby="next">
        <p class="small" id="next">{t.next}</p>
        <h2 class="time">{c.name}</h2>
        <p>{when(c.startMs, c.timeZone)} · {common.minutes(c.minutes)} · {c.place} · {whoComes(c)}</p>
        {#if c.needs.length > 0}
          <h3>{t.needs}</h3>
          <ul>
            {#each c.needs as need, i (i)}<li class="ember">{whyText(need, names)}</li>{/each}
          </ul>
        {:else}
          <p>{t.ready}</p>
        {/if}
        {#if c.decided.length > 0}
          <p id="decided">
            {t.decided}
            {c.decided.map((d) => t.times(d.advice, d.n)).join(', ')}
          </p>
        {/if}
        {#each Map.groupBy(c.moves, (m) => m.way) as [way, list] (way)}
          <p data-way={way} class:ember={way === 'out'}>
            <b>{nameOf.moveWay[way]}:</b>
            {list
              .map((m) =>
                t.movesOf(
                  partyName(c, m.party),
                  (way === 'out' ? m.joints.map((j) => nameOf.joint[j]) : m.moves.map((x) => studio.move(x))).join(
                    '; ',
                  ),
                ),
              )
              .join(' · ')}
          </p>
        {/each}
        {#if c.toAsk > 0}<p id="to-ask"><a href="/people">{t.toAsk(c.toAsk)}</a></p>{/if}
        <div class="buttons">
          {#if c.circuitId}
            <Button size="small" on:click={() => void navigate('/run/:occurrence', { params: { occurrence: c.id } })}
              >{running[c.id] ? t.running : t.run}</Button
            >
          {/if}
          <Button
            size="small"
            kind={c.circuitId ? 'tertiary' : 'primary'}
            on:click={() => void navigate('/circuit/:occurrence', { params: { occurrence: c.id } })}
          >
            {c.circuitId ? t.openCircuit : t.makeCircuit}
          </Button>
          <Button size="small" kind="tertiary" id="who-came" on:click={() => (ticking = c.id)}>{common.came}</Button>
          <Button size="small" kind="ghost" on:click={() => open(c)}>{t.edit}</Button>
          {#if c.logged === 0 && !c.runId && c.people.length === 0}
            <Button size="small" kind="ghost" id="remove-next" on:click={() => void remove(c)}>{t.remove}</Button>
          {/if}
        </div>
      </section>
    {:else}
      <p>{t.none}</p>
    {/if}
    <div class="grid2">
      {#if today.later.length > 0}
        <section>
          <h2>{t.later}</h2>
          <ul class="plain cards">
            {#each today.later as c (c.id)}{@render line(c, false)}{/each}
          </ul>
        </section>
      {/if}
      {#if today.past.length > 0}
        <section>
          <h2>{t.past}</h2>
          <ul class="plain cards">
            {#each today.past as c (c.id)}{@render line(c, true)}{/each}
          </ul>
        </section>
      {/if}
    </div>
  {:else if !problem}
    <p role="status">{common.loading}</p>
  {/if}
</main>

{#if ticking}
  {#await import('../../lib/parts/Attendance.svelte') then { default: Attendance }}<Attendance
      occurrence={ticking}
      onclose={(changed) => {
        ticking = ''
        if (changed) void read()
      }}
    />{/await}
{/if}
{#if form}
  {#await import('./ClassForm.svelte') then { default: ClassForm }}<ClassForm
      occurrence={edited}
      nowMs={today?.nowMs ?? Date.now()}
      onclose={(saved) => {
        form = false
        if (saved) void read()
      }}
    />{/await}
{/if}

<style>
  .next {
    max-width: 900px;
  }
  .next h2 {
    margin: 0;
  }
  .next p {
    margin: 4px 0 10px;
  }
  .cards {
    display: grid;
    gap: 8px;
  }
</style>
