<script lang="ts">
  import { Button, Select, SelectItem } from 'carbon-components-svelte'
  import { api, ask, type Place, type Problem as ProblemType } from '../../lib/api/client'
  import Problem from '../../lib/parts/Problem.svelte'
  import { studio } from '../../lib/state/studio.svelte'
  import { kind, t, use } from '../../lib/text/catalogue'
  import { typedLength, typedMass } from '../../lib/text/format'
  import ItemForm, { type Edited } from './ItemForm.svelte'
  import PlaceForm from './PlaceForm.svelte'

  let places = $state.raw<Place[]>([])
  let chosen: string | number = $state('')
  let problem = $state<ProblemType>()
  let read = $state(false)
  let item = $state.raw<Edited>()
  let placeForm = $state(false)
  const place = $derived(places.find((p) => p.id === chosen) ?? places[0])

  async function load(): Promise<void> {
    const a = await ask(api.GET('/api/places'))
    problem = a.problem
    places = a.data ?? []
    chosen = places[0]?.id ?? ''
    read = true
  }
  void load()

  function put(next: Place): void {
    places = places.some((p) => p.id === next.id) ? places.map((p) => (p.id === next.id ? next : p)) : [...places, next]
    chosen = next.id
  }

  async function retire(what: Edited['what'], id: string): Promise<void> {
    if (!place) return
    const path = { place: place.id, item: id }
    const call = {
      implement: () => api.DELETE('/api/places/{place}/implements/{item}', { params: { path } }),
      object: () => api.DELETE('/api/places/{place}/objects/{item}', { params: { path } }),
      container: () => api.DELETE('/api/places/{place}/containers/{item}', { params: { path } }),
    }[what]
    const a = await ask(call())
    problem = a.problem
    if (a.data) put(a.data)
    document.getElementById(`add-${what}`)?.focus()
  }
  const empty = $derived(
    studio.unit === 'lb'
      ? { hall: t.kit.emptyPound, flat: t.kit.emptyFlatPound }
      : { hall: t.kit.empty, flat: t.kit.emptyFlat },
  )
</script>

{#snippet actions(what: Edited['what'], id: string, name: string, edit: () => void)}
  <td class="full">
    <div class="buttons">
      <Button size="small" kind="ghost" on:click={edit} aria-label={t.kit.editWhat(name)}>{t.kit.edit}</Button>
      <Button size="small" kind="ghost" on:click={() => void retire(what, id)} aria-label={t.kit.retireWhat(name)}
        >{t.kit.retire}</Button
      >
    </div>
  </td>
{/snippet}

<main class="page" id="work">
  <div class="head">
    <div class="grow"><h1>{t.kit.title}</h1></div>
    {#if place}
      <div>
        <Select id="place" labelText={t.kit.place} hideLabel bind:selected={chosen}>
          {#each places as p (p.id)}<SelectItem
              value={p.id}
              text={`${p.name} (${p.kind === 'hall' ? t.kit.hall : t.kit.flat})`}
            />{/each}
        </Select>
      </div>
    {/if}
    <Button size="small" kind="tertiary" on:click={() => (placeForm = true)}>{t.kit.addPlace}</Button>
  </div>
  {#if problem}<Problem {problem} />{/if}
  {#if place}
    <section>
      <div class="head">
        <h2 class="grow">{t.kit.implements}</h2>
        <Button id="add-implement" size="small" on:click={() => (item = { what: 'implement' })}
          >{t.kit.addImplement}</Button
        >
      </div>
      {#if place.implements.length > 0}
        <table class="sheet stack" aria-label={t.kit.implements}>
          <thead>
            <tr
              ><th scope="col">{t.kit.name}</th><th scope="col">{t.kit.kind}</th><th scope="col">{t.kit.mass}</th><th
                scope="col">{t.kit.height}</th
              ><th scope="col" class="num">{t.kit.count}</th><td></td></tr
            >
          </thead>
          <tbody>
            {#each place.implements as i (i.id)}
              <tr>
                <th scope="row" class="full">{i.name}</th>
                <td data-label={t.kit.kind}
                  >{kind[i.kind]}{#if i.kind === 'table'}<br /><small class="muted"
                      >{i.checked ? t.kit.checked : t.kit.unchecked}</small
                    >{/if}</td
                >
                <td data-label={t.kit.mass}>{i.mass ? typedMass(i.mass, studio.unit) : '–'}</td>
                <td data-label={t.kit.height}>{i.height ? typedLength(i.height, studio.unit) : '–'}</td>
                <td data-label={t.kit.count} class="num"
                  >{i.count}{i.kind === 'dumbbell-pair' ? ` ${t.kit.pairs}` : ''}</td
                >
                {@render actions(
                  'implement',
                  i.id,
                  studio.itemName(i),
                  () => (item = { what: 'implement', implement: i }),
                )}
              </tr>
            {/each}
          </tbody>
        </table>
      {:else}
        <p class="muted">{empty.hall}</p>
      {/if}
    </section>
    <section>
      <div class="head">
        <h2 class="grow">{t.kit.objects}</h2>
        <Button id="add-object" size="small" kind="tertiary" on:click={() => (item = { what: 'object' })}
          >{t.kit.addObject}</Button
        >
        <Button id="add-container" size="small" kind="tertiary" on:click={() => (item = { what: 'container' })}
          >{t.kit.addContainer}</Button
        >
      </div>
      {#if place.objects.length > 0}
        <table class="sheet stack" aria-label={t.kit.objects}>
          <thead>
            <tr
              ><th scope="col">{t.kit.name}</th><th scope="col">{t.kit.use}</th><th scope="col">{t.kit.gross}</th><th
                scope="col"
                class="num">{t.kit.count}</th
              ><td></td></tr
            >
          </thead>
          <tbody>
            {#each place.objects as o (o.id)}
              <tr>
                <th scope="row" class="full">{o.name}</th>
                <td data-label={t.kit.use}>{use[o.use]}</td>
                <td data-label={t.kit.gross}>{typedMass(o.mass, studio.unit)}</td>
                <td data-label={t.kit.count} class="num">{o.count}</td>
                {@render actions('object', o.id, o.name, () => (item = { what: 'object', object: o }))}
              </tr>
            {/each}
          </tbody>
        </table>
      {/if}
      {#if place.containers.length > 0}
        <h3>{t.kit.containers}</h3>
        <table class="sheet stack" aria-label={t.kit.containers}>
          <thead>
            <tr
              ><th scope="col">{t.kit.name}</th><th scope="col">{t.kit.own}</th><th scope="col">{t.kit.max}</th><td
              ></td></tr
            >
          </thead>
          <tbody>
            {#each place.containers as c (c.id)}
              <tr>
                <th scope="row" class="full">{c.name}</th>
                <td data-label={t.kit.own}>{typedMass(c.mass, studio.unit)}</td>
                <td data-label={t.kit.max}>{typedMass(c.max, studio.unit)}</td>
                {@render actions('container', c.id, c.name, () => (item = { what: 'container', container: c }))}
              </tr>
            {/each}
          </tbody>
        </table>
      {/if}
      {#if place.objects.length + place.containers.length === 0 && place.kind === 'flat'}<p class="muted">
          {empty.flat}
        </p>{/if}
      <p class="muted">{t.kit.caution}</p>
    </section>
  {:else if read}
    <p>{empty.hall}</p>
  {/if}
</main>

{#if item && place}
  <ItemForm
    {place}
    edited={item}
    onclose={(next) => {
      if (next) put(next)
      item = undefined
    }}
  />
{/if}
{#if placeForm}
  <PlaceForm
    onclose={(next) => {
      if (next) put(next)
      placeForm = false
    }}
  />
{/if}
