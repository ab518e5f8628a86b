<script lang="ts">
  import { Button } from 'carbon-components-svelte'
  import { tick } from 'svelte'
  import { api, ask, type Item, type Place, type Problem as ProblemType, type Schemas } from '../../lib/api/client'
  import Problem from '../../lib/parts/Problem.svelte'
  import Why from '../../lib/parts/Why.svelte'
  import { itemsOf } from '../../lib/state/items'
  import { studio } from '../../lib/state/studio.svelte'
  import { typedLength, typedMass, volume } from '../../lib/text/format'
  import { kit as t } from '../../lib/text/gen/kit'
  import { loads } from '../../lib/text/gen/loads'
  import { nameOf } from '../../lib/text/names'
  import ContainerForm from './ContainerForm.svelte'
  import ImplementForm from './ImplementForm.svelte'
  import Lines from './Lines.svelte'
  import ObjectForm from './ObjectForm.svelte'

  interface Props {
    place: Place
    onchange: (next: Place) => void
    onbrought: () => void
  }
  let { place, onchange, onbrought }: Props = $props()
  let problem = $state<ProblemType>()
  interface Edited {
    what: 'implement' | 'object' | 'container'
    implement?: Schemas['Implement']
    object?: Schemas['Object']
    container?: Schemas['Container']
  }
  let item = $state.raw<Edited>()
  const names = $derived(studio.names([]))

  async function retire(what: Edited['what'], id: string): Promise<void> {
    const thing = itemsOf(place).find((i) => i.id === id)
    const path = { place: place.id, item: id }
    const call = {
      implement: () => api.DELETE('/api/places/{place}/implements/{item}', { params: { path } }),
      object: () => api.DELETE('/api/places/{place}/objects/{item}', { params: { path } }),
      container: () => api.DELETE('/api/places/{place}/containers/{item}', { params: { path } }),
    }[what]
    const a = await ask(call())
    problem = a.problem
    if (!a.data) return
    gone = thing && { what, thing }
    onchange(a.data)
    document.getElementById(`add-${what}`)?.focus()
  }
  // What was just put away is a press from being back.
  let gone = $state.raw<{ what: Edited['what']; thing: Item }>()
  async function back(): Promise<void> {
    if (!gone) return
    const body = { item: gone.what, id: gone.thing.id }
    const a = await ask(api.POST('/api/places/{place}/bring-back', { params: { path: { place: place.id } }, body }))
    problem = a.problem
    if (!a.data) return
    fresh = gone.thing.id
    gone = undefined
    onchange(a.data)
  }
  // What is new, or was changed, is marked.
  let fresh = $state('')
  function take(next: Place | undefined): void {
    const edited = item?.implement ?? item?.object ?? item?.container
    item = undefined
    if (!next) return
    const had = new Set(itemsOf(place).map((i) => i.id))
    fresh = edited?.id ?? itemsOf(next).find((i) => !had.has(i.id))?.id ?? ''
    onchange(next)
    void tick().then(() => document.getElementById(`row-${fresh}`)?.scrollIntoView({ block: 'nearest' }))
  }
  const empty = $derived(
    studio.unit === 'lb' ? { hall: t.emptyPound, flat: t.emptyFlatPound } : { hall: t.empty, flat: t.emptyFlat },
  )
  /** What is known of a bench, box, table or band, in a line. */
  function known(i: Place['implements'][number]): string {
    const d = i.details
    if (i.kind === 'band') {
      const pulls = i.pulls.map((p) => loads.item.pullAt(studio.unit, p.pullG, p.stretchMm))
      return pulls.join(', ') || loads.item.unmeasured
    }
    if (i.kind === 'table')
      return [
        d.legs ? nameOf.legs[d.legs] : '',
        i.checked ? t.checked : t.unchecked,
        i.tips ? (i.tips.allowed ? loads.item.tips : loads.item.tipsTooSoon)(i.tips.factor) : '',
      ]
        .filter(Boolean)
        .join('; ')
    return [
      i.count === 0 ? t.noneHere : '',
      i.highestMm > 0 ? t.setUpTo(studio.unit, i.highestMm) : '',
      (d.points ?? []).map((p) => nameOf.doorPoint[p]).join(', '),
      i.kind === 'foot-hold' ? (i.checked ? t.holdsFeet : t.unchecked) : '',
      i.ratedG > 0 ? loads.item.carries(studio.unit, i.ratedG) : '',
    ]
      .filter(Boolean)
      .join('; ')
  }
  /** What is known of an object or a container, in a line. */
  function about(d: Place['objects'][number]['details']): string {
    return (d.traits ?? []).map((x) => nameOf.trait[x]).join(', ')
  }
  function closes(c: Place['containers'][number]): string {
    const d = c.details
    const room = c.volumeMl > 0 ? volume(c.volumeMl) : ''
    return [room, d.closed ? loads.item.closes : '', d.straps ? loads.item.strapped : ''].filter(Boolean).join('; ')
  }
</script>

{#snippet actions(what: Edited['what'], id: string, name: string, edit: () => void)}
  <td class="full">
    <div class="buttons">
      <Button size="small" kind="ghost" on:click={edit} aria-label={t.editWhat(name)}>{t.edit}</Button>
      <Button size="small" kind="ghost" on:click={() => void retire(what, id)} aria-label={t.retireWhat(name)}
        >{t.retire}</Button
      >
    </div>
  </td>
{/snippet}

{#if problem}<Problem {problem} />{/if}
{#if gone}
  <p role="status">
    {t.wasPutAway(studio.itemName(gone.thing))}
    <button type="button" class="link" id="undo-put-away" onclick={() => void back()}>{t.undo}</button>
  </p>
{/if}
<Lines {place} {onbrought} />
<section>
  <div class="head">
    <h2 class="grow">{t.implements}</h2>
    <Button id="add-implement" size="small" on:click={() => (item = { what: 'implement' })}>{t.addImplement}</Button>
  </div>
  {#if place.implements.length > 0}
    <table class="sheet stack" aria-label={t.implements}>
      <thead>
        <tr
          ><th scope="col">{t.name}</th><th scope="col">{t.kind}</th><th scope="col">{t.mass}</th><th scope="col"
            >{t.height}</th
          ><th scope="col" class="num">{t.count}</th><td></td></tr
        >
      </thead>
      <tbody>
        {#each place.implements as i (i.id)}
          <tr id={`row-${i.id}`} class:fresh={fresh === i.id}>
            <th scope="row" class="full">{i.name}</th>
            <td data-label={t.kind}
              >{nameOf.implementKind[i.kind]}{#if known(i)}<br /><small class="muted">{known(i)}</small>{/if}</td
            >
            <td data-label={t.mass}>{i.mass ? typedMass(i.mass, studio.unit) : '–'}</td>
            <td data-label={t.height}>{i.height ? typedLength(i.height, studio.unit) : '–'}</td>
            <td data-label={t.count} class="num">{i.kind === 'dumbbell-pair' ? t.pairs(i.count) : i.count}</td>
            {@render actions('implement', i.id, studio.itemName(i), () => (item = { what: 'implement', implement: i }))}
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
    <h2 class="grow">{t.objects}</h2>
    <Button id="add-object" size="small" kind="tertiary" on:click={() => (item = { what: 'object' })}
      >{t.addObject}</Button
    >
    <Button id="add-container" size="small" kind="tertiary" on:click={() => (item = { what: 'container' })}
      >{t.addContainer}</Button
    >
  </div>
  {#if place.objects.length > 0}
    <table class="sheet stack" aria-label={t.objects}>
      <thead>
        <tr
          ><th scope="col">{t.name}</th><th scope="col">{t.use}</th><th scope="col">{t.gross}</th><th
            scope="col"
            class="num">{t.count}</th
          ><td></td></tr
        >
      </thead>
      <tbody>
        {#each place.objects as o (o.id)}
          <tr id={`row-${o.id}`} class:fresh={fresh === o.id}>
            <th scope="row" class="full"
              >{o.name}{#if about(o.details)}<br /><small class="muted">{about(o.details)}</small>{/if}</th
            >
            <td data-label={t.use}>{nameOf.use[o.use]}</td>
            <td data-label={t.gross}
              >{typedMass(o.mass, studio.unit)}
              {#if o.why}<Why
                  why={o.why}
                  {names}
                  label={o.name}
                  text={loads.item.about(studio.unit, o.massG, o.lowG, o.highG)}
                />{/if}</td
            >
            <td data-label={t.count} class="num">{o.count}</td>
            {@render actions('object', o.id, o.name, () => (item = { what: 'object', object: o }))}
          </tr>
        {/each}
      </tbody>
    </table>
  {/if}
  {#if place.containers.length > 0}
    <h3>{t.containers}</h3>
    <table class="sheet stack" aria-label={t.containers}>
      <thead>
        <tr><th scope="col">{t.name}</th><th scope="col">{t.own}</th><th scope="col">{t.max}</th><td></td></tr>
      </thead>
      <tbody>
        {#each place.containers as c (c.id)}
          <tr id={`row-${c.id}`} class:fresh={fresh === c.id}>
            <th scope="row" class="full"
              >{c.name}{#if closes(c)}<br /><small class="muted">{closes(c)}</small>{/if}</th
            >
            <td data-label={t.own}>{typedMass(c.mass, studio.unit)}</td>
            <td data-label={t.max}>{typedMass(c.max, studio.unit)}</td>
            {@render actions('container', c.id, c.name, () => (item = { what: 'container', container: c }))}
          </tr>
        {/each}
      </tbody>
    </table>
  {/if}
  {#if place.objects.length + place.containers.length === 0 && place.kind === 'flat'}<p class="muted">
      {empty.flat}
    </p>{/if}
  <p class="muted">{t.caution}</p>
</section>

{#if item}
  {@const onclose = take}
  {#if item.what === 'implement'}
    <ImplementForm {place} thing={item.implement} {onclose} />
  {:else if item.what === 'object'}
    <ObjectForm {place} thing={item.object} {onclose} />
  {:else}
    <ContainerForm {place} thing={item.container} {onclose} />
  {/if}
{/if}

<style>
  tr.fresh {
    box-shadow: inset 3px 0 var(--accent);
  }
</style>
