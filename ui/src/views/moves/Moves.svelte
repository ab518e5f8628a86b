<script lang="ts">
  import { Button } from 'carbon-components-svelte'
  import { tick } from 'svelte'
  import {
    api,
    ask,
    asking,
    asItStands,
    lanes,
    type MoveCard,
    type Place,
    type Problem as ProblemType,
    type Schemas,
  } from '../../lib/api/client'
  import Glyph from '../../lib/draw/Glyph.svelte'
  import { navigate, route } from '../../lib/nav'
  import FileIn from '../../lib/parts/FileIn.svelte'
  import Problem from '../../lib/parts/Problem.svelte'
  import { glossary } from '../../lib/state/glossary'
  import { studio } from '../../lib/state/studio.svelte'
  import { common } from '../../lib/text/gen/common'
  import { moves as t } from '../../lib/text/gen/moves'
  import { nameOf } from '../../lib/text/names'
  import { meant, searched } from '../../lib/text/search'
  import Card from './Card.svelte'
  import HouseStyle from './HouseStyle.svelte'
  import Paces from './Paces.svelte'
  import OwnMove from './OwnMove.svelte'

  let library = $state.raw<Schemas['MoveLibrary']>()
  let places = $state.raw<Place[]>([])
  let atHand = $state.raw<Set<string>>()
  let problem = $state<ProblemType>()
  let text = $state('')
  let styling = $state(false)
  let copying = $state(false)
  const wanted = $state({ pattern: '', plane: '', lane: '', place: '', joint: '' })

  async function read(): Promise<void> {
    const a = await ask(api.GET('/api/moves'))
    problem = a.problem
    if (!a.data) return
    glossary.learn(a.data.words)
    library = a.data
  }
  void read()
  void ask(api.GET('/api/places')).then((a) => (places = a.data ?? []))

  // What a place's kit serves is the server's to say; a late answer for another
  // place is dropped.
  $effect(() => {
    const place = wanted.place
    atHand = undefined
    if (place === '') return
    return asking(
      (signal) => api.GET('/api/moves/at/{place}', { params: { path: { place } }, signal }),
      (a) => (atHand = new Set(a.data?.moves ?? [])),
    )
  })

  const index = $derived(
    (library?.moves ?? []).map((m) => ({
      m,
      by: searched([m.name, ...(m.also ?? [])], [nameOf.pattern[m.pattern] ?? '', nameOf.plane[m.plane] ?? '']),
    })),
  )
  const found = $derived.by(() => {
    return index
      .filter(
        ({ m, by }) =>
          meant(text, by) &&
          (wanted.pattern === '' || m.pattern === wanted.pattern) &&
          (wanted.plane === '' || m.plane === wanted.plane) &&
          (wanted.lane === '' || m.lanes.some((l) => l === wanted.lane)) &&
          (wanted.joint === '' || (m.demands[wanted.joint] ?? 0) < 2) &&
          (wanted.place === '' || atHand === undefined || atHand.has(m.id)),
      )
      .map((x) => x.m)
  })
  const byId = $derived(new Map((library?.moves ?? []).map((m) => [m.id, m])))
  const here = $derived((route.params as { move?: string }).move ?? '')
  const card = $derived(byId.get(here))
  const rungs = $derived(
    (library?.moves ?? [])
      .filter((m) => card?.ladder && m.ladder === card.ladder)
      .sort((a: MoveCard, b: MoveCard) => (a.rung ?? 0) - (b.rung ?? 0)),
  )

  async function pick(move: string): Promise<void> {
    styling = false
    await navigate('/moves/:move', { params: { move }, scrollToTop: false })
    await tick()
    document.getElementById('move-name')?.focus()
  }
  // A file of moves is taken in only as it was looked at: the hash says so.
  let hash = ''
  async function look(text: string, name: string) {
    const a = await ask(api.POST('/api/own-moves/preview', { body: {} as Schemas['File'], ...asItStands(text) }))
    if (!a.data) return { problem: a.problem }
    if (a.data.fault) return { problem: { status: 422, detail: a.data.fault } }
    hash = a.data.hash
    const { added, changed, same } = a.data
    return {
      say:
        added.length + changed.length === 0
          ? t.own.nothing(name)
          : t.own.would(name, added.length, changed.length, same.length),
    }
  }
  async function bring(text: string) {
    const body = `{"hash":${JSON.stringify(hash)},"file":${text}}`
    const a = await ask(api.POST('/api/own-moves/import', { body: {} as Schemas['MovesImport'], ...asItStands(body) }))
    if (!a.data) return { problem: a.problem }
    await Promise.all([studio.load(), read()])
    return { say: t.own.did(a.data.added.length, a.data.changed.length) }
  }
  async function copied(id: string | undefined): Promise<void> {
    copying = false
    if (!id) return
    await Promise.all([studio.load(), read()])
    await pick(id)
  }
  let wordsList = $state<HTMLDetailsElement>()
  function toWords(): void {
    if (!wordsList) return
    wordsList.open = true
    wordsList.scrollIntoView({ block: 'start' })
    wordsList.querySelector('summary')?.focus()
  }
  const filters = $derived([
    { key: 'pattern' as const, label: t.pattern, none: t.all, options: Object.entries(nameOf.pattern) },
    { key: 'plane' as const, label: t.plane, none: t.all, options: Object.entries(nameOf.plane) },
    {
      key: 'lane' as const,
      label: t.lane,
      none: t.all,
      options: lanes.map((l) => [l, nameOf.lane[l]] as const),
    },
    {
      key: 'place' as const,
      label: t.place,
      none: t.anywhere,
      options: places.map((p) => [p.id, p.name] as const),
    },
    { key: 'joint' as const, label: t.spare, none: t.noJoint, options: Object.entries(nameOf.joint) },
  ])
</script>

<main class="page moves" id="work">
  <div class="head">
    <h1 class="grow">{t.title}</h1>
    <Button size="small" kind="tertiary" id="house-style" on:click={() => (styling = !styling)} aria-expanded={styling}
      >{t.style}</Button
    >
  </div>
  <div class="find" class:covered={card || styling}>
    {#if problem}<Problem {problem} />{/if}
    <label class="text">
      <span>{t.find}</span>
      <input id="find" type="search" class="log-input" bind:value={text} autocomplete="off" />
    </label>
    <div class="filters">
      {#each filters as f (f.key)}
        <label>
          <span>{f.label}</span>
          <select id={`filter-${f.key}`} class="log-input" bind:value={wanted[f.key]}>
            <option value="">{f.none}</option>
            {#each f.options as [value, name] (value)}<option {value}>{name}</option>{/each}
          </select>
        </label>
      {/each}
    </div>
    {#if library}
      <p class="muted" role="status" id="found">
        {found.length === library.moves.length ? t.found(found.length) : t.foundOf(found.length, library.moves.length)}
      </p>
      {#if found.length === 0}<p>{Object.values(wanted).some(Boolean) ? t.none : t.noneCalled}</p>{/if}
      <p><button type="button" class="link" id="to-words" onclick={toWords}>{t.toWords}</button></p>
      <ul class="list" id="list">
        {#each found as m (m.id)}
          <li>
            <a
              href={`/moves/${m.id}`}
              aria-current={m.id === here ? 'true' : undefined}
              data-move={m.id}
              data-scroll-to-top="false"
            >
              <svg width="16" height="16" aria-hidden="true"><Glyph pattern={m.pattern} /></svg>
              {m.name}
            </a>
          </li>
        {/each}
      </ul>
      <details>
        <summary>{t.cannot}</summary>
        {#each library.limits as l (l.what)}
          <p>
            {l.say} <span class="muted">{t.nearest} {l.nearest.map((id) => studio.move(id)).join(', ')}</span>
          </p>
        {/each}
      </details>
      <details id="words" bind:this={wordsList}>
        <summary>{t.words}</summary>
        <dl>
          {#each library.words as w (w.term)}
            <dt>{w.term}</dt>
            <dd>{w.means}</dd>
          {/each}
        </dl>
      </details>
      <details id="own-files">
        <summary>{t.own.file}</summary>
        <p><a href="/api/own-moves" download="moves.json">{t.own.out}</a></p>
        <FileIn id="moves" label={t.own.in} {look} {bring} />
      </details>
    {:else if !problem}<p role="status">{common.loading}</p>{/if}
  </div>
  <div class="card-side">
    {#if styling}
      <h2>{t.style}</h2>
      <p class="muted">{t.styleWhat}</p>
      <HouseStyle onchange={() => void read()} />
      <Paces />
    {:else if card}
      <p class="back"><a href="/moves">{t.close}</a></p>
      <Card {card} {rungs} onpick={(id) => void pick(id)} />
      <Button size="small" kind="tertiary" id="own" on:click={() => (copying = true)}>{t.own.open}</Button>
      <details class="exceptions" id="exceptions">
        <summary>{t.exceptions}</summary>
        {#key card.id}<HouseStyle move={card.id} onchange={() => void read()} />{/key}
      </details>
    {:else if library}<p class="muted pick">{here ? common.notFound : t.pick}</p>{/if}
  </div>
</main>

{#if copying && card}
  <OwnMove from={card} nextRung={card.ladder ? rungs.length + 1 : undefined} onclose={(id) => void copied(id)} />
{/if}

<style>
  .moves {
    display: grid;
    grid-template-columns: minmax(260px, 340px) minmax(0, 1fr);
    gap: 0 28px;
    align-items: start;
  }
  .head {
    grid-column: 1 / -1;
  }
  dl {
    margin: 8px 0;
  }
  dt {
    font-weight: 600;
  }
  dd {
    margin: 0 0 8px;
    color: var(--muted);
  }
  .exceptions {
    border-top: 1px solid var(--line);
    margin-top: 16px;
    padding-top: 8px;
  }
  .find {
    position: sticky;
    top: 0;
    max-height: 100vh;
    overflow: auto;
    box-sizing: border-box;
    padding-bottom: 16px;
  }
  label span {
    display: block;
    font-size: 12px;
    color: var(--muted);
  }
  .text {
    display: block;
    margin: 12px 0 8px;
  }
  .text input,
  select {
    width: 100%;
    box-sizing: border-box;
  }
  .filters {
    display: grid;
    grid-template-columns: 1fr 1fr;
    gap: 8px;
    margin-bottom: 8px;
  }
  .list {
    list-style: none;
    padding: 0;
    margin: 0 0 12px;
  }
  .list a {
    display: flex;
    gap: 8px;
    align-items: center;
    padding: 5px 8px;
    color: var(--ink);
    text-decoration: none;
    border-left: 4px solid transparent;
  }
  .list a:hover {
    background: var(--soft);
  }
  .list a[aria-current] {
    border-left-color: var(--accent);
    background: var(--soft);
    font-weight: 600;
  }
  .back {
    display: none;
    margin: 0 0 8px;
  }
  @media (max-width: 900px) {
    .moves {
      grid-template-columns: minmax(0, 1fr);
    }
    .find {
      position: static;
      max-height: none;
    }
    .find.covered,
    .pick {
      display: none;
    }
    .back {
      display: block;
    }
  }
</style>
