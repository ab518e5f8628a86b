<script lang="ts">
  // Sessions that a class may be made from: earlier ones, with what the log decided since, and
  // the house's templates, which are kept, renamed and taken away here; and two side by side.
  import { Button, TextInput } from 'carbon-components-svelte'
  import {
    api,
    ask,
    newId,
    type Answer,
    type Circuit,
    type Problem as ProblemType,
    type Schemas,
  } from '../../lib/api/client'
  import Problem from '../../lib/parts/Problem.svelte'
  import { day as dayText } from '../../lib/text/dates'
  import { circuit as t } from '../../lib/text/gen/circuit'
  import Beside from './Beside.svelte'

  interface Props {
    occurrence: string
    /** The plan that there is; without one a session can only be used. */
    circuit?: Circuit
    /** Makes the plan from a session. */
    use: (from: Schemas['Source']) => Promise<Answer<Schemas['Proposed']>>
  }
  let { occurrence, circuit, use }: Props = $props()
  const s = t.sessions
  let list = $state.raw<Schemas['Sessions']>()
  let problem = $state<ProblemType>()
  let said = $state('')
  let name = $state('')
  let wanted = $state(false)
  let renaming = $state('')
  let renamed = $state('')
  let sure = $state('')
  let other = $state('')

  async function load(): Promise<void> {
    const params = { path: { occurrence } }
    const a = await ask(api.GET('/api/occurrences/{occurrence}/sessions', { params }))
    list = a.data
    problem = a.problem
  }
  void load()

  async function take(from: Schemas['Source']): Promise<void> {
    const a = await use(from)
    problem = a.problem
    if (a.data) said = s.replaced
  }
  function templates(a: Answer<Schemas['HouseTemplate'][]>): boolean {
    problem = a.problem
    if (a.data && list) list = { ...list, templates: a.data }
    return a.data !== undefined
  }
  async function keep(): Promise<void> {
    wanted = name.trim() === ''
    if (wanted || !circuit) return
    const params = { path: { template: newId() } }
    if (templates(await ask(api.PUT('/api/templates/{template}', { params, body: { name, circuitId: circuit.id } })))) {
      said = s.kept(name)
      name = ''
    }
  }
  async function rename(template: string): Promise<void> {
    if (renamed.trim() === '') return
    const params = { path: { template } }
    if (templates(await ask(api.PUT('/api/templates/{template}', { params, body: { name: renamed } })))) renaming = ''
  }
  async function remove(template: string): Promise<void> {
    if (sure !== template) {
      sure = template
      return
    }
    sure = ''
    templates(await ask(api.DELETE('/api/templates/{template}', { params: { path: { template } } })))
  }
  const earlier = $derived((list?.earlier ?? []).filter((e) => e.circuitId !== circuit?.id))
  const day = (e: Schemas['EarlierSession']) => s.of(e.name, dayText(e.date), e.minutes)
</script>

<section id="sessions" aria-label={s.again}>
  {#if problem}<Problem {problem} />{/if}
  {#if said}<p role="status">{said}</p>{/if}
  <h2 class="small">{s.earlier}</h2>
  <p class="muted">{s.againHelp}</p>
  <ul class="plain list">
    {#each earlier as e (e.circuitId)}
      <li>
        <span class="grow">{day(e)}</span>
        <Button
          size="small"
          kind="tertiary"
          id={`use-${e.circuitId}`}
          aria-label={s.useOf(day(e))}
          on:click={() => void take({ circuitId: e.circuitId })}>{s.use}</Button
        >
        {#if circuit}
          <Button
            size="small"
            kind="ghost"
            id={`beside-${e.circuitId}`}
            aria-label={s.compareOf(day(e))}
            aria-expanded={other === e.circuitId}
            on:click={() => (other = other === e.circuitId ? '' : e.circuitId)}>{s.compare}</Button
          >
          {#if other === e.circuitId}
            <div class="full"><Beside left={circuit.id} right={other} version={circuit.version} /></div>
          {/if}
        {/if}
      </li>
    {:else}<li class="muted">{s.none}</li>{/each}
  </ul>
  <h2 class="small">{s.templates}</h2>
  <ul class="plain list" id="templates">
    {#each list?.templates ?? [] as x (x.id)}
      <li>
        {#if renaming === x.id}
          <TextInput id={`name-${x.id}`} labelText={s.name} bind:value={renamed} />
          <Button size="small" id={`renamed-${x.id}`} on:click={() => void rename(x.id)}>{s.keepDo}</Button>
        {:else}
          <span class="grow">{s.template(x.name, x.minutes, x.moves.length)}</span>
          <Button
            size="small"
            kind="tertiary"
            id={`use-${x.id}`}
            aria-label={s.useOf(x.name)}
            on:click={() => void take({ templateId: x.id })}>{s.use}</Button
          >
          <Button
            size="small"
            kind="ghost"
            id={`rename-${x.id}`}
            aria-label={s.renameOf(x.name)}
            on:click={() => {
              renaming = x.id
              renamed = x.name
            }}>{s.rename}</Button
          >
          <Button
            size="small"
            kind="ghost"
            id={`remove-${x.id}`}
            aria-label={sure === x.id ? s.removeSureOf(x.name) : s.removeOf(x.name)}
            on:click={() => void remove(x.id)}>{sure === x.id ? s.removeSure : s.remove}</Button
          >
        {/if}
      </li>
    {:else}<li class="muted">{s.none}</li>{/each}
  </ul>
  {#if circuit}
    <form
      class="row narrow"
      onsubmit={(e) => {
        e.preventDefault()
        void keep()
      }}
    >
      <TextInput
        id="template-name"
        labelText={s.keep}
        placeholder={s.name}
        bind:value={name}
        invalid={wanted}
        invalidText={s.nameWanted}
      />
      <Button type="submit" size="field" kind="tertiary" id="keep-template">{s.keepDo}</Button>
    </form>
  {/if}
</section>

<style>
  .list li {
    display: flex;
    flex-wrap: wrap;
    gap: 4px 12px;
    align-items: center;
    border-top: 1px solid var(--line);
    padding: 6px 0;
  }
  .full {
    flex: 1 0 100%;
  }
  form {
    align-items: flex-end;
    margin-top: 12px;
  }
</style>
