<script lang="ts">
  import { Button, Checkbox, Select, SelectItem, TextInput } from 'carbon-components-svelte'
  import { api, ask, invalid, type Place, type Problem as ProblemType, type Schemas } from '../../lib/api/client'
  import Checks from '../../lib/parts/Checks.svelte'
  import Problem from '../../lib/parts/Problem.svelte'
  import { itemsOf } from '../../lib/state/items'
  import { studio } from '../../lib/state/studio.svelte'
  import { mass } from '../../lib/text/format'
  import { loads } from '../../lib/text/gen/loads'
  import { nameOf } from '../../lib/text/names'

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
  /** The lists of what comes nearest, the nearer one first. */
  const sides = (m: Schemas['MakeAnswer']) => {
    const off = (all: Schemas['MadeLoad'][]) => (all[0] ? Math.max(...all.map((l) => Math.abs(l.errorG))) : Infinity)
    const both = [
      { head: loads.make.below, all: m.below },
      { head: loads.make.above, all: m.above },
    ]
    return both.sort((a, b) => off(a.all) - off(b.all))
  }
  const nearest = (l: Schemas['MadeLoad']) =>
    loads.make.nearest(studio.unit, studio.parts(l.load, items), l.totalG, off(l))
  const left = (m: Schemas['MakeAnswer']) =>
    m.leftOut.map((o) => loads.make.leftOutOne(items.find((x) => x.id === o.id)?.name ?? '', nameOf.leftOut[o.reason]))
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
        {@const both = sides(made)}
        <p class="ember">{loads.make.cannot(studio.unit, made.targetG)}</p>
        {#if both[0]?.all.length === 1 && both[0].all[0]}<p id="nearest"><b>{nearest(both[0].all[0])}</b></p>{/if}
        {#each both as side (side.head)}
          <h3>{side.head}</h3>
          {#if side.all.length > 0}{@render list(side.all)}{:else}<p>{loads.make.nothing}</p>{/if}
        {/each}
        {#if !made.exact}<p class="muted">{proof(made)}</p>{/if}
      {/if}
      {#if made.maxG > 0}<p>{loads.make.limit(studio.unit, made.maxG)}</p>{/if}
      {#if made.goes.length > 0}<p>{loads.make.goes(made.goes)}</p>{/if}
      {#if made.leftOut.length > 0}<p class="muted" id="left-out">{loads.make.leftOut(left(made))}</p>{/if}
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
