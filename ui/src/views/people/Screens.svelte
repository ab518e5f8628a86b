<script lang="ts">
  // The seven screens: how each is done, what it measures, what is wanted, and what it said last.
  import { Button, Select, SelectItem, TextInput } from 'carbon-components-svelte'
  import { fieldProblem, type Problem as ProblemType, type Schemas } from '../../lib/api/client'
  import Figure from '../../lib/draw/Figure.svelte'
  import Problem from '../../lib/parts/Problem.svelte'
  import Why from '../../lib/parts/Why.svelte'
  import { putRecord } from '../../lib/state/records'
  import { day } from '../../lib/text/dates'
  import { length, type MassUnit } from '../../lib/text/format'
  import { people as t } from '../../lib/text/gen/people'
  import { limit, lookup } from '../../lib/text/names'
  import type { Names } from '../../lib/text/why'

  interface Props {
    page: Schemas['PersonPage']
    names: Names
    unit: MassUnit
    onchange: (page: Schemas['PersonPage']) => void
  }
  let { page, names, unit, onchange }: Props = $props()
  let values = $state<Record<string, Record<string, string>>>({})
  let date = $state((() => page.today)())
  let problem = $state<{ screen: string; problem: ProblemType }>()
  type Screen = Schemas['ScreenState']['screen']

  const typed = (screen: Screen, name: string) => values[screen]?.[name] ?? ''
  function type(screen: Screen, name: string, v: string): void {
    values = { ...values, [screen]: { ...values[screen], [name]: v } }
  }
  async function save(screen: Screen): Promise<void> {
    const a = await putRecord(page.id, { date, screen: { screen, values: { ...values[screen] } } })
    problem = a.problem ? { screen, problem: a.problem } : undefined
    if (!a.data) return
    values = { ...values, [screen]: {} }
    onchange(a.data)
  }
  const wrong = (screen: Screen, name: string) =>
    problem?.screen === screen ? fieldProblem(problem.problem, `screen.values.${name}`) : ''
  const words = { norm: ['men', 'women'], yes: ['yes', 'no'] } as const
  const wordsOf = (kind: Schemas['Ask']['kind']) => (kind === 'norm' ? words.norm : words.yes)
  const hint = (kind: Schemas['Ask']['kind']) =>
    kind === 'length'
      ? t.lengthHint(unit)
      : kind === 'seconds'
        ? t.secondsHint
        : kind === 'degrees'
          ? t.degreesHint
          : ''
</script>

<label class="date"
  ><span>{t.screenDate}</span><input id="screen-date" type="date" class="log-input day" bind:value={date} /></label
>
<div class="screens">
  {#each page.screens as s (s.screen)}
    <article class="card" id={`screen-${s.screen}`} aria-labelledby={`screen-${s.screen}-name`}>
      <h3 id={`screen-${s.screen}-name`}>{t.of.screen[s.screen]}</h3>
      {#if s.last}
        <p class:ember={!s.last.passed} id={`screen-${s.screen}-last`}>
          {s.last.passed ? t.screenPassed(day(s.last.date)) : t.screenShort(day(s.last.date))}
          {#if s.last.uneven}{t.uneven}{/if}
          <Why why={s.last.why} {names} label={t.of.screen[s.screen]} />
        </p>
        {#if s.last.limits.length > 0}
          <p>{t.screenSpares(s.last.limits.map((l) => limit(l) ?? l))}</p>
        {/if}
      {:else}<p class="muted">{t.screenNever}</p>{/if}
      <details>
        <summary>{t.how}</summary>
        {#if s.figure}<Figure figure={s.figure} />{/if}
        <p>{t.of.screenHow[s.screen]}</p>
        <p>
          <b>{t.wanted}</b>
          {t.of.screenNorm[s.screen]}
          {#if s.normMm}{t.normHere(length(s.normMm, unit))}{/if}
        </p>
        <p class="muted">{t.of.screenSource[s.screen]}</p>
        <div class="row top narrow">
          {#each s.asks as a (a.name)}
            {@const id = `screen-${s.screen}-${a.name}`}
            {#if a.kind === 'yes-no' || a.kind === 'norm'}
              <Select
                {id}
                labelText={lookup(t.of.screenAsk, a.name)}
                bind:selected={() => typed(s.screen, a.name), (v) => type(s.screen, a.name, String(v))}
                invalid={wrong(s.screen, a.name) !== ''}
                invalidText={wrong(s.screen, a.name)}
              >
                <SelectItem value="" text={t.choose} />
                {#each wordsOf(a.kind) as v (v)}
                  <SelectItem value={v} text={t.of.screenWord[v]} />
                {/each}
              </Select>
            {:else}
              <TextInput
                {id}
                labelText={lookup(t.of.screenAsk, a.name)}
                placeholder={hint(a.kind)}
                bind:value={() => typed(s.screen, a.name), (v) => type(s.screen, a.name, String(v ?? ''))}
                invalid={wrong(s.screen, a.name) !== ''}
                invalidText={wrong(s.screen, a.name)}
              />
            {/if}
          {/each}
          <Button size="small" id={`screen-${s.screen}-save`} on:click={() => void save(s.screen)}>{t.keep}</Button>
        </div>
        {#if problem?.screen === s.screen && !problem.problem.errors?.length}<Problem problem={problem.problem} />{/if}
      </details>
    </article>
  {/each}
</div>

<style>
  .screens {
    display: grid;
    grid-template-columns: repeat(auto-fill, minmax(330px, 1fr));
    gap: 12px;
    align-items: start;
    margin-top: 10px;
  }
  h3 {
    margin: 0 0 4px;
  }
  article p {
    margin: 4px 0;
  }
  .date {
    display: inline-flex;
    gap: 8px;
    align-items: center;
  }
  @media (max-width: 420px) {
    .screens {
      grid-template-columns: minmax(0, 1fr);
    }
  }
</style>
