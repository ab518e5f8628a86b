<script lang="ts">
  import { Checkbox, Select, SelectItem } from 'carbon-components-svelte'
  import { api, ask, missing, newId, type Place, type Schemas } from '../../lib/api/client'
  import { asTyped } from '../../lib/text/format'
  import { common } from '../../lib/text/gen/common'
  import { kit as t } from '../../lib/text/gen/kit'
  import { loads } from '../../lib/text/gen/loads'
  import { nameOf } from '../../lib/text/names'
  import Quantity from './Quantity.svelte'
  import ThingModal from './ThingModal.svelte'
  import { on, Typed } from './typed.svelte'

  interface Props {
    place: Place
    thing?: Schemas['Implement'] | undefined
    onclose: (next?: Place) => void
  }
  let { place, thing, onclose }: Props = $props()
  const old = (() => thing)()
  const d = old?.details
  const id = old?.id ?? newId()
  const typed = new Typed((() => place)(), {
    mass: asTyped(old?.mass),
    height: asTyped(old?.height),
    rated: asTyped(d?.rated),
    highest: asTyped(d?.highest),
    tableMass: asTyped(d?.tableMass),
    centreIn: asTyped(d?.centreIn),
    edgeOut: asTyped(d?.edgeOut),
    stretch1: asTyped(d?.pulls?.[0]?.stretch),
    pull1: asTyped(d?.pulls?.[0]?.pull),
    stretch2: asTyped(d?.pulls?.[1]?.stretch),
    pull2: asTyped(d?.pulls?.[1]?.pull),
  })
  let name = $state(old?.name ?? '')
  let kind: string | number = $state(old?.kind ?? 'kettlebell')
  let count: number | null = $state(old?.count ?? 1)
  let checked = $state(old?.checked ?? false)
  let legs: string | number = $state(d?.legs ?? '')
  let points: Record<string, boolean> = $state(
    Object.fromEntries(
      Object.keys(nameOf.doorPoint).map((p) => [p, (d?.points as string[] | undefined)?.includes(p) ?? false]),
    ),
  )
  const is = (...kinds: string[]): boolean => kinds.includes(String(kind))
  const heavy = $derived(is('kettlebell', 'dumbbell', 'dumbbell-pair', 'barbell', 'plate'))
  const high = $derived(is('bench', 'box', 'table', 'plate', 'wedge'))
  const carries = $derived(is('bench', 'box', 'table', 'foot-hold'))
  const looked = $derived(is('table', 'foot-hold'))

  async function save(): Promise<void> {
    typed.problem = missing({
      name: [name, common.give.name],
      ...(heavy ? { mass: [typed.text.mass, common.give.mass] } : {}),
    })
    if (typed.problem) return
    const path = { place: place.id, item: id }
    const body = {
      ...{ name: name.trim(), kind: kind as Schemas['ImplementInput']['kind'], count: count ?? 0 },
      checked: looked && checked,
      ...typed.filled(
        ...(heavy ? ['mass'] : []),
        ...(high ? ['height'] : []),
        ...(kind === 'bench' ? ['highest'] : []),
        ...(carries ? ['rated'] : []),
      ),
      ...(kind === 'door' ? { points: on(points) as NonNullable<Schemas['ImplementInput']['points']> } : {}),
      ...(kind === 'table' && legs ? { legs: legs as NonNullable<Schemas['ImplementInput']['legs']> } : {}),
      ...(kind === 'table' ? typed.filled('tableMass', 'centreIn', 'edgeOut') : {}),
      ...(kind === 'band' ? typed.filled('stretch1', 'pull1', 'stretch2', 'pull2') : {}),
    }
    const a = await ask(api.PUT('/api/places/{place}/implements/{item}', { params: { path }, body }))
    typed.problem = a.problem
    if (a.data) onclose(a.data)
  }
</script>

<ThingModal
  of={old?.id}
  title={old ? t.editWhat(old.name) : t.addImplement}
  {typed}
  bind:name
  bind:count
  maybe={is('wall', 'post', 'mat')}
  onsave={save}
  onclose={() => onclose()}
>
  {#snippet sort()}
    <Select id="item-kind" labelText={t.kind} bind:selected={kind}>
      {#each Object.entries(nameOf.implementKind) as [value, text] (value)}<SelectItem {value} {text} />{/each}
    </Select>
  {/snippet}
  {#if heavy || high || carries}
    <div class="row top">
      {#if heavy}<Quantity {typed} field="mass" label={t.mass} sort="mass" />{/if}
      {#if high}
        <Quantity {typed} field="height" label={kind === 'bench' ? t.lowest : t.height} sort="length" />
      {/if}
      {#if kind === 'bench'}<Quantity {typed} field="highest" label={t.highest} sort="length" />{/if}
      {#if carries}<Quantity {typed} field="rated" label={loads.item.rated} sort="mass" />{/if}
    </div>
  {/if}
  {#if kind === 'door'}
    <fieldset class="row top" id="item-points">
      <legend>{t.points}</legend>
      {#each Object.entries(nameOf.doorPoint) as [value, text] (value)}
        <Checkbox id={`point-${value}`} labelText={text} bind:checked={points[value]} />
      {/each}
    </fieldset>
    {#if typed.wrong('points').invalid}<p class="ember">{typed.wrong('points').invalidText}</p>{/if}
  {/if}
  {#if kind === 'foot-hold'}<Checkbox id="item-checked" labelText={t.holdsFeet} bind:checked />{/if}
  {#if kind === 'table'}
    <div class="row top">
      <Select id="item-legs" labelText={loads.item.legs} bind:selected={legs}>
        <SelectItem value="" text={loads.item.unknownLegs} />
        {#each Object.entries(nameOf.legs) as [value, text] (value)}<SelectItem {value} {text} />{/each}
      </Select>
      <Quantity {typed} field="tableMass" label={loads.item.tableMass} sort="mass" />
      <Quantity {typed} field="centreIn" label={loads.item.centreIn} sort="length" />
      <Quantity {typed} field="edgeOut" label={loads.item.edgeOut} sort="length" />
    </div>
    <Checkbox id="item-checked" labelText={t.checked} bind:checked />
  {/if}
  {#if kind === 'band'}
    <p class="muted">{loads.item.pulls}</p>
    <div class="row top">
      <Quantity {typed} field="stretch1" label={loads.item.stretch1} sort="length" />
      <Quantity {typed} field="pull1" label={loads.item.pull1} sort="mass" />
    </div>
    <div class="row top">
      <Quantity {typed} field="stretch2" label={loads.item.stretch2} sort="length" />
      <Quantity {typed} field="pull2" label={loads.item.pull2} sort="mass" />
    </div>
  {/if}
</ThingModal>
