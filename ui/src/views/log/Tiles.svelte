<script lang="ts">
  // The log in class: everybody is a tile; whoever differed is tapped, then the move, then what
  // it was. By keys it goes by first letters and the signs on the buttons, while the keys are
  // here.
  import { tick } from 'svelte'
  import type { Log, LogLine, LogSheet, Schemas } from '../../lib/api/client'
  import { outbox } from '../../lib/state/outbox.svelte'
  import { serverTime } from '../../lib/state/servertime.svelte'
  import { studio } from '../../lib/state/studio.svelte'
  import { log as t } from '../../lib/text/gen/log'
  import { mass } from '../../lib/text/format'
  import { nameOf, painJoints } from '../../lib/text/names'

  type Input = Schemas['LogInput']
  type Part = Partial<Pick<Input, 'done' | 'inForm' | 'reserve' | 'pain' | 'joint' | 'load' | 'stopped'>>
  interface Props {
    log: Log
    sheets: LogSheet[]
    title: (s: LogSheet) => string
    /** It is the day after, or later: who is sore is asked. */
    later: boolean
    onsave: (s: LogSheet, l: LogLine, part: Part) => void
  }
  let { log, sheets, title, later, onsave }: Props = $props()

  /** What may be otherwise of a move: its key, its text, what is asked then. */
  const whats = [
    ['fewer', 'f'],
    ['more', 'm'],
    ['lighter', 'l'],
    ['heavier', 'h'],
    ['stopped', 's'],
    ['inForm', 'o'],
    ['pain', 'p'],
    ['reserve', 'r'],
    ['sore', 'a'],
    ['again', 'w'],
  ] as const
  type What = (typeof whats)[number][0]
  const asks: Record<What, string> = {
    fewer: t.tiles.howMany,
    more: t.tiles.howMany,
    stopped: t.tiles.howMany,
    inForm: t.tiles.inFormHow,
    reserve: t.tiles.leftHow,
    lighter: t.tiles.load,
    heavier: t.tiles.load,
    pain: t.tiles.where,
    sore: t.tiles.where,
    again: '',
  }
  interface Choice {
    text: string
    part: Part
  }

  let subject = $state('')
  let slot = $state('')
  let what = $state<What>()
  /** Where somebody was sore is asked, whatever the move. */
  let soreAt = $state(false)
  let panel = $state<HTMLElement>()
  const people = $derived([...sheets].sort((a, b) => Number(a.subject === a.lane) - Number(b.subject === b.lane)))
  const sheet = $derived(sheets.find((s) => s.subject === subject))
  const line = $derived(sheet?.lines.find((l) => l.slot === slot))

  const counts = (from: number, to: number): number[] => {
    const out: number[] = []
    for (let n = from; from > to ? n >= to : n <= to; n += from > to ? -1 : 1) out.push(n)
    return out
  }
  /** What may be said of it: at most nine, each with its digit. */
  function choicesOf(l: LogLine, w: What): Choice[] {
    const of = (ns: number[], part: (n: number) => Part): Choice[] =>
      ns.map((n) => ({ text: String(n), part: part(n) }))
    const less = counts(l.planned - 1, Math.max(0, l.planned - 9)).filter((n) => n >= 0)
    const loads = (ms: number[]): Choice[] =>
      ms.map((m) => ({ text: mass(m, studio.unit), part: { load: t.grams(m) } }))
    const joints: Choice[] = painJoints.map((j) => ({
      text: nameOf.joint[j],
      part: { pain: w === 'sore' ? 'sore' : 'joint', joint: j },
    }))
    switch (w) {
      case 'fewer':
        return of(less, (n) => ({ done: n, inForm: n }))
      case 'more':
        return of(counts(l.plannedHigh + 1, l.plannedHigh + 9), (n) => ({ done: n, inForm: n }))
      case 'stopped':
        return of(less, (n) => ({ stopped: true, done: n, inForm: n }))
      case 'inForm':
        return of(
          counts(l.done - 1, Math.max(0, l.done - 9)).filter((n) => n >= 0),
          (n) => ({ inForm: n }),
        )
      case 'reserve':
        return of(counts(0, 6), (n) => ({ reserve: n }))
      case 'lighter':
        return loads(l.near.filter((m) => m < l.plannedG).reverse())
      case 'heavier':
        return loads(l.near.filter((m) => m > l.plannedG))
      case 'pain':
      case 'sore':
        return joints
    }
    return []
  }
  const choices = $derived(line && what ? choicesOf(line, what) : [])

  /** What is to be read on a tile. */
  function notes(s: LogSheet): string[] {
    const out = outbox.sore(log.occurrence.id, s.subject).map((j) => t.tiles.felt(nameOf.pain.sore, nameOf.joint[j]))
    for (const l of s.lines) {
      if (!l.saved) continue
      const move = studio.move(l.variant)
      if (l.done < l.planned || l.done > l.plannedHigh) out.push(t.tiles.count(move, l.done, l.planned))
      if (l.inForm < l.done) out.push(t.tiles.form(move, l.inForm))
      if (l.loadG !== l.plannedG) out.push(t.tiles.lifted(move, mass(l.loadG, studio.unit)))
      if (l.pain === 'joint' || l.pain === 'sore')
        out.push(t.tiles.felt(move, l.joint ? `${nameOf.pain[l.pain]}: ${nameOf.joint[l.joint]}` : nameOf.pain[l.pain]))
      else if (l.stopped && l.done >= l.planned) out.push(t.tiles.felt(move, t.tiles.stopped))
    }
    return out
  }
  function stateOf(s: LogSheet): string {
    const said = notes(s)
    if (s.lines.length === 0) return t.tiles.nothing
    if (said.length > 0) return said.join('; ')
    return s.lines.every((l) => l.saved) ? t.tiles.asPlanned : t.tiles.plan
  }

  async function open(s: LogSheet): Promise<void> {
    subject = s.subject
    slot = ''
    what = undefined
    soreAt = false
    typed = ''
    await tick()
    panel?.focus()
  }
  async function close(): Promise<void> {
    const was = subject
    subject = ''
    await tick()
    document.getElementById(`tile-${was}`)?.focus()
  }
  function back(): void {
    if (what) what = undefined
    else if (slot) slot = ''
    else if (soreAt) soreAt = false
    else void close()
  }
  function choose(c: Choice): void {
    if (sheet && line) onsave(sheet, line, c.part)
    void close()
  }
  function pick(w: What): void {
    if (w !== 'again') {
      what = w
      return
    }
    if (line)
      choose({
        text: '',
        part: { done: line.planned, inForm: line.planned, pain: 'none', stopped: false, load: t.grams(line.plannedG) },
      })
  }
  // In its order: what it is sought in may be on its way.
  function sore(region: (typeof painJoints)[number]): void {
    const body = { region, atMs: Math.round(serverTime.now()) }
    outbox.post({ kind: 'sore', occurrence: log.occurrence.id, subject, body })
    void close()
  }
  const shownWhats = $derived(
    whats.filter(([w]) => (w !== 'sore' || later) && (!/lighter|heavier/.test(w) || (line?.near.length ?? 0) > 0)),
  )

  /** The signs on the buttons are keys of their own, while the keys are in the panel. */
  function onkey(e: KeyboardEvent): void {
    if (e.ctrlKey || e.metaKey || e.altKey) return
    if (e.key === 'Escape') {
      e.preventDefault()
      back()
      return
    }
    const n = /^[1-9]$/.test(e.key) ? Number(e.key) - 1 : -1
    if (soreAt) {
      if (painJoints[n]) sore(painJoints[n])
    } else if (line && what) {
      if (choices[n]) choose(choices[n])
    } else if (line) {
      const w = shownWhats.find(([, key]) => key === e.key.toLowerCase())
      if (w) pick(w[0])
    } else if (sheet?.lines[n]) {
      slot = sheet.lines[n].slot
    } else if (later && e.key.toLowerCase() === 'a') {
      soreAt = true
    } else return
    e.preventDefault()
  }

  // First letters lead to a tile; what is typed quickly belongs together.
  let typed = ''
  let typedAt = 0
  function onletter(e: KeyboardEvent): void {
    if (e.ctrlKey || e.metaKey || e.altKey || e.key.length !== 1 || !/\p{L}/u.test(e.key)) return
    const now = performance.now()
    typed = now - typedAt > 700 ? e.key : typed + e.key
    typedAt = now
    const from = document.activeElement?.id ?? ''
    const starts = people.filter((s) => title(s).toLowerCase().startsWith(typed.toLowerCase()))
    const at = typed.length > 1 ? 0 : starts.findIndex((s) => `tile-${s.subject}` === from) + 1
    const next = starts[at % Math.max(1, starts.length)]
    if (next) document.getElementById(`tile-${next.subject}`)?.focus()
  }
</script>

{#snippet keyed(key: string, text: string, press: () => void, id?: string)}
  <button type="button" class="say" {id} onclick={press}>
    <kbd aria-hidden="true">{key}</kbd>
    {text}
  </button>
{/snippet}

{#if sheet}
  <!-- svelte-ignore a11y_no_noninteractive_element_interactions -->
  <div
    class="panel"
    role="group"
    tabindex="-1"
    aria-labelledby="tile-of"
    bind:this={panel}
    onkeydown={onkey}
    id="tile-panel"
  >
    <p id="tile-of">
      <b>{line ? t.tiles.how(title(sheet), studio.move(line.variant)) : t.tiles.which(title(sheet))}</b>
    </p>
    <div class="choices">
      {#if soreAt}
        {#each painJoints as j, i (j)}{@render keyed(String(i + 1), nameOf.joint[j], () => sore(j), `sore-${j}`)}{/each}
      {:else if line && what}
        <p class="wide">{asks[what]}</p>
        {#each choices as c, i (c.text)}{@render keyed(String(i + 1), c.text, () => choose(c), `say-${i + 1}`)}{/each}
        {#if what === 'pain'}{@render keyed('', t.tiles.any, () => choose({ text: '', part: { pain: 'joint' } }))}{/if}
        {#if choices.length === 0}<p>{t.tiles.none}</p>{/if}
      {:else if line}
        {#each shownWhats as [w, key] (w)}{@render keyed(key, t.tiles[w], () => pick(w), `what-${w}`)}{/each}
      {:else}
        {#each sheet.lines as l, i (l.slot)}
          {@render keyed(String(i + 1), studio.move(l.variant), () => (slot = l.slot), `move-${l.slot}`)}
        {/each}
        {#if later}{@render keyed('a', t.tiles.soreAt, () => (soreAt = true), 'sore-at')}{/if}
      {/if}
      {@render keyed(t.tiles.esc, t.tiles.back, back, 'tile-back')}
    </div>
  </div>
{:else}
  <!-- svelte-ignore a11y_no_noninteractive_element_interactions -->
  <ul class="tiles plain" id="tiles" onkeydown={onletter}>
    {#each people as s (s.subject)}
      {@const said = notes(s)}
      <li>
        <button
          type="button"
          class="tile"
          class:done={s.lines.length > 0 && s.lines.every((l) => l.saved)}
          class:differs={said.length > 0}
          id={`tile-${s.subject}`}
          aria-label={t.tiles.open(title(s), stateOf(s))}
          disabled={s.lines.length === 0}
          onclick={() => void open(s)}
        >
          <b>{title(s)}</b>
          <span>{stateOf(s)}</span>
        </button>
      </li>
    {/each}
  </ul>
{/if}

<style>
  .tiles {
    display: grid;
    grid-template-columns: repeat(auto-fill, minmax(150px, 1fr));
    gap: 8px;
    margin-top: 10px;
  }
  .tile {
    width: 100%;
    min-height: 64px;
    height: 100%;
    display: flex;
    flex-direction: column;
    align-items: flex-start;
    gap: 2px;
    padding: 8px 10px;
    font: inherit;
    text-align: left;
    color: inherit;
    background: var(--panel);
    border: 1px dashed var(--line);
    border-left-width: 4px;
    cursor: pointer;
  }
  .tile.done {
    border-style: solid;
    border-left-color: var(--accent);
  }
  .tile.differs {
    border-left-color: var(--ember);
  }
  .tile span {
    font-size: 12px;
  }
  .panel {
    background: var(--panel);
    border-left: 4px solid var(--accent);
    padding: 10px 12px;
    margin-top: 10px;
  }
  .choices {
    display: flex;
    flex-wrap: wrap;
    gap: 8px;
    margin-top: 8px;
  }
  .wide {
    flex-basis: 100%;
  }
  .say {
    display: inline-flex;
    align-items: center;
    min-height: 48px;
    min-width: 48px;
    padding: 8px 14px;
    font: inherit;
    color: inherit;
    background: var(--paper);
    border: 1px solid var(--line);
    cursor: pointer;
  }
  kbd {
    font: inherit;
    text-transform: uppercase;
    font-size: 12px;
    color: var(--muted);
    margin-right: 4px;
  }
  @media (pointer: coarse) {
    kbd {
      display: none;
    }
  }
</style>
