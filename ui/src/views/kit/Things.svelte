<script lang="ts">
  import { Button } from 'carbon-components-svelte'
  import { api, ask, type Place, type Problem as ProblemType, type Schemas } from '../../lib/api/client'
  import Problem from '../../lib/parts/Problem.svelte'
  import Why from '../../lib/parts/Why.svelte'
  import { studio } from '../../lib/state/studio.svelte'
  import { kind, t, use } from '../../lib/text/catalogue'
  import { length, mass, typedLength, typedMass, volume } from '../../lib/text/format'
  import { loads } from '../../lib/text/loads'
  import ContainerForm from './ContainerForm.svelte'
  import ImplementForm from './ImplementForm.svelte'
  import ObjectForm from './ObjectForm.svelte'

  let { place, onchange }: { place: Place; onchange: (next: Place) => void } = $props()
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
    const path = { place: place.id, item: id }
    const call = {
      implement: () => api.DELETE('/api/places/{place}/implements/{item}', { params: { path } }),
      object: () => api.DELETE('/api/places/{place}/objects/{item}', { params: { path } }),
      container: () => api.DELETE('/api/places/{place}/containers/{item}', { params: { path } }),
    }[what]
    const a = await ask(call())
    problem = a.problem
    if (a.data) onchange(a.data)
    document.getElementById(`add-${what}`)?.focus()
  }
  const empty = $derived(
    studio.unit === 'lb'
      ? { hall: t.kit.emptyPound, flat: t.kit.emptyFlatPound }
      : { hall: t.kit.empty, flat: t.kit.emptyFlat },
  )
  /** What is known of a bench, box, table or band, in a line. */
  function known(i: Place['implements'][number]): string {
    const d = i.details
    if (i.kind === 'band') {
      const pulls = i.pulls.map((p) => loads.item.pullAt(mass(p.pullG, studio.unit), length(p.stretchMm, studio.unit)))
      return pulls.join(', ') || loads.item.unmeasured
    }
    if (i.kind === 'table')
      return [
        d.legs ? loads.item.leg[d.legs] : '',
        i.checked ? t.kit.checked : t.kit.unchecked,
        i.tips ? loads.item.tips(i.tips.factor, i.tips.allowed) : '',
      ]
        .filter(Boolean)
        .join('; ')
    return i.ratedG > 0 ? loads.item.carries(mass(i.ratedG, studio.unit)) : ''
  }
  /** What is known of an object or a container, in a line. */
  function about(d: Place['objects'][number]['details']): string {
    return (d.traits ?? []).map((x) => loads.item.trait[x]).join(', ')
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
      <Button size="small" kind="ghost" on:click={edit} aria-label={t.kit.editWhat(name)}>{t.kit.edit}</Button>
      <Button size="small" kind="ghost" on:click={() => void retire(what, id)} aria-label={t.kit.retireWhat(name)}
        >{t.kit.retire}</Button
      >
    </div>
  </td>
{/snippet}

{#if problem}<Problem {problem} />{/if}
<section>
  <div class="head">
    <h2 class="grow">{t.kit.implements}</h2>
    <Button id="add-implement" size="small" on:click={() => (item = { what: 'implement' })}>{t.kit.addImplement}</Button
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
              >{kind[i.kind]}{#if known(i)}<br /><small class="muted">{known(i)}</small>{/if}</td
            >
            <td data-label={t.kit.mass}>{i.mass ? typedMass(i.mass, studio.unit) : '–'}</td>
            <td data-label={t.kit.height}>{i.height ? typedLength(i.height, studio.unit) : '–'}</td>
            <td data-label={t.kit.count} class="num">{i.count}{i.kind === 'dumbbell-pair' ? ` ${t.kit.pairs}` : ''}</td>
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
            <th scope="row" class="full"
              >{o.name}{#if about(o.details)}<br /><small class="muted">{about(o.details)}</small>{/if}</th
            >
            <td data-label={t.kit.use}>{use[o.use]}</td>
            <td data-label={t.kit.gross}
              >{typedMass(o.mass, studio.unit)}
              {#if o.why}<Why
                  why={o.why}
                  {names}
                  label={o.name}
                  text={loads.item.about(
                    mass(o.massG, studio.unit),
                    mass(o.lowG, studio.unit),
                    mass(o.highG, studio.unit),
                  )}
                />{/if}</td
            >
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
            <th scope="row" class="full"
              >{c.name}{#if closes(c)}<br /><small class="muted">{closes(c)}</small>{/if}</th
            >
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

{#if item}
  {@const onclose = (next?: Place) => {
    if (next) onchange(next)
    item = undefined
  }}
  {#if item.what === 'implement'}
    <ImplementForm {place} thing={item.implement} {onclose} />
  {:else if item.what === 'object'}
    <ObjectForm {place} thing={item.object} {onclose} />
  {:else}
    <ContainerForm {place} thing={item.container} {onclose} />
  {/if}
{/if}
