<script lang="ts">
  import { Button } from 'carbon-components-svelte'
  import { onDestroy } from 'svelte'
  import { api, ask, type Log, type LogLine, type LogSheet, type Problem as ProblemType } from '../../lib/api/client'
  import { route } from '../../lib/nav'
  import Problem from '../../lib/parts/Problem.svelte'
  import Why from '../../lib/parts/Why.svelte'
  import { outbox } from '../../lib/state/outbox.svelte'
  import { serverTime } from '../../lib/state/servertime.svelte'
  import { studio } from '../../lib/state/studio.svelte'
  import { advice, lane as laneName, pain, t, verdict } from '../../lib/text/catalogue'
  import { when } from '../../lib/text/format'
  import PersonForm from './PersonForm.svelte'

  type Typed = { done: number; inForm: number; reserve: number | undefined; pain: LogLine['pain'] }

  const occurrence = (route.params as { occurrence?: string }).occurrence ?? ''
  let log = $state.raw<Log>()
  let problem = $state<ProblemType>()
  let subject = $state('')
  let adding = $state(false)
  const known = $derived(log?.sheets.find((s) => s.subject === subject) ?? log?.sheets[0])
  // What was typed and is on its way stands over what the server knows.
  const sheet = $derived(
    known && {
      ...known,
      lines: known.lines.map((l) => {
        const body = outbox.line(occurrence, known.subject, l.slot)
        if (!body) return l
        const { done, inForm, reserve, pain } = body
        return { ...l, done, inForm, pain, saved: true, reserve }
      }),
    },
  )
  const names = $derived(studio.names(log?.items ?? []))
  const title = (s: LogSheet) => s.name ?? t.log.lane(laneName[s.lane])

  void ask(api.GET('/api/occurrences/{occurrence}/log', { params: { path: { occurrence } } })).then((a) => {
    problem = a.problem
    log = a.data
  })

  void serverTime.measure()

  const put = (next: LogSheet) => {
    if (log) log = { ...log, sheets: log.sheets.map((s) => (s.subject === next.subject ? next : s)) }
  }
  onDestroy(outbox.hear({ sheet: (of, next) => of === occurrence && put(next) }))

  // Lines go to the outbox, which sends them one after the other, now or later.
  function save(s: LogSheet, l: LogLine, part: Partial<Typed>): void {
    const { done, inForm, reserve, pain: felt } = { ...l, ...part }
    const body = {
      done,
      inForm: Math.min(inForm, done),
      pain: felt,
      ...(reserve === undefined ? {} : { reserve }),
      atMs: Math.round(serverTime.now()),
    }
    outbox.post({ kind: 'line', occurrence, subject: s.subject, slot: l.slot, body })
  }
  function rest(s: LogSheet): void {
    for (const l of s.lines) if (!l.saved) save(s, l, {})
  }
  function whole(text: string): number | undefined {
    const n = Number.parseInt(text, 10)
    return Number.isNaN(n) ? undefined : n
  }
</script>

{#snippet number(
  s: LogSheet,
  l: LogLine,
  field: string,
  label: string,
  value: number | undefined,
  part: (n: number | undefined) => Partial<Typed>,
)}
  <td data-label={label}>
    <input
      class="log-input"
      id={`${field}-${l.slot}`}
      type="number"
      min="0"
      max="100"
      value={value ?? ''}
      aria-label={t.log.of(studio.move(l.variant), title(s), label)}
      onchange={(e) => save(s, l, part(whole(e.currentTarget.value)))}
    />
  </td>
{/snippet}

<main class="page" id="work">
  <div class="head">
    <div class="grow">
      <h1>{t.log.title}{log ? `: ${log.occurrence.name}` : ''}</h1>
      {#if log}<p>{when(log.occurrence.startMs, log.occurrence.timeZone)} · {log.occurrence.place}</p>{/if}
    </div>
    <Button size="small" kind="tertiary" on:click={() => (adding = true)}>{t.log.addPerson}</Button>
  </div>
  {#if problem}<Problem {problem} />{/if}
  {#if log && log.sheets.length === 0}<p>{t.log.noCircuit}</p>{/if}
  {#if log && sheet}
    <p class="muted">{t.log.intro}</p>
    <div class="tabs" role="tablist" aria-label={t.log.title}>
      {#each log.sheets as s (s.subject)}
        <button
          type="button"
          role="tab"
          id={`tab-${s.subject}`}
          aria-selected={s.subject === sheet.subject}
          onclick={() => (subject = s.subject)}>{title(s)}</button
        >
      {/each}
    </div>
    <table class="sheet stack" aria-label={title(sheet)}>
      <thead>
        <tr>
          <th scope="col">{t.log.move}</th>
          <th scope="col" class="num">{t.log.planned}</th>
          <th scope="col">{t.log.done}</th>
          <th scope="col">{t.log.inForm}</th>
          <th scope="col">{t.log.reserve}</th>
          <th scope="col">{t.log.pain}</th>
          <th scope="col">{t.log.next}</th>
        </tr>
      </thead>
      <tbody>
        {#each sheet.lines as l (l.slot)}
          {@const what = studio.move(l.variant)}
          <tr>
            <th scope="row" class="full"
              >{what}<br /><small class="muted">{studio.loadText(l.load, l.loadG, log.items)}</small></th
            >
            <td class="num" data-label={t.log.planned}>{l.twoSides ? t.circuit.aSide(l.planned) : l.planned}</td>
            {@render number(sheet, l, 'done', t.log.done, l.done, (n) => ({
              done: n ?? l.done,
              ...(l.inForm === l.done && n !== undefined ? { inForm: n } : {}),
            }))}
            {@render number(sheet, l, 'form', t.log.inForm, l.inForm, (n) => ({ inForm: n ?? l.inForm }))}
            {@render number(sheet, l, 'reserve', t.log.reserve, l.reserve, (n) => ({ reserve: n }))}
            <td data-label={t.log.pain} class="two">
              <select
                class="log-input"
                id={`pain-${l.slot}`}
                value={l.pain}
                aria-label={t.log.of(what, title(sheet), t.log.pain)}
                onchange={(e) => save(sheet, l, { pain: e.currentTarget.value as LogLine['pain'] })}
              >
                {#each Object.entries(pain) as [value, text] (value)}<option {value}>{text}</option>{/each}
              </select>
            </td>
            <td data-label={t.log.next} class="full" id={`result-${l.slot}`}>
              {#if outbox.stuck && outbox.line(occurrence, sheet.subject, l.slot)}
                <span class="ember">{t.log.onItsWay}</span>
              {:else if l.result}
                <b class:ember={l.result.advice === 'stop-move' || l.result.advice === 'off-the-plan'}
                  >{advice[l.result.advice]}</b
                >
                <span class="muted">{verdict[l.result.verdict]}</span>
                <Why why={l.result.why} {names} label={what} />
              {:else}
                <span class="muted">{t.log.unsaved}</span>
              {/if}
            </td>
          </tr>
        {/each}
      </tbody>
    </table>
    <div class="buttons after">
      <Button size="small" id="as-planned" disabled={sheet.lines.every((l) => l.saved)} on:click={() => rest(sheet)}
        >{t.log.allAsPlanned}</Button
      >
    </div>
    <p class="muted">{t.log.painRule}</p>
  {:else if !problem && !log}
    <p role="status">{t.loading}</p>
  {/if}
</main>

{#if adding}
  <PersonForm
    {occurrence}
    onclose={(next, who) => {
      adding = false
      if (next && who) {
        log = next
        subject = who
      }
    }}
  />
{/if}

<style>
  .after {
    margin: 12px 0;
  }
</style>
