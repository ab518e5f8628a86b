<script lang="ts">
  import { Checkbox } from 'carbon-components-svelte'
  import { api, ask, missing, newId, type Place, type Schemas } from '../../lib/api/client'
  import { asTyped } from '../../lib/text/format'
  import { common } from '../../lib/text/gen/common'
  import { kit as t } from '../../lib/text/gen/kit'
  import { loads } from '../../lib/text/gen/loads'
  import { nameOf } from '../../lib/text/names'
  import Quantity from './Quantity.svelte'
  import ThingModal from './ThingModal.svelte'
  import Ticks from './Ticks.svelte'
  import { on, Typed } from './typed.svelte'

  interface Props {
    place: Place
    thing?: Schemas['Container'] | undefined
    onclose: (next?: Place) => void
  }
  let { place, thing, onclose }: Props = $props()
  const old = (() => thing)()
  const d = old?.details
  const id = old?.id ?? newId()
  const typed = new Typed((() => place)(), {
    mass: asTyped(old?.mass),
    max: asTyped(old?.max),
    volume: asTyped(d?.volume),
  })
  let name = $state(old?.name ?? '')
  let closed = $state(d?.closed ?? false)
  let straps = $state(d?.straps ?? false)
  const wear = $state<Record<string, boolean>>(Object.fromEntries((d?.wear ?? []).map((x) => [x, true])))

  async function save(): Promise<void> {
    typed.problem = missing({
      name: [name, common.give.name],
      mass: [typed.text.mass, common.give.mass],
      max: [typed.text.max, common.give.max],
    })
    if (typed.problem) return
    const body = {
      ...{ name: name.trim(), mass: typed.text.mass ?? '', max: typed.text.max ?? '', closed, straps },
      ...typed.filled('volume'),
      wear: on(wear) as NonNullable<Schemas['ContainerInput']['wear']>,
    }
    const path = { place: place.id, item: id }
    const a = await ask(api.PUT('/api/places/{place}/containers/{item}', { params: { path }, body }))
    typed.problem = a.problem
    if (a.data) onclose(a.data)
  }
</script>

<ThingModal
  of={old?.id}
  title={old ? t.editWhat(old.name) : t.addContainer}
  {typed}
  bind:name
  onsave={save}
  onclose={() => onclose()}
>
  <div class="row top">
    <Quantity {typed} field="mass" label={t.own} sort="mass" />
    <Quantity {typed} field="max" label={t.max} sort="mass" />
    <Quantity {typed} field="volume" label={loads.item.volumeOf} sort="volume" />
  </div>
  <Checkbox id="item-closed" labelText={loads.item.closed} bind:checked={closed} />
  <Checkbox id="item-straps" labelText={loads.item.straps} bind:checked={straps} />
  <Ticks id="item-wear" legend={loads.item.wear} names={nameOf.wear} set={wear} />
</ThingModal>
