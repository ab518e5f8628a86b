<script lang="ts">
  import { Button } from 'carbon-components-svelte'
  import { onDestroy } from 'svelte'
  import {
    api,
    ask,
    type Log,
    type LogLine,
    type LogSheet,
    type Problem as ProblemType,
    type Schemas,
  } from '../../lib/api/client'
  import { route } from '../../lib/nav'
  import Attendance from '../../lib/parts/Attendance.svelte'
  import Problem from '../../lib/parts/Problem.svelte'
  import Tabs from '../../lib/parts/Tabs.svelte'
  import Why from '../../lib/parts/Why.svelte'
  import { range } from '../../lib/state/blocks'
  import { outbox } from '../../lib/state/outbox.svelte'
  import { serverTime } from '../../lib/state/servertime.svelte'
  import { studio } from '../../lib/state/studio.svelte'
  import { when } from '../../lib/text/dates'
  import { common } from '../../lib/text/gen/common'
  import { circuit } from '../../lib/text/gen/circuit'
  import { log as t } from '../../lib/text/gen/log'
  import { nameOf, painJoints } from '../../lib/text/names'
  import Earlier from './Earlier.svelte'
  import More from './More.svelte'
  import Person from './Person.svelte'
  import PersonForm from './PersonForm.svelte'
  import Spent from './Spent.svelte'
  import Tiles from './Tiles.svelte'

  const doseTexts = circuit.dose
  type Input = Schemas['LogInput']
  type Told = Pick<Input, 'left' | 'right' | 'rounds' | 'stopped' | 'lighter' | 'parts'>
  type Typed = Pick<Input, 'done' | 'inForm' | 'pain' | 'joint' | 'others' | 'load'> &
    Told & { reserve: number | undefined }
  type Loose<T> = { [K in keyof T]: T[K] | undefined }
  /** A line as it stands here, with loads as typed while they are on their way. */
  type Line = LogLine & { typedLoad?: string | undefined; typedLighter?: string | undefined }

  const occurrence = (route.params as { occurrence?: string }).occurrence ?? ''
  let log = $state.raw<Log>()
  let problem = $state<ProblemType>()
  let subject = $state('')
  let adding = $state(false)
  let ticking = $state(false)
  let editing = $state.raw<LogSheet>()
  // What was typed and is on its way stands over what the server knows.
  const onItsWay = (known: LogSheet) => ({
    ...known,
    lines: known.lines.map((l): Line => {
      const body = outbox.line(occurrence, known.subject, l.slot)
      if (!body) return outbox.planned(occurrence) ? { ...l, saved: true } : l
      const { done, inForm, reserve, pain, joint, others, load, left, right, rounds, stopped, lighter, parts } = body
      const told = { left, right, rounds, stopped, parts, typedLighter: lighter }
      const owed = left === right ? undefined : l.owed
      return { ...l, ...told, owed, done, inForm, pain, saved: true, reserve, joint, others, typedLoad: load }
    }),
  })
  const sheets = $derived((log?.sheets ?? []).map(onItsWay))
  const sheet = $derived(sheets.find((s) => s.subject === subject) ?? sheets[0])
  const names = $derived(studio.names(log?.items ?? [], log?.occurrence))
  const title = (s: LogSheet) => (s.subject === s.lane ? t.lane(s.lane) : (s.name ?? common.dropIn))

  /** How often something that was sent was answered: what is read meanwhile is older. */
  let answers = 0
  let came = $state(0)
  async function read(): Promise<void> {
    const before = answers
    const a = await ask(api.GET('/api/occurrences/{occurrence}/log', { params: { path: { occurrence } } }))
    if (before !== answers) return read()
    problem = a.problem
    log = a.data ?? log
  }
  void read()

  void serverTime.measure()

  const put = (next: LogSheet): void => {
    if (log) log = { ...log, sheets: log.sheets.map((s) => (s.subject === next.subject ? next : s)) }
  }
  onDestroy(
    outbox.subscribe({
      sheet: (of, next) => of === occurrence && (answers++, put(next)),
      log: (of, next) => of === occurrence && (answers++, (log = next)),
      // The sheets begin with what the clock was told, and that may have been on its way.
      run: () => {
        answers++
        if (outbox.waiting.some((m) => m.kind === 'press')) return
        came++
        void read()
      },
    }),
  )

  // Lines go to the outbox, which sends them one after the other, now or later. What
  // is left out of a line is what it was.
  function save(s: LogSheet, l: Line, part: Loose<Partial<Typed>>): void {
    const now = { ...l, load: l.typedLoad ?? (l.saved ? lifted(l) : undefined), ...part }
    const joint =
      now.pain === 'joint' || now.pain === 'sore'
        ? {
            ...(now.joint ? { joint: now.joint } : {}),
            ...(now.others && now.pain === 'joint' ? { others: true } : {}),
          }
        : {}
    const body = {
      ...toldOf(now, part),
      done: now.done,
      inForm: now.inForm,
      pain: now.pain,
      ...joint,
      ...(now.reserve === undefined ? {} : { reserve: now.reserve }),
      ...(now.load ? { load: now.load } : {}),
      atMs: Math.round(serverTime.now()),
    }
    outbox.post({ kind: 'line', occurrence, subject: s.subject, slot: l.slot, body })
  }
  /** What else is told of a set; of two sides both, or neither where done is another number. */
  function toldOf(now: Loose<Omit<Line, 'load'>>, part: Partial<Typed>): Told {
    const { left, right, rounds, stopped, parts } = now
    const sides = left !== undefined && right !== undefined && Math.min(left, right) === now.done
    const lighter =
      part.lighter ??
      now.typedLighter ??
      (now.lighterG === undefined ? '' : now.lighterG > 0 ? t.grams(now.lighterG) : '0')
    return {
      ...(sides ? { left, right } : {}),
      ...(rounds === undefined ? {} : { rounds }),
      ...(stopped ? { stopped } : {}),
      ...(parts?.length ? { parts } : {}),
      ...(lighter ? { lighter } : {}),
    }
  }
  /** More of a set; whoever did fewer was no longer in form for more. */
  function more(s: LogSheet, l: Line, part: Partial<Typed>): void {
    const done = part.done ?? l.done
    save(s, l, { ...part, inForm: l.inForm === l.done ? done : Math.min(l.inForm, done) })
  }
  /** What was planned of a set: a count or a range, a side or in all. */
  function plannedText(l: Line): string {
    const n = range(l.planned, l.plannedHigh)
    const said = l.counted === 'seconds' ? t.plannedSeconds(n) : l.counted === 'to-failure' ? doseTexts.failure(n) : n
    return l.twoSides ? doseTexts.aSide(said) : said
  }
  /** Of what is sore the day after it is kept where: until that is said nothing is. */
  let asked = $state('')
  function felt(s: LogSheet, l: Line, pain: LogLine['pain']): void {
    asked = pain === 'sore' && !l.joint ? `${s.subject} ${l.slot}` : ''
    if (!asked) save(s, l, { pain })
  }
  const askedOf = (s: LogSheet, l: Line): boolean => asked === `${s.subject} ${l.slot}`
  function where(s: LogSheet, l: Line, joint: string): void {
    const pain = askedOf(s, l) ? 'sore' : l.pain
    if (pain === 'sore' && !joint) return
    asked = ''
    save(s, l, { pain, joint: (joint || undefined) as Input['joint'] })
  }
  const lifted = (l: LogLine) => (l.loadG > 0 ? t.grams(l.loadG) : '0')
  function rest(s: LogSheet): void {
    for (const l of s.lines) if (!l.saved) save(s, l, {})
  }
  const wholeClass = () => outbox.post({ kind: 'planned', occurrence, body: { atMs: Math.round(serverTime.now()) } })
  const allDone = $derived(sheets.every((s) => s.lines.every((l) => l.saved)))
  // It is the day after, or later: whoever is sore where they should not be is asked for.
  const later = $derived(log ? serverTime.now() - log.occurrence.startMs > 12 * 3_600_000 : false)

  /** What cannot be, by the field's id; the number that stands is put back. */
  let refused = $state<Record<string, string>>({})
  function form(s: LogSheet, l: Line, field: HTMLInputElement): void {
    const n = whole(field.value) ?? l.inForm
    const bad = n > l.done
    refused = { ...refused, [field.id]: bad ? t.tooMany(n, l.done) : '' }
    if (bad) field.value = String(l.inForm)
    else save(s, l, { inForm: n })
  }
  function whole(text: string): number | undefined {
    const n = Number.parseInt(text, 10)
    return Number.isNaN(n) ? undefined : n
  }
</script>

{#snippet number(
  s: LogSheet,
  l: Line,
  field: string,
  label: string,
  value: number | undefined,
  change: (field: HTMLInputElement) => void,
)}
  {@const id = `${field}-${l.slot}`}
  <td data-label={label}>
    <input
      class="log-input"
      {id}
      type="number"
      min="0"
      max="600"
      value={value ?? ''}
      aria-label={t.of(studio.move(l.variant), title(s), label)}
      aria-invalid={refused[id] ? 'true' : undefined}
      aria-describedby={refused[id] ? `${id}-refused` : undefined}
      onchange={(e) => change(e.currentTarget)}
    />
    {#if refused[id]}<small class="ember" role="alert" id={`${id}-refused`}>{refused[id]}</small>{/if}
  </td>
{/snippet}

<main class="page" id="work">
  <div class="head">
    <div class="grow">
      <h1>{t.title}{log ? `: ${log.occurrence.name}` : ''}</h1>
      {#if log}<p>{when(log.occurrence.startMs, log.occurrence.timeZone)} · {log.occurrence.place}</p>{/if}
    </div>
    {#if log && log.sheets.length > 0}
      <Button size="small" id="whole-class" disabled={allDone} on:click={wholeClass}>{t.wholeClass}</Button>
    {/if}
    <Button size="small" kind="tertiary" id="who-came" on:click={() => (ticking = true)}>{common.came}</Button>
    <Button size="small" kind="tertiary" on:click={() => (adding = true)}>{t.addPerson}</Button>
  </div>
  {#if problem}<Problem {problem} />{/if}
  {#if !log || log.sheets.length === 0}<h2 class="sr">{t.title}</h2>{/if}
  {#if log && log.sheets.length === 0}<p>{t.noCircuit}</p>{/if}
  {#if log && sheet}
    <section aria-labelledby="in-class">
      <h2 id="in-class">{t.tiles.title}</h2>
      <p class="muted">{t.tiles.help}</p>
      <Tiles {log} {sheets} {title} {later} onsave={save} />
    </section>
    <h2 id="desk">{t.desk}</h2>
    <p class="muted">{t.intro}</p>
    <Tabs
      label={t.title}
      tabs={log.sheets.map((s) => ({ id: s.subject, text: s.sameName ? `${title(s)} ?` : title(s) }))}
      selected={sheet.subject}
      panel="sheet"
      onselect={(id) => (subject = id)}
    />
    <div id="sheet" class="panel" role="tabpanel" aria-labelledby={`tab-${sheet.subject}`}>
      {#if sheet.subject !== sheet.lane}
        <Person {occurrence} {sheet} onedit={() => (editing = sheet)} onchange={(next) => (log = next)} />
      {/if}
      {#if sheet.lines.length === 0}<p id="no-lines">{t.noLines(sheet.lane)}</p>{/if}
      <table class="sheet stack" hidden={sheet.lines.length === 0} aria-label={title(sheet)}>
        <thead>
          <tr>
            <th scope="col">{t.move}</th>
            <th scope="col" class="num">{t.planned}</th>
            <th scope="col">{t.load}</th>
            <th scope="col">{t.done}</th>
            <th scope="col">{t.inForm}</th>
            <th scope="col">{t.reserve}</th>
            <th scope="col">{t.pain}</th>
            <th scope="col">{t.next}</th>
          </tr>
        </thead>
        <tbody>
          {#each sheet.lines as l (l.slot)}
            {@const what = studio.move(l.variant)}
            <tr>
              <th scope="row" class="full">{what}</th>
              <td class="num" data-label={t.planned}>{plannedText(l)}</td>
              <td data-label={t.load}>
                <input
                  class="log-input load"
                  id={`load-${l.slot}`}
                  type="text"
                  value={l.typedLoad ?? studio.loadText(l.load, l.loadG, log.items)}
                  aria-label={t.of(what, title(sheet), t.load)}
                  onchange={(e) => save(sheet, l, { load: e.currentTarget.value.trim() || lifted(l) })}
                />
              </td>
              {@render number(sheet, l, 'done', t.done, l.done, (field) => {
                const done = whole(field.value) ?? l.done
                save(sheet, l, { done, inForm: l.inForm === l.done ? done : Math.min(l.inForm, done) })
              })}
              {@render number(sheet, l, 'form', t.inForm, l.inForm, (field) => form(sheet, l, field))}
              {@render number(sheet, l, 'reserve', t.reserve, l.reserve, (field) =>
                save(sheet, l, { reserve: whole(field.value) }),
              )}
              <td data-label={t.pain} class="two">
                <select
                  class="log-input"
                  id={`pain-${l.slot}`}
                  value={askedOf(sheet, l) ? 'sore' : l.pain}
                  aria-label={t.of(what, title(sheet), t.pain)}
                  onchange={(e) => felt(sheet, l, e.currentTarget.value as LogLine['pain'])}
                >
                  {#each Object.entries(nameOf.pain) as [value, text] (value)}<option {value}>{text}</option>{/each}
                </select>
                {#if l.pain === 'joint' || l.pain === 'sore' || askedOf(sheet, l)}
                  <select
                    class="log-input"
                    id={`joint-${l.slot}`}
                    value={l.joint ?? ''}
                    aria-label={t.of(what, title(sheet), t.joint)}
                    onchange={(e) => where(sheet, l, e.currentTarget.value)}
                  >
                    <option value="">{t.whichJoint}</option>
                    {#each painJoints as j (j)}<option value={j}>{nameOf.joint[j]}</option>{/each}
                  </select>
                  {#if sheet.subject === sheet.lane && l.pain === 'joint' && !askedOf(sheet, l)}
                    <label class="others">
                      <input
                        type="checkbox"
                        id={`others-${l.slot}`}
                        checked={l.others ?? false}
                        onchange={(e) => save(sheet, l, { others: e.currentTarget.checked })}
                      />
                      {t.others}
                    </label>
                  {/if}
                {/if}
              </td>
              <td data-label={t.next} class="full" id={`result-${l.slot}`}>
                {#if outbox.stuck && outbox.line(occurrence, sheet.subject, l.slot)}
                  <span class="ember">{t.onItsWay}</span>
                {:else if l.result}
                  <b class:ember={l.result.advice === 'stop-move' || l.result.advice === 'off-the-plan'}
                    >{nameOf.advice[l.result.advice]}</b
                  >
                  <span class="muted">{nameOf.verdict[l.result.verdict]}</span>
                  <Why why={l.result.why} {names} label={what} />
                {:else}
                  <span class="muted">{t.unsaved}</span>
                {/if}
                {#if l.owed}<p class="ember" id={`owed-${l.slot}`}>{t.owed(l.owed.reps, l.owed.side)}</p>{/if}
                {#if l.overtaken}
                  {#key l.overtaken}
                    <Earlier
                      {occurrence}
                      subject={sheet.subject}
                      slot={l.slot}
                      count={l.overtaken}
                      timeZone={log.occurrence.timeZone}
                      label={what}
                    />
                  {/key}
                {/if}
              </td>
            </tr>
            <tr class="rest">
              <td class="full more" colspan="8">
                <More
                  line={l}
                  label={(field) => t.of(what, title(sheet), field)}
                  onset={(part) => more(sheet, l, part)}
                />
              </td>
            </tr>
          {/each}
        </tbody>
      </table>
      <div class="buttons after">
        <Button size="small" id="as-planned" disabled={sheet.lines.every((l) => l.saved)} on:click={() => rest(sheet)}
          >{t.allAsPlanned}</Button
        >
      </div>
      <p class="muted">{t.painRule}</p>
      {#if log.runId}<Spent run={log.runId} {came} />{/if}
    </div>
  {:else if !problem && !log}
    <p role="status">{common.loading}</p>
  {/if}
</main>

{#if ticking}
  <Attendance
    {occurrence}
    onclose={(changed) => {
      ticking = false
      if (changed) void read()
    }}
  />
{/if}
{#if adding || editing}
  <PersonForm
    {occurrence}
    sheet={editing}
    onclose={(next, who) => {
      adding = false
      editing = undefined
      if (next && who) {
        log = next
        subject = who
      }
    }}
  />
{/if}

<style>
  .load {
    width: 110px;
  }
  .others {
    display: block;
    font-size: 12px;
  }
  /* What else is told of a set belongs to the line above it. */
  tr:has(+ .rest) :global(:is(td, th)) {
    border-bottom: 0;
  }
  .after {
    margin: 12px 0;
  }
</style>
