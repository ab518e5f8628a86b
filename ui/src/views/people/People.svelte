<script lang="ts">
  // Whom the studio knows: found by name or group, each with what is to be minded.
  import { Button } from 'carbon-components-svelte'
  import { api, ask, type Problem as ProblemType, type Schemas } from '../../lib/api/client'
  import { navigate } from '../../lib/nav'
  import Problem from '../../lib/parts/Problem.svelte'
  import { day } from '../../lib/text/dates'
  import { common } from '../../lib/text/gen/common'
  import { people as t } from '../../lib/text/gen/people'
  import { limit, nameOf } from '../../lib/text/names'
  import { meant, searched } from '../../lib/text/search'
  import PeopleFiles from './PeopleFiles.svelte'
  import PersonForm from './PersonForm.svelte'

  let people = $state.raw<Schemas['Person'][]>()
  let groups = $state.raw<Schemas['PeopleGroup'][]>([])
  let problem = $state<ProblemType>()
  let adding = $state(false)
  let text = $state('')
  let group = $state('')

  async function read(): Promise<void> {
    const [a, g] = await Promise.all([ask(api.GET('/api/people')), ask(api.GET('/api/groups'))])
    problem = a.problem ?? g.problem
    people = a.data ?? people
    groups = g.data ?? groups
  }
  void read()
  const groupName = (id: string) => groups.find((g) => g.id === id)?.name ?? id
  const found = $derived(
    (people ?? []).filter((p) => meant(text, searched([p.name], [])) && (group === '' || p.groups.includes(group))),
  )
  const spared = (p: Schemas['Person']) => p.limits.map((l) => limit(l) ?? l)
  async function added(person?: string): Promise<void> {
    adding = false
    if (person) await navigate('/people/:person', { params: { person } })
  }
</script>

<main class="page" id="work">
  <div class="head">
    <div class="grow"><h1>{t.title}</h1></div>
    <Button size="small" id="add-person" on:click={() => (adding = true)}>{t.add}</Button>
  </div>
  {#if problem}<Problem {problem} />{/if}
  {#if people}
    <div class="find">
      <label><span>{t.find}</span><input id="find-person" type="search" class="log-input" bind:value={text} /></label>
      <label
        ><span>{t.group}</span>
        <select id="find-group" class="log-input" bind:value={group}>
          <option value="">{t.allGroups}</option>
          {#each groups as g (g.id)}<option value={g.id}>{g.name}</option>{/each}
        </select></label
      >
    </div>
    <h2 class="sr">{t.known}</h2>
    <p class="muted" role="status" id="found-people">
      {people.length === 0 ? t.nobody : t.found(found.length, found.length < people.length ? people.length : undefined)}
    </p>
    {#if found.length > 0}
      <table class="sheet stack" id="people" aria-label={t.title}>
        <thead>
          <tr>
            <th scope="col">{t.name}</th>
            <th scope="col">{t.groups}</th>
            <th scope="col">{t.lastClass}</th>
            <th scope="col">{t.spared}</th>
            <th scope="col">{t.toMind}</th>
          </tr>
        </thead>
        <tbody>
          {#each found as p (p.id)}
            <tr>
              <th scope="row"
                ><a href={`/people/${p.id}`}>{p.name}</a>{#if p.sameName}<div class="muted">{t.sameName}</div>{/if}</th
              >
              <td data-label={t.groups}>{p.groups.map(groupName).join(', ')}</td>
              <td data-label={t.lastClass}
                >{p.lastDate ? day(p.lastDate) : t.never}{#if p.lane}, {nameOf.lane[
                    p.lane as keyof typeof nameOf.lane
                  ]}{/if}</td
              >
              <td data-label={t.spared}>{spared(p).join(', ')}</td>
              <td data-label={t.toMind}>
                {#if p.out}<div class="ember">{t.out}</div>{:else if p.ground}<div class="ember">{t.ground}</div>{/if}
                {#if p.toAsk}<a href={`/people/${p.id}/health`}>{t.ask}<span class="sr">: {p.name}</span></a>{/if}
              </td>
            </tr>
          {/each}
        </tbody>
      </table>
    {/if}
    <details id="people-files">
      <summary>{t.files}</summary>
      <PeopleFiles onbrought={() => void read()} />
    </details>
  {:else if !problem}<p role="status">{common.loading}</p>{/if}
</main>

{#if adding}<PersonForm {groups} onclose={(id) => void added(id)} />{/if}

<style>
  .find {
    display: flex;
    flex-wrap: wrap;
    gap: 8px 16px;
  }
  .find label {
    flex: 1 1 220px;
    max-width: 360px;
  }
  .find span {
    display: block;
    font-size: 12px;
    color: var(--muted);
  }
  .find input,
  .find select {
    width: 100%;
    box-sizing: border-box;
  }
  tbody th {
    font-weight: 600;
  }
  details {
    margin-top: 24px;
  }
</style>
