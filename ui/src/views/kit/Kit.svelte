<script lang="ts">
  import { Button, Select, SelectItem } from 'carbon-components-svelte'
  import { api, ask, type Place, type Problem as ProblemType } from '../../lib/api/client'
  import { navigate, route, searchParams } from '../../lib/nav'
  import Problem from '../../lib/parts/Problem.svelte'
  import Tabs from '../../lib/parts/Tabs.svelte'
  import { rememberPlace, startPlace } from '../../lib/state/place'
  import { studio } from '../../lib/state/studio.svelte'
  import { kit as t } from '../../lib/text/gen/kit'
  import { loads } from '../../lib/text/gen/loads'
  import { nameOf } from '../../lib/text/names'
  import Bridge from './Bridge.svelte'
  import Files from './Files.svelte'
  import Fit from './Fit.svelte'
  import LoadRule from './LoadRule.svelte'
  import Make from './Make.svelte'
  import PlaceForm from './PlaceForm.svelte'
  import PutAway from './PutAway.svelte'
  import Substitutes from './Substitutes.svelte'
  import Things from './Things.svelte'

  let places = $state.raw<Place[]>([])
  let chosen: string | number = $state('')
  let problem = $state<ProblemType>()
  let read = $state(false)
  let placeForm = $state<'new' | 'old'>()
  const place = $derived(places.find((p) => p.id === chosen) ?? places[0])
  const tabs = Object.keys(loads.tabs) as (keyof typeof loads.tabs)[]
  const goTo = (x: string) => void navigate('/kit/:tab', { params: { tab: x }, search: { place: String(chosen) } })
  const tab = $derived(tabs.find((x) => x === route.params.tab) ?? 'things')

  // The place stands in the address: a link, a reload and the way back keep it.
  const inAddress = () => searchParams.toURLSearchParams().get('place') ?? ''
  $effect(() => {
    const id = place?.id
    if (!id) return
    rememberPlace(id)
    if (inAddress() !== id) searchParams.set('place', id, { replace: true })
  })

  /** How often a place was put among them: a list that was asked for before is older. */
  let puts = 0
  async function load(): Promise<void> {
    const before = puts
    const a = await ask(api.GET('/api/places'))
    if (before !== puts) return load()
    problem = a.problem
    places = a.data ?? []
    if (!places.some((p) => p.id === chosen)) chosen = startPlace(places, inAddress())
    read = true
  }
  void load()

  // A place where no class is to come can be put away, and brought back.
  let gone = $state.raw<Place>()
  async function retire(p: Place): Promise<void> {
    const a = await ask(api.DELETE('/api/places/{place}', { params: { path: { place: p.id } } }))
    problem = a.problem
    if (!a.data) return
    gone = p
    await load()
  }
  async function back(p: Place): Promise<void> {
    const a = await ask(api.POST('/api/places/{place}/bring-back', { params: { path: { place: p.id } }, body: {} }))
    problem = a.problem
    gone = undefined
    if (a.data) put(a.data)
  }

  function put(next: Place): void {
    puts++
    places = places.some((p) => p.id === next.id) ? places.map((p) => (p.id === next.id ? next : p)) : [...places, next]
    chosen = next.id
  }
</script>

<main class="page" id="work">
  <div class="head">
    <div class="grow"><h1>{t.title}</h1></div>
    {#if place}
      <div>
        <Select id="place" labelText={t.place} hideLabel bind:selected={chosen}>
          {#each places as p (p.id)}<SelectItem value={p.id} text={`${p.name} (${nameOf.placeKind[p.kind]})`} />{/each}
        </Select>
      </div>
    {/if}
    <Button size="small" kind="tertiary" on:click={() => (placeForm = 'new')}>{t.addPlace}</Button>
    {#if place}
      <Button size="small" kind="ghost" id="edit-place" on:click={() => (placeForm = 'old')}>{t.editPlace}</Button>
      <Button size="small" kind="ghost" id="retire-place" on:click={() => void retire(place)}>{t.retirePlace}</Button>
    {/if}
  </div>
  {#if problem}<Problem {problem} />{/if}
  {#if gone}
    <p role="status">
      {t.wasPutAway(gone.name)}
      <button type="button" class="link" id="undo-retire" onclick={() => gone && void back(gone)}>{t.undo}</button>
    </p>
  {/if}
  {#if place}
    <Tabs
      label={loads.tabsLabel}
      tabs={tabs.map((x) => ({ id: x, text: loads.tabs[x] }))}
      selected={tab}
      panel="tab"
      onselect={goTo}
    />
    <div id="tab" role="tabpanel" aria-labelledby={`tab-${tab}`}>
      {#key place.id}
        {#if tab === 'things'}
          <Things {place} onchange={put} onbrought={() => void load()} />
          <PutAway onchange={() => void load()} />
        {:else if tab === 'rule'}
          <LoadRule {place} />
        {:else if tab === 'make'}
          <Make {place} />
        {:else if tab === 'instead'}
          <Substitutes {place} />
        {:else if tab === 'bridge'}
          <Bridge {place} />
        {:else if tab === 'fit'}
          <Fit {place} />
        {:else}
          <Files onbrought={() => void load()} />
        {/if}
      {/key}
    </div>
  {:else if read}
    <p>{studio.unit === 'lb' ? t.emptyPound : t.empty}</p>
  {/if}
</main>

{#if placeForm}
  <PlaceForm
    old={placeForm === 'old' ? place : undefined}
    taken={places.filter((p) => placeForm === 'new' || p.id !== place?.id).map((p) => p.name)}
    onclose={(next) => {
      if (next) put(next)
      placeForm = undefined
    }}
  />
{/if}
