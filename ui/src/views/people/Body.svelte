<script lang="ts">
  // Body mass and stature, dated; without them the lane's default is reckoned with.
  import { Button, TextInput } from 'carbon-components-svelte'
  import { invalid, type Problem as ProblemType, type Schemas } from '../../lib/api/client'
  import Problem from '../../lib/parts/Problem.svelte'
  import { putRecord } from '../../lib/state/records'
  import { typedLength, typedMass, type MassUnit } from '../../lib/text/format'
  import { people as t } from '../../lib/text/gen/people'

  interface Props {
    page: Schemas['PersonPage']
    unit: MassUnit
    onchange: (page: Schemas['PersonPage']) => void
  }
  let { page, unit, onchange }: Props = $props()
  let body = $state('')
  let stature = $state('')
  let date = $state((() => page.today)())
  let problem = $state<ProblemType>()

  async function save(): Promise<void> {
    const a = await putRecord(page.id, { date, measure: { body, stature } })
    problem = a.problem
    if (!a.data) return
    body = stature = ''
    onchange(a.data)
  }
</script>

<p>
  {#if !page.body && !page.stature}
    {t.bothUnknown}
  {:else}
    {page.body ? t.bodyIs(typedMass(page.body, unit)) : t.bodyUnknown}
    {page.stature ? t.statureIs(typedLength(page.stature, unit)) : t.statureUnknown}
  {/if}
</p>
{#if problem && !problem.errors?.length}<Problem {problem} />{/if}
<div class="row top narrow">
  <TextInput
    id="body-mass"
    labelText={t.bodyMass}
    placeholder={t.bodyHint(unit)}
    bind:value={body}
    {...invalid(problem, 'measure.body')}
  />
  <TextInput
    id="stature"
    labelText={t.stature}
    placeholder={t.statureHint(unit)}
    bind:value={stature}
    {...invalid(problem, 'measure.stature')}
  />
  <label class="date"
    ><span>{t.date}</span><input id="body-date" type="date" class="log-input day" bind:value={date} /></label
  >
  <Button size="small" id="body-save" disabled={!body.trim() && !stature.trim()} on:click={() => void save()}
    >{t.keep}</Button
  >
</div>

<style>
  .date span {
    display: block;
    font-size: 12px;
    color: var(--muted);
    margin-bottom: 4px;
  }
</style>
