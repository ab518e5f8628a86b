<script lang="ts">
  import { Button, TextInput } from 'carbon-components-svelte'
  import { tick } from 'svelte'
  import { api, ask, invalid, type Place, type Problem as ProblemType, type Schemas } from '../../lib/api/client'
  import Problem from '../../lib/parts/Problem.svelte'
  import { itemsOf } from '../../lib/state/items'
  import { studio } from '../../lib/state/studio.svelte'
  import { loads } from '../../lib/text/gen/loads'

  let { place }: { place: Place } = $props()
  const somebody = (n: number) => ({
    name: loads.fit.person(n),
    stature: studio.unit === 'lb' ? '67 in' : '170 cm',
    knee: '',
  })
  let people = $state([somebody(1)])
  let fitted = $state.raw<Schemas['FitAnswer']>()
  let problem = $state<ProblemType>()
  const items = $derived(itemsOf(place))
  const name = (id: string) => items.find((i) => i.id === id)?.name ?? id
  const range = (r: { from: number; to: number }) => loads.fit.range(studio.unit, r.from, r.to)

  async function fit(): Promise<void> {
    const a = await ask(
      api.POST('/api/places/{place}/fit', { params: { path: { place: place.id } }, body: { people } }),
    )
    problem = a.problem
    fitted = a.data
  }
  async function add(): Promise<void> {
    people.push(somebody(people.length + 1))
    await tick()
    document.getElementById(`fit-name-${people.length - 1}`)?.focus()
  }
  const wrong = (i: number, field: string) => invalid(problem, `people[${i}].${field}`)
</script>

<form
  onsubmit={(e) => {
    e.preventDefault()
    void fit()
  }}
>
  {#each people as p, i (i)}
    <div class="row narrow wide top">
      <TextInput id={`fit-name-${i}`} labelText={loads.fit.who} bind:value={p.name} {...wrong(i, 'name')} />
      <TextInput
        id={`fit-stature-${i}`}
        labelText={loads.fit.stature}
        bind:value={p.stature}
        {...wrong(i, 'stature')}
      />
      <TextInput
        id={`fit-knee-${i}`}
        labelText={loads.fit.knee}
        helperText={loads.fit.kneeHint}
        bind:value={p.knee}
        {...wrong(i, 'knee')}
      />
      {#if people.length > 1}<Button
          size="field"
          kind="ghost"
          aria-label={loads.fit.remove(p.name)}
          on:click={() => people.splice(i, 1)}>{loads.fit.remove(p.name)}</Button
        >{/if}
    </div>
  {/each}
  <div class="buttons">
    <Button size="field" kind="tertiary" id="fit-add" on:click={() => void add()}>{loads.fit.add}</Button>
    <Button type="submit" size="field" id="fit-go">{loads.fit.go}</Button>
  </div>
</form>
{#if problem && !problem.errors}<Problem {problem} />{/if}
<div role="status" id="fitted">
  {#if fitted}
    <table class="sheet stack" aria-label={loads.tabs.fit}>
      <thead>
        <tr
          ><th scope="col">{loads.fit.who}</th><th scope="col">{loads.fit.box}</th><th scope="col">{loads.fit.bench}</th
          ><th scope="col">{loads.fit.here}</th><th scope="col">{loads.fit.heel}</th></tr
        >
      </thead>
      <tbody>
        {#each fitted.people as p (p.name)}
          <tr>
            <th scope="row" class="full">{p.name}</th>
            <td data-label={loads.fit.box}
              >{range(p.boxMm)}<br /><span class="muted">{p.boxes.map(name).join(', ') || loads.fit.none}</span></td
            >
            <td data-label={loads.fit.bench}>{range(p.benchMm)}</td>
            <td data-label={loads.fit.here}
              >{#each p.benches as b (b.item)}<span class:ember={b.verdict !== 'fits'}
                  >{loads.fit.verdict(
                    studio.unit,
                    name(b.item),
                    b.verdict,
                    b.raiseMm > 0 ? b.raiseMm : undefined,
                  )}</span
                ><br />{/each}</td
            >
            <td data-label={loads.fit.heel}>{loads.fit.degrees(studio.unit, p.heelMm, p.heelDeg)}</td>
          </tr>
        {/each}
      </tbody>
    </table>
    <h2>{loads.fit.order}</h2>
    <ol id="fit-order">
      {#each fitted.order as o (o.heightMm)}<li>
          {loads.fit.setting(studio.unit, o.heightMm, o.people)}
        </li>{/each}
    </ol>
    <p>{loads.fit.changes(fitted.changes)}</p>
  {/if}
</div>

<style>
  form {
    margin: 16px 0;
    display: grid;
    gap: 12px;
  }
  ol {
    list-style: decimal;
    margin: 0 0 8px 20px;
  }
</style>
