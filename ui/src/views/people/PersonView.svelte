<script lang="ts">
  // A person: where they stand, what they are spared and why, what they did.
  import { Button } from 'carbon-components-svelte'
  import { api, ask, type Problem as ProblemType, type Schemas } from '../../lib/api/client'
  import Course from '../../lib/draw/Course.svelte'
  import { navigate, route } from '../../lib/nav'
  import Problem from '../../lib/parts/Problem.svelte'
  import { studio } from '../../lib/state/studio.svelte'
  import { day } from '../../lib/text/dates'
  import { typedLength, typedMass } from '../../lib/text/format'
  import { common } from '../../lib/text/gen/common'
  import { people as t } from '../../lib/text/gen/people'
  import Benchmarks from './Benchmarks.svelte'
  import Body from './Body.svelte'
  import Can from './Can.svelte'
  import Erase from './Erase.svelte'
  import Levels from './Levels.svelte'
  import Limits from './Limits.svelte'
  import PersonForm from './PersonForm.svelte'
  import Records from './Records.svelte'
  import SamePerson from './SamePerson.svelte'
  import Screens from './Screens.svelte'

  let page = $state.raw<Schemas['PersonPage']>()
  let groups = $state.raw<Schemas['PeopleGroup'][]>([])
  let problem = $state<ProblemType>()
  let editing = $state(false)
  const id = $derived((route.params as { person?: string }).person ?? '')
  const unit = $derived(page?.massUnit === 'lb' || page?.massUnit === 'kg' ? page.massUnit : studio.unit)
  const names = $derived({ ...studio.names([]), unit })

  async function read(person: string): Promise<void> {
    const [a, g] = await Promise.all([
      ask(api.GET('/api/people/{person}', { params: { path: { person } } })),
      ask(api.GET('/api/groups')),
    ])
    if (id !== person) return
    problem = a.problem ?? g.problem
    page = a.data
    groups = g.data ?? []
  }
  $effect(() => {
    if (id) void read(id)
  })
  const groupName = (g: string) => groups.find((x) => x.id === g)?.name ?? g
</script>

<main class="page" id="work">
  {#if problem}<Problem {problem} />{/if}
  {#if page}
    {@const p = page}
    <div class="head">
      <div class="grow">
        <p><a href="/people">{t.title}</a></p>
        <h1>{p.name}</h1>
        <p>
          {[
            ...p.groups.map(groupName),
            p.weaker === 'left' || p.weaker === 'right' ? t.weakerIs(p.weaker) : '',
            p.body ? typedMass(p.body, unit) : '',
            p.stature ? typedLength(p.stature, unit) : '',
            p.lastDate ? t.lastIn(day(p.lastDate), p.classes) : t.noClass,
          ]
            .filter(Boolean)
            .join(' · ')}
        </p>
        {#if p.note}<p id="note">{p.note}</p>{/if}
      </div>
      <Button size="small" kind="tertiary" id="edit-person" on:click={() => (editing = true)}>{t.edit}</Button>
      <Button
        size="small"
        kind={p.toAsk ? 'primary' : 'tertiary'}
        id="to-health"
        on:click={() => void navigate('/people/:person/health', { params: { person: p.id } })}>{t.health.title}</Button
      >
    </div>
    {#if p.out}<p class="ember" id="is-out">{t.out}</p>{:else if p.ground}<p class="ember" id="is-ground">
        {t.groundWhy}
      </p>{/if}
    {#if p.toAsk}<p id="to-ask">{t.toAsk}</p>{/if}

    <section aria-labelledby="levels">
      <h2 id="levels">{t.levels}</h2>
      <Levels page={p} {names} onchange={(next) => (page = next)} />
    </section>
    <div class="two">
      <section aria-labelledby="limits">
        <h2 id="limits">{t.spared}</h2>
        <Limits page={p} onchange={(next) => (page = next)} />
      </section>
      <section aria-labelledby="body">
        <h2 id="body">{t.body}</h2>
        <Body page={p} {unit} onchange={(next) => (page = next)} />
      </section>
    </div>
    <section aria-labelledby="screens">
      <h2 id="screens">{t.screens}</h2>
      <p class="muted">{t.screensHelp}</p>
      <Screens page={p} {names} {unit} onchange={(next) => (page = next)} />
    </section>
    <section aria-labelledby="benchmarks">
      <h2 id="benchmarks">{t.tests}</h2>
      <Benchmarks page={p} {names} {unit} onchange={(next) => (page = next)} />
    </section>
    <section aria-labelledby="shows">
      <h2 id="shows">{t.can.title}</h2>
      <Can page={p} {unit} onchange={(next) => (page = next)} />
    </section>
    <section aria-labelledby="loads">
      <h2 id="loads">{t.loads}</h2>
      {#if p.loads.length === 0}<p class="muted">{t.noLoads}</p>{/if}
      <div class="courses">
        {#each p.loads as l (l.move)}<Course name={studio.move(l.move)} did={l.did} {unit} />{/each}
      </div>
    </section>
    <section aria-labelledby="records">
      <h2 id="records">{t.records}</h2>
      <Records page={p} {unit} onchange={(next) => (page = next)} />
    </section>
    <section aria-labelledby="same-as">
      <h2 id="same-as">{t.same}</h2>
      <SamePerson page={p} onchange={() => void read(p.id)} />
    </section>
    <section aria-labelledby="erase">
      <h2 id="erase">{t.leave.title}</h2>
      <p>
        <a href={`/api/people/${p.id}/export`} download="person.json" id="export-person">{t.leave.whole}</a>
        <span class="muted">{t.leave.wholeHelp}</span>
      </p>
      <Erase page={p} />
    </section>
    {#if editing}
      <PersonForm
        person={p}
        {groups}
        onclose={(saved) => {
          editing = false
          if (saved) void read(saved)
        }}
      />
    {/if}
  {:else if !problem}<p role="status">{common.loading}</p>{/if}
</main>

<style>
  section {
    margin-top: 26px;
    max-width: 1180px;
  }
  .two {
    display: grid;
    grid-template-columns: repeat(auto-fit, minmax(300px, 1fr));
    gap: 0 32px;
    max-width: 1180px;
  }
  .courses {
    display: grid;
    grid-template-columns: repeat(auto-fill, minmax(250px, 1fr));
    gap: 14px;
  }
</style>
