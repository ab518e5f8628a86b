<script lang="ts">
  import { Checkbox, Select, SelectItem } from 'carbon-components-svelte'
  import { untrack } from 'svelte'
  import { api, ask, missing, newId, type Place, type Schemas } from '../../lib/api/client'
  import { studio } from '../../lib/state/studio.svelte'
  import { asTyped } from '../../lib/text/format'
  import { common } from '../../lib/text/gen/common'
  import { kit as t } from '../../lib/text/gen/kit'
  import { loads } from '../../lib/text/gen/loads'
  import { nameOf } from '../../lib/text/names'
  import Quantity from './Quantity.svelte'
  import ThingModal from './ThingModal.svelte'
  import Ticks from './Ticks.svelte'
  import { on, Typed } from './typed.svelte'
  import Weigh from './Weigh.svelte'

  interface Props {
    place: Place
    thing?: Schemas['Object'] | undefined
    onclose: (next?: Place) => void
  }
  let { place, thing, onclose }: Props = $props()
  const old = (() => thing)()
  const d = old?.details
  const id = old?.id ?? newId()
  const typed = new Typed((() => place)(), {
    mass: asTyped(d?.how === 'net' ? d.amount : old?.mass),
    volume: asTyped(d?.how === 'volume' ? d.amount : d?.volume),
    empty: asTyped(d?.empty),
  })
  let name = $state(old?.name ?? '')
  let use: string | number = $state(old?.use ?? 'pack')
  let count: number | null = $state(old?.count ?? 1)
  let how: string | number = $state(d?.how ?? '')
  let what: string | number = $state(d?.what ?? '')
  let inside: string | number = $state(d?.in ?? '')
  let refill = $state(d?.refill ?? false)
  const traits = $state<Record<string, boolean>>(Object.fromEntries((d?.traits ?? []).map((x) => [x, true])))
  let table = $state.raw<Schemas['Household']>()
  let about = $state.raw<Schemas['Weighed']>()
  void ask(api.GET('/api/household')).then((a) => (table = a.data))

  const hasMass = $derived(!['volume', 'kind'].includes(String(how)))
  /** What may stand for "of what": packages, substances or known things. */
  const choices = $derived(
    how === 'net' ? table?.packages : how === 'volume' ? table?.substances : how === 'kind' ? table?.known : undefined,
  )
  $effect(() => {
    if (choices && !choices.some((c) => c.id === what)) what = choices[0]?.id ?? ''
    if (how === 'volume' && inside === '') inside = 'bottle'
  })
  // Another way of knowing it, another thing or vessel is another mass.
  $effect(() => {
    if (how || what || inside) untrack(() => void weigh())
  })

  function body(): Schemas['ObjectInput'] {
    return {
      ...{ name: name.trim() || '?', use: use as Schemas['ObjectInput']['use'], count: count ?? 0, refill },
      ...(how ? { how: how as NonNullable<Schemas['ObjectInput']['how']> } : {}),
      ...(choices ? { what: String(what) } : {}),
      ...(how === 'volume' ? { in: String(inside) } : {}),
      ...typed.filled(
        ...(hasMass ? ['mass'] : []),
        ...(how === 'kind' ? [] : ['volume']),
        ...(refill ? ['empty'] : []),
      ),
      traits: on(traits) as NonNullable<Schemas['ObjectInput']['traits']>,
    }
  }
  /** What the thing weighs as it is typed: the server works it out. */
  async function weigh(): Promise<void> {
    const amount = how === 'kind' ? 'one' : typed.text[how === 'volume' ? 'volume' : 'mass']
    if (!how || how === 'weighed' || !amount?.trim()) {
      about = undefined
      return
    }
    const path = { place: place.id }
    about = (await ask(api.POST('/api/places/{place}/weigh-object', { params: { path }, body: body() }))).data
  }
  async function save(): Promise<void> {
    typed.problem = missing({ name: [name, common.give.name] })
    if (typed.problem) return
    const path = { place: place.id, item: id }
    const a = await ask(
      api.PUT('/api/places/{place}/objects/{item}', { params: { path }, body: { ...body(), name: name.trim() } }),
    )
    typed.problem = a.problem
    if (a.data) onclose(a.data)
  }
  const onread = () => void weigh()
</script>

<ThingModal
  of={old?.id}
  title={old ? t.editWhat(old.name) : t.addObject}
  {typed}
  bind:name
  bind:count
  onsave={save}
  onclose={() => onclose()}
>
  {#snippet sort()}
    <Select id="item-use" labelText={t.use} bind:selected={use}>
      {#each Object.entries(nameOf.use) as [value, text] (value)}<SelectItem {value} {text} />{/each}
    </Select>
  {/snippet}
  <div class="row top">
    <Select id="item-how" labelText={loads.item.how} bind:selected={how}>
      {#each Object.entries(nameOf.massKnownBy) as [value, text] (value)}<SelectItem {value} {text} />{/each}
    </Select>
    {#if choices}
      <Select
        id="item-what"
        labelText={how === 'net' ? loads.item.pack : how === 'volume' ? loads.item.substance : loads.item.thing}
        helperText={choices.find((c) => c.id === what)?.source}
        bind:selected={what}
      >
        {#each choices as c (c.id)}<SelectItem value={c.id} text={nameOf.household[c.id] ?? c.name} />{/each}
      </Select>
    {/if}
    {#if how === 'volume'}
      <Select id="item-in" labelText={loads.item.vessel} bind:selected={inside}>
        {#each table?.vessels ?? [] as v (v.id)}<SelectItem
            value={v.id}
            text={nameOf.household[v.id] ?? v.name}
          />{/each}
      </Select>
    {/if}
  </div>
  {#if how !== 'kind'}
    <div class="row top">
      {#if hasMass}
        <Quantity {typed} field="mass" label={how === 'net' ? loads.item.net : t.gross} sort="mass" {onread} />
      {/if}
      <Quantity
        {typed}
        field="volume"
        label={how === 'volume' ? loads.item.volume : loads.item.room}
        sort="volume"
        {onread}
      />
    </div>
  {/if}
  {#if about}<p id="item-about">
      {loads.item.about(studio.unit, about.massG, about.lowG, about.highG)}
    </p>{/if}
  {#if how === 'weighed'}
    <Weigh
      ontake={(text) => {
        typed.text.mass = text
        void typed.look('mass', 'mass').then(weigh)
      }}
    />
  {/if}
  <Checkbox id="item-refill" labelText={loads.item.refill} bind:checked={refill} />
  {#if refill}
    <div class="row top"><Quantity {typed} field="empty" label={loads.item.empty} sort="mass" {onread} /></div>
  {/if}
  <Ticks id="item-trait" legend={loads.item.traits} names={nameOf.trait} set={traits} />
</ThingModal>
