<script lang="ts" module>
  import type { Schemas } from '../../lib/api/client'

  export interface Edited {
    what: 'implement' | 'object' | 'container'
    implement?: Schemas['Implement']
    object?: Schemas['Object']
    container?: Schemas['Container']
  }
</script>

<script lang="ts">
  import { Checkbox, NumberInput, Select, SelectItem, TextInput } from 'carbon-components-svelte'
  import { untrack } from 'svelte'
  import {
    api,
    ask,
    fieldProblem,
    newId,
    type Answer,
    type Place,
    type Problem as ProblemType,
  } from '../../lib/api/client'
  import FormModal from '../../lib/parts/FormModal.svelte'
  import { studio } from '../../lib/state/studio.svelte'
  import { kind as kindName, t, use as useName } from '../../lib/text/catalogue'
  import { asTyped, length, mass as massText, volume as volumeText } from '../../lib/text/format'
  import { loads } from '../../lib/text/loads'
  import { household as thing } from '../../lib/text/names'
  import Weigh from './Weigh.svelte'

  let { place, edited, onclose }: { place: Place; edited: Edited; onclose: (next?: Place) => void } = $props()
  const now = (() => edited)()
  const old = now.implement ?? now.object ?? now.container
  const id = old?.id ?? newId()
  const oi = now.implement?.details
  const oo = now.object?.details
  const oc = now.container?.details
  let name = $state(old?.name ?? '')
  let kind: string | number = $state(now.implement?.kind ?? 'kettlebell')
  let use: string | number = $state(now.object?.use ?? 'pack')
  let count: number | null = $state(now.implement?.count ?? now.object?.count ?? 1)
  let checked = $state(now.implement?.checked ?? false)
  /** Quantities as typed, by the field of the request. */
  const typed = $state<Record<string, string>>({
    mass: asTyped(oo?.how === 'net' ? oo.amount : old?.mass),
    max: asTyped(now.container?.max),
    height: asTyped(now.implement?.height),
    volume: asTyped(oo?.how === 'volume' ? oo.amount : (oo?.volume ?? oc?.volume)),
    empty: asTyped(oo?.empty),
    rated: asTyped(oi?.rated),
    tableMass: asTyped(oi?.tableMass),
    centreIn: asTyped(oi?.centreIn),
    edgeOut: asTyped(oi?.edgeOut),
    stretch1: asTyped(oi?.pulls?.[0]?.stretch),
    pull1: asTyped(oi?.pulls?.[0]?.pull),
    stretch2: asTyped(oi?.pulls?.[1]?.stretch),
    pull2: asTyped(oi?.pulls?.[1]?.pull),
  })
  let how: string | number = $state(oo?.how ?? '')
  let what: string | number = $state(oo?.what ?? '')
  let inside: string | number = $state(oo?.in ?? '')
  let refill = $state(oo?.refill ?? false)
  let legs: string | number = $state(oi?.legs ?? '')
  let closed = $state(oc?.closed ?? false)
  let straps = $state(oc?.straps ?? false)
  const traits = $state<Record<string, boolean>>(Object.fromEntries((oo?.traits ?? []).map((x) => [x, true])))
  const wear = $state<Record<string, boolean>>(Object.fromEntries((oc?.wear ?? []).map((x) => [x, true])))
  let table = $state.raw<Schemas['Household']>()
  let about = $state.raw<Schemas['Weighed']>()
  let problem = $state<ProblemType>()
  /** What the server read of each field, or what is wrong with it. */
  let read = $state<Record<string, { text?: string; wrong?: string }>>({})
  if (now.what === 'object') void ask(api.GET('/api/household')).then((a) => (table = a.data))

  const heavy = $derived(['kettlebell', 'dumbbell', 'dumbbell-pair'].includes(String(kind)))
  const stands = $derived(now.what === 'implement' && ['bench', 'box', 'table'].includes(String(kind)))
  const hasMass = $derived(
    now.what === 'container' ||
      (now.what === 'implement' && heavy) ||
      (now.what === 'object' && !['volume', 'kind'].includes(String(how))),
  )
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
    if (now.what === 'object' && (how || what || inside)) untrack(() => void weigh())
  })

  // The one parser is the server's: it is asked when a field is left.
  async function look(field: string, quantity: 'mass' | 'length' | 'volume'): Promise<void> {
    const text = typed[field] ?? ''
    if (text.trim() === '') {
      read[field] = {}
      return
    }
    const bare =
      quantity === 'volume' ? 'l' : quantity === 'mass' ? place.massUnit : place.massUnit === 'lb' ? 'in' : 'cm'
    const a = await ask(api.POST('/api/read-quantity', { body: { text, unit: bare, kind: quantity } }))
    if (a.data) {
      const as =
        quantity === 'volume'
          ? volumeText(a.data.whole)
          : (quantity === 'mass' ? massText : length)(a.data.whole, studio.unit)
      read[field] = { text: a.data.assumed ? `${t.kit.assumed(bare)}. ${t.kit.read(as)}` : t.kit.read(as) }
    } else {
      read[field] = { wrong: a.problem?.errors?.[0]?.message ?? a.problem?.detail ?? '' }
    }
    if (now.what === 'object') await weigh()
  }

  const on = (set: Record<string, boolean>) => Object.keys(set).filter((k) => set[k])
  const filled = (...fields: string[]) =>
    Object.fromEntries(fields.filter((f) => typed[f]?.trim()).map((f) => [f, typed[f]]))

  function objectBody(): Schemas['ObjectInput'] {
    return {
      ...{ name: name.trim() || '?', use: use as Schemas['ObjectInput']['use'], count: count ?? 0, refill },
      ...(how ? { how: how as NonNullable<Schemas['ObjectInput']['how']> } : {}),
      ...(choices ? { what: String(what) } : {}),
      ...(how === 'volume' ? { in: String(inside) } : {}),
      ...filled(...(hasMass ? ['mass'] : []), ...(how === 'kind' ? [] : ['volume']), ...(refill ? ['empty'] : [])),
      traits: on(traits) as NonNullable<Schemas['ObjectInput']['traits']>,
    }
  }
  /** What the thing weighs as it is typed: the server works it out. */
  async function weigh(): Promise<void> {
    const amount = how === 'kind' ? 'one' : typed[how === 'volume' ? 'volume' : 'mass']
    if (!how || how === 'weighed' || !amount?.trim()) {
      about = undefined
      return
    }
    const path = { place: place.id }
    about = (await ask(api.POST('/api/places/{place}/weigh-object', { params: { path }, body: objectBody() }))).data
  }

  async function save(): Promise<void> {
    const path = { place: place.id, item: id }
    let a: Answer<Place>
    if (now.what === 'implement') {
      const body = {
        ...{ name: name.trim(), kind: kind as Schemas['ImplementInput']['kind'], count: count ?? 0 },
        checked: kind === 'table' && checked,
        ...filled(...(heavy ? ['mass'] : []), ...(stands ? ['height', 'rated'] : [])),
        ...(kind === 'table' && legs ? { legs: legs as NonNullable<Schemas['ImplementInput']['legs']> } : {}),
        ...(kind === 'table' ? filled('tableMass', 'centreIn', 'edgeOut') : {}),
        ...(kind === 'band' ? filled('stretch1', 'pull1', 'stretch2', 'pull2') : {}),
      }
      a = await ask(api.PUT('/api/places/{place}/implements/{item}', { params: { path }, body }))
    } else if (now.what === 'object') {
      const body = { ...objectBody(), name: name.trim() }
      a = await ask(api.PUT('/api/places/{place}/objects/{item}', { params: { path }, body }))
    } else {
      const body = {
        ...{ name: name.trim(), mass: typed.mass ?? '', max: typed.max ?? '', closed, straps },
        ...filled('volume'),
        wear: on(wear) as NonNullable<Schemas['ContainerInput']['wear']>,
      }
      a = await ask(api.PUT('/api/places/{place}/containers/{item}', { params: { path }, body }))
    }
    problem = a.problem
    if (a.data) onclose(a.data)
  }
  const wrong = (field: string) => {
    const text = read[field]?.wrong ?? fieldProblem(problem, field)
    return { invalid: text !== '', invalidText: text }
  }
  const heading = $derived(
    old
      ? t.kit.editWhat(old.name)
      : { implement: t.kit.addImplement, object: t.kit.addObject, container: t.kit.addContainer }[now.what],
  )
  const hints = $derived({
    mass: t.kit.hint[studio.unit],
    length: t.kit.lengthHint[studio.unit],
    volume: loads.item.litres,
  })
</script>

{#snippet quantity(field: string, label: string, sort: 'mass' | 'length' | 'volume')}
  <TextInput
    id={`item-${field}`}
    labelText={label}
    helperText={read[field]?.text ?? hints[sort]}
    bind:value={() => typed[field] ?? '', (v) => (typed[field] = String(v ?? ''))}
    on:blur={() => void look(field, sort)}
    {...wrong(field)}
  />
{/snippet}

<FormModal
  title={heading}
  focus="#item-name"
  {problem}
  beside={(problem?.errors?.length ?? 0) > 0}
  onsave={save}
  onclose={() => onclose()}
>
  <div class="row top">
    <TextInput id="item-name" labelText={t.kit.name} bind:value={name} {...wrong('name')} />
    {#if now.what === 'implement'}
      <Select id="item-kind" labelText={t.kit.kind} bind:selected={kind}>
        {#each Object.entries(kindName) as [value, text] (value)}<SelectItem {value} {text} />{/each}
      </Select>
    {:else if now.what === 'object'}
      <Select id="item-use" labelText={t.kit.use} bind:selected={use}>
        {#each Object.entries(useName) as [value, text] (value)}<SelectItem {value} {text} />{/each}
      </Select>
    {/if}
    {#if now.what !== 'container'}
      <NumberInput id="item-count" labelText={t.kit.count} min={1} max={500} bind:value={count} {...wrong('count')} />
    {/if}
  </div>
  {#if now.what === 'object'}
    <div class="row top gap">
      <Select id="item-how" labelText={loads.item.how} bind:selected={how}>
        {#each Object.entries(loads.how) as [value, text] (value)}<SelectItem {value} {text} />{/each}
      </Select>
      {#if choices}
        <Select
          id="item-what"
          labelText={how === 'net' ? loads.item.pack : how === 'volume' ? loads.item.substance : loads.item.thing}
          helperText={choices.find((c) => c.id === what)?.source}
          bind:selected={what}
        >
          {#each choices as c (c.id)}<SelectItem value={c.id} text={thing[c.id] ?? c.name} />{/each}
        </Select>
      {/if}
      {#if how === 'volume'}
        <Select id="item-in" labelText={loads.item.vessel} bind:selected={inside}>
          {#each table?.vessels ?? [] as v (v.id)}<SelectItem value={v.id} text={thing[v.id] ?? v.name} />{/each}
        </Select>
      {/if}
    </div>
  {/if}
  <div class="row top gap">
    {#if hasMass}
      {@render quantity(
        'mass',
        now.what === 'container'
          ? t.kit.own
          : now.what === 'object'
            ? how === 'net'
              ? loads.item.net
              : t.kit.gross
            : t.kit.mass,
        'mass',
      )}
    {/if}
    {#if now.what === 'container'}
      {@render quantity('max', t.kit.max, 'mass')}
      {@render quantity('volume', loads.item.volumeOf, 'volume')}
    {/if}
    {#if now.what === 'object' && how !== 'kind'}
      {@render quantity('volume', how === 'volume' ? loads.item.volume : loads.item.room, 'volume')}
    {/if}
    {#if stands}
      {@render quantity('height', t.kit.height, 'length')}
      {@render quantity('rated', loads.item.rated, 'mass')}
    {/if}
  </div>
  {#if now.what === 'object'}
    {#if about}<p id="item-about">
        {loads.item.about(
          massText(about.massG, studio.unit),
          massText(about.lowG, studio.unit),
          massText(about.highG, studio.unit),
        )}
      </p>{/if}
    {#if how === 'weighed'}
      <Weigh
        ontake={(text) => {
          typed.mass = text
          void look('mass', 'mass')
        }}
      />
    {/if}
    <Checkbox id="item-refill" labelText={loads.item.refill} bind:checked={refill} />
    {#if refill}<div class="row top">{@render quantity('empty', loads.item.empty, 'mass')}</div>{/if}
    <fieldset>
      <legend class="small">{loads.item.traits}</legend>
      {#each Object.entries(loads.item.trait) as [value, text] (value)}<Checkbox
          id={`item-trait-${value}`}
          labelText={text}
          bind:checked={() => traits[value] ?? false, (v) => (traits[value] = v)}
        />{/each}
    </fieldset>
  {/if}
  {#if now.what === 'container'}
    <Checkbox id="item-closed" labelText={loads.item.closed} bind:checked={closed} />
    <Checkbox id="item-straps" labelText={loads.item.straps} bind:checked={straps} />
    <fieldset>
      <legend class="small">{loads.item.wear}</legend>
      {#each Object.entries(loads.item.wears) as [value, text] (value)}<Checkbox
          id={`item-wear-${value}`}
          labelText={text}
          bind:checked={() => wear[value] ?? false, (v) => (wear[value] = v)}
        />{/each}
    </fieldset>
  {/if}
  {#if now.what === 'implement' && kind === 'table'}
    <div class="row top gap">
      <Select id="item-legs" labelText={loads.item.legs} bind:selected={legs}>
        <SelectItem value="" text={loads.item.unknownLegs} />
        {#each Object.entries(loads.item.leg) as [value, text] (value)}<SelectItem {value} {text} />{/each}
      </Select>
      {@render quantity('tableMass', loads.item.tableMass, 'mass')}
      {@render quantity('centreIn', loads.item.centreIn, 'length')}
      {@render quantity('edgeOut', loads.item.edgeOut, 'length')}
    </div>
    <Checkbox id="item-checked" labelText={t.kit.checked} bind:checked />
  {/if}
  {#if now.what === 'implement' && kind === 'band'}
    <p class="muted">{loads.item.pulls}</p>
    <div class="row top">
      {@render quantity('stretch1', loads.item.stretch1, 'length')}
      {@render quantity('pull1', loads.item.pull1, 'mass')}
    </div>
    <div class="row top gap">
      {@render quantity('stretch2', loads.item.stretch2, 'length')}
      {@render quantity('pull2', loads.item.pull2, 'mass')}
    </div>
  {/if}
</FormModal>

<style>
  .gap {
    margin-top: 16px;
  }
  fieldset {
    border: 0;
    padding: 0;
    margin: 12px 0 0;
    display: flex;
    flex-wrap: wrap;
    gap: 0 16px;
  }
  fieldset :global(.bx--form-item) {
    flex: 0 0 auto;
  }
</style>
