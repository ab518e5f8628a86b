<script lang="ts">
  // The health questions of a person: asked in our own words, answered with yes or no, never a
  // diagnosis; who cleared them; what was answered before.
  import { Button, Select, SelectItem } from 'carbon-components-svelte'
  import { api, ask, newId, type Problem as ProblemType, type Schemas } from '../../lib/api/client'
  import { route } from '../../lib/nav'
  import Problem from '../../lib/parts/Problem.svelte'
  import Several from '../../lib/parts/Several.svelte'
  import { day } from '../../lib/text/dates'
  import { common } from '../../lib/text/gen/common'
  import { people as t } from '../../lib/text/gen/people'
  import { limit } from '../../lib/text/names'

  let page = $state.raw<Schemas['PersonPage']>()
  let health = $state.raw<Schemas['PersonHealth']>()
  let questions = $state.raw<Schemas['HealthQuestions']>()
  let problem = $state<ProblemType>()
  let kept = $state('')
  let answers = $state<Record<string, 'yes' | 'no'>>({})
  let by: string | number = $state('')
  let keeps = $state.raw<string[]>([])
  let date = $state('')
  const id = $derived((route.params as { person?: string }).person ?? '')
  const all = $derived([...(questions?.stops ?? []), ...(questions?.others ?? [])])
  const open = $derived(all.filter((q) => !answers[q]))
  let unanswered = $state(false)

  async function read(person: string): Promise<void> {
    const path = { person }
    const [p, h, q] = await Promise.all([
      ask(api.GET('/api/people/{person}', { params: { path } })),
      ask(api.GET('/api/people/{person}/health', { params: { path } })),
      ask(api.GET('/api/health-questions')),
    ])
    if (id !== person) return
    problem = p.problem ?? h.problem ?? q.problem
    page = p.data
    date = p.data?.today ?? date
    health = h.data
    questions = q.data
  }
  $effect(() => {
    if (id) void read(id)
  })
  async function put(body: Schemas['HealthInput'], said: string): Promise<boolean> {
    const path = { person: id, record: newId() }
    const a = await ask(api.PUT('/api/people/{person}/health/{record}', { params: { path }, body }))
    problem = a.problem
    if (!a.data) return false
    health = a.data
    kept = said
    return true
  }
  async function answer(): Promise<void> {
    unanswered = open.length > 0
    if (unanswered) {
      document.getElementById(`q-${open[0] ?? ''}-no`)?.focus()
      return
    }
    const yes = all.filter((q) => answers[q] === 'yes')
    if (await put({ date, answers: { version: questions?.version ?? 0, yes } }, t.health.kept)) answers = {}
  }
  async function clear(): Promise<void> {
    const who = by as NonNullable<Schemas['HealthInput']['clearance']>['by']
    if (await put({ date, clearance: { by: who, keeps } }, t.health.clearedKept)) {
      by = ''
      keeps = []
    }
  }
  async function takeBack(record: string): Promise<void> {
    const path = { person: id, record }
    const a = await ask(api.DELETE('/api/people/{person}/health/{record}', { params: { path } }))
    problem = a.problem
    health = a.data ?? health
  }
  function says(r: Schemas['HealthEntry']): string {
    if (r.answers)
      return r.answers.yes.length > 0
        ? t.health.saidYes(
            r.answers.yes.map((q) => t.of.question[q]),
            r.answers.version,
          )
        : t.health.saidNo(r.answers.version)
    if (r.clearance)
      return t.health.clearedBy(
        t.of.clearer[r.clearance.by],
        r.clearance.keeps.map((l) => limit(l) ?? l),
      )
    return r.carried ? t.health.carried : t.health.changed
  }
</script>

{#snippet group(title: string, help: string, list: Schemas['HealthQuestions']['stops'])}
  <section>
    <h2>{title}</h2>
    <p class="muted">{help}</p>
    {#each list as q (q)}
      <fieldset class="question" class:open={unanswered && !answers[q]}>
        <legend>{t.of.question[q]}</legend>
        {#each ['no', 'yes'] as const as v (v)}
          <label
            ><input
              id={`q-${q}-${v}`}
              type="radio"
              name={q}
              value={v}
              checked={answers[q] === v}
              onchange={() => (answers = { ...answers, [q]: v })}
            />
            {t.of.screenWord[v]}</label
          >
        {/each}
      </fieldset>
    {/each}
  </section>
{/snippet}

<main class="page" id="work">
  {#if problem}<Problem {problem} />{/if}
  {#if page && health && questions}
    <div class="head">
      <div class="grow">
        <p><a href="/people">{t.title}</a> · <a href={`/people/${page.id}`}>{page.name}</a></p>
        <h1>{t.health.title}</h1>
      </div>
    </div>
    <div class="card not" id="what-not">
      <p><b>{t.health.first}</b></p>
      <p>{t.health.not}</p>
      <p>{t.health.urgent}</p>
    </div>
    <div role="status" id="stands">
      {#if kept}<p>{kept}</p>{/if}
      <p class:ember={health.out || health.ground}>
        {health.out ? t.out : health.ground ? t.groundWhy : health.asked ? t.health.fine : t.health.never}
        {health.asked ? t.health.askedOn(day(health.asked)) : ''}
        {health.toAsk ? t.toAsk : ''}
      </p>
      {#if health.limits.length > 0}<p>{t.health.spared(health.limits.map((l) => limit(l) ?? l))}</p>{/if}
      {#if health.cleared && health.by}
        <p>{t.health.clearedOn(day(health.cleared), t.of.clearer[health.by])}</p>
      {:else}
        {#each health.yes as q (q)}<p class="caution">{t.of.caution[q]}</p>{/each}
      {/if}
    </div>

    <form
      onsubmit={(e) => {
        e.preventDefault()
        void answer()
      }}
    >
      {@render group(t.health.stops, t.health.stopsHelp, questions.stops)}
      {@render group(t.health.others, t.health.othersHelp, questions.others)}
      <label class="date"
        ><span>{t.date}</span><input id="health-date" type="date" class="log-input day" bind:value={date} /></label
      >
      {#if unanswered && open.length > 0}<p class="ember" role="alert">{t.health.open(open.length)}</p>{/if}
      <Button size="small" type="submit" id="health-save">{t.health.keep}</Button>
      <p class="muted">{t.health.noText(questions.version)}</p>
    </form>

    <section aria-labelledby="clearance">
      <h2 id="clearance">{t.health.clearance}</h2>
      <p class="muted">{t.health.clearanceHelp}</p>
      <div class="row top">
        <Select id="clearance-by" labelText={t.health.by} bind:selected={by}>
          <SelectItem value="" text={t.choose} />
          {#each questions.clearers as c (c)}<SelectItem value={c} text={t.of.clearer[c]} />{/each}
        </Select>
        <Several
          id="clearance-keeps"
          label={t.health.keeps}
          help={t.health.keepsHelp}
          options={page.addable.map((l) => ({ id: l, text: limit(l) ?? l }))}
          bind:chosen={keeps}
        />
        <Button size="small" id="clearance-save" disabled={by === ''} on:click={() => void clear()}>{t.keep}</Button>
      </div>
      <p>
        <button
          type="button"
          class="link"
          id="health-changed"
          onclick={() => void put({ date, changed: true }, t.health.changedKept)}>{t.health.somethingChanged}</button
        >
        <span class="muted">{t.health.again(questions.againDays)}</span>
      </p>
    </section>
    <section aria-labelledby="before">
      <h2 id="before">{t.health.before}</h2>
      {#if health.records.length === 0}<p class="muted">{t.noRecords}</p>{/if}
      <ul class="plain" id="health-records">
        {#each health.records as r (r.id)}
          <li>
            <span class="muted">{r.carried ? '' : day(r.date)}</span>
            {says(r)}
            <button type="button" class="link" onclick={() => void takeBack(r.id)}
              >{t.takeBack}<span class="sr">: {says(r)}</span></button
            >
          </li>
        {/each}
      </ul>
    </section>
  {:else if !problem}<p role="status">{common.loading}</p>{/if}
</main>

<style>
  main {
    max-width: 860px;
  }
  .not {
    border-left: 4px solid var(--ember);
  }
  .not p {
    margin: 2px 0 6px;
  }
  .question {
    border: 0;
    border-bottom: 1px solid var(--line);
    padding: 6px 0 6px 8px;
    margin: 0;
    display: flex;
    flex-wrap: wrap;
    gap: 4px 20px;
    align-items: center;
  }
  .question.open {
    border-left: 3px solid var(--ember);
  }
  .question legend {
    float: left;
    flex: 1 1 420px;
    padding: 0;
  }
  .question label {
    display: inline-flex;
    gap: 6px;
    align-items: center;
    min-height: 32px;
    min-width: 56px;
  }
  .date {
    display: flex;
    gap: 8px;
    align-items: center;
    margin: 14px 0;
  }
  .caution {
    border-left: 3px solid var(--line);
    padding-left: 10px;
  }
</style>
