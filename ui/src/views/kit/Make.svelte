<script lang="ts">
  import { Button, Checkbox, Select, SelectItem, TextInput } from 'carbon-components-svelte'
  import { api, ask, invalid, type Place, type Problem as ProblemType, type Schemas } from '../../lib/api/client'
  import Checks from '../../lib/parts/Checks.svelte'
  import Problem from '../../lib/parts/Problem.svelte'
  import { itemsOf } from '../../lib/state/items'
  import { studio } from '../../lib/state/studio.svelte'
  import { mass } from '../../lib/text/format'
  import { loads } from '../../lib/text/gen/loads'

  let { place }: { place: Place } = $props()
  let target = $state((() => (studio.unit === 'lb' ? '20 lb' : '9 kg'))())
  let tolerance = $state('')
  let count: string | number = $state('1')
  let container: string | number = $state((() => place.containers[0]?.id ?? '')())
  let soft = $state(false)
  let made = $state.raw<Schemas['MakeAnswer']>()
  let problem = $state<ProblemType>()
  const items = $derived(itemsOf(place))

  async function make(): Promise<void> {
    const body = {
      target,
      tolerance,
      loads: Number(count),
      soft,
      ...(container ? { container: String(container) } : {}),
    }
    const a = await ask(api.POST('/api/places/{place}/make', { params: { path: { place: place.id } }, body }))
    problem = a.problem
    made = a.data
  }
  function off(l: Schemas['MadeLoad']): string {
    if (l.errorG === 0) return loads.make.exact
    return (l.errorG > 0 ? loads.make.over : loads.make.under)(studio.unit, Math.abs(l.errorG))
  }
  const proof = (m: Schemas['MakeAnswer']) =>
    m.exact ? loads.make.proved : m.withinG > 0 ? loads.make.nearer(studio.unit, m.withinG) : loads.make.unproved
  const wrong = (field: string) => invalid(problem, field)
</script>

{#snippet list(all: Schemas['MadeLoad'][])}
  {#each all as l, i (i)}
    <div class="made">
      <p>
        {#if all.length > 1}<span class="muted">{i === 0 ? loads.make.heavier : loads.make.lighter}</span>{/if}
        <b>{loads.make.total(studio.unit, l.totalG, off(l))}</b>
      </p>
      {#if l.load.container}<p>{items.find((x) => x.id === l.load.container)?.name}:</p>{/if}
      <ul>
        {#each studio.parts(l.load, items) as part, n (n)}<li>{part}</li>{/each}
      </ul>
    </div>
  {/each}
{/snippet}

<form
  class="row narrow top"
  onsubmit={(e) => {
    e.preventDefault()
    void make()
  }}
>
  <TextInput id="make-target" labelText={loads.make.target} bind:value={target} {...wrong('target')} />
  <TextInput
    id="make-tolerance"
    labelText={loads.make.tolerance}
    placeholder={mass(100, studio.unit)}
    bind:value={tolerance}
    {...wrong('tolerance')}
  />
  <Select id="make-loads" labelText={loads.make.loads} bind:selected={count}>
    <SelectItem value="1" text={loads.make.one} /><SelectItem value="2" text={loads.make.two} />
  </Select>
  <Select id="make-container" labelText={loads.make.container} bind:selected={container}>
    {#each place.containers as c (c.id)}<SelectItem value={c.id} text={c.name} />{/each}
    <SelectItem value="" text={loads.make.none} />
  </Select>
  <Checkbox id="make-soft" labelText={loads.make.soft} bind:checked={soft} />
  <Button type="submit" id="make-go" size="field">{loads.make.go}</Button>
</form>
{#if problem && !problem.errors}<Problem {problem} />{/if}
<div role="status" id="made">
  {#if made}
    <div class="card">
      {#if made.feasible}
        <h2>{loads.make.found(made.loads.length)}</h2>
        {@render list(made.loads)}
        <p class="muted">{proof(made)}</p>
      {:else}
        <p class="ember">{loads.make.cannot(studio.unit, made.targetG)}</p>
        <h3>{loads.make.below}</h3>
        {#if made.below.length > 0}{@render list(made.below)}{:else}<p>{loads.make.nothing}</p>{/if}
        <h3>{loads.make.above}</h3>
        {#if made.above.length > 0}{@render list(made.above)}{:else}<p>{loads.make.nothing}</p>{/if}
        {#if !made.exact}<p class="muted">{proof(made)}</p>{/if}
      {/if}
      {#if made.maxG > 0}<p>{loads.make.limit(studio.unit, made.maxG)}</p>{/if}
      {#if made.goes.length > 0}<p>{loads.make.goes(made.goes)}</p>{/if}
      <Checks id="made-check" what={made.check} />
    </div>
  {/if}
</div>

<style>
  form {
    margin: 16px 0;
  }
  /* Square corners fall on whole pixels wherever the card begins. */
  .card {
    border-radius: 0;
  }
  h2 {
    margin-top: 0;
  }
  .made p {
    margin: 2px 0;
  }
  .made {
    margin: 0 0 10px;
  }
  .made ul {
    list-style: disc;
    margin: 2px 0 0 18px;
  }
</style>
