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
  import { asTyped, length, mass as massText } from '../../lib/text/format'

  let { place, edited, onclose }: { place: Place; edited: Edited; onclose: (next?: Place) => void } = $props()
  const now = (() => edited)()
  const old = now.implement ?? now.object ?? now.container
  const id = old?.id ?? newId()
  let name = $state(old?.name ?? '')
  let kind: string | number = $state(now.implement?.kind ?? 'kettlebell')
  let use: string | number = $state(now.object?.use ?? 'pack')
  let mass = $state(asTyped(old?.mass))
  let max = $state(asTyped(now.container?.max))
  let height = $state(asTyped(now.implement?.height))
  let count: number | null = $state(now.implement?.count ?? now.object?.count ?? 1)
  let checked = $state(now.implement?.checked ?? false)
  let problem = $state<ProblemType>()
  /** What the server read of each field, or what is wrong with it. */
  let read = $state<Record<string, { text?: string; wrong?: string }>>({})

  const hasMass = $derived(
    now.what !== 'implement' || ['kettlebell', 'dumbbell', 'dumbbell-pair'].includes(String(kind)),
  )
  const hasHeight = $derived(now.what === 'implement' && ['bench', 'box', 'table'].includes(String(kind)))

  // The one parser is the server's: it is asked when a field is left.
  async function look(field: string, text: string, quantity: 'mass' | 'length'): Promise<void> {
    const bare = quantity === 'mass' ? place.massUnit : place.massUnit === 'lb' ? 'in' : 'cm'
    const a = await ask(api.POST('/api/read-quantity', { body: { text, unit: bare, kind: quantity } }))
    const show = quantity === 'mass' ? massText : length
    if (a.data) {
      const as = show(a.data.whole, studio.unit)
      read[field] = { text: a.data.assumed ? `${t.kit.assumed(bare)}. ${t.kit.read(as)}` : t.kit.read(as) }
    } else {
      read[field] = { wrong: a.problem?.errors?.[0]?.message ?? a.problem?.detail ?? '' }
    }
  }

  async function save(): Promise<void> {
    const path = { place: place.id, item: id }
    let a: Answer<Place>
    if (now.what === 'implement') {
      const body = {
        name: name.trim(),
        kind: kind as Schemas['ImplementInput']['kind'],
        count: count ?? 0,
        checked: kind === 'table' && checked,
        ...(hasMass ? { mass } : {}),
        ...(hasHeight ? { height } : {}),
      }
      a = await ask(api.PUT('/api/places/{place}/implements/{item}', { params: { path }, body }))
    } else if (now.what === 'object') {
      const body = { name: name.trim(), use: use as Schemas['ObjectInput']['use'], mass, count: count ?? 0 }
      a = await ask(api.PUT('/api/places/{place}/objects/{item}', { params: { path }, body }))
    } else {
      a = await ask(
        api.PUT('/api/places/{place}/containers/{item}', { params: { path }, body: { name: name.trim(), mass, max } }),
      )
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
</script>

<FormModal
  title={heading}
  focus="#item-name"
  {problem}
  beside={(problem?.errors?.length ?? 0) > 0}
  onsave={save}
  onclose={() => onclose()}
>
  <div class="row">
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
  </div>
  <div class="row gap">
    {#if hasMass}
      <TextInput
        id="item-mass"
        labelText={now.what === 'container' ? t.kit.own : now.what === 'object' ? t.kit.gross : t.kit.mass}
        helperText={read.mass?.text ?? t.kit.hint[studio.unit]}
        bind:value={mass}
        on:blur={() => void look('mass', mass, 'mass')}
        {...wrong('mass')}
      />
    {/if}
    {#if now.what === 'container'}
      <TextInput
        id="item-max"
        labelText={t.kit.max}
        helperText={read.max?.text ?? t.kit.hint[studio.unit]}
        bind:value={max}
        on:blur={() => void look('max', max, 'mass')}
        {...wrong('max')}
      />
    {/if}
    {#if hasHeight}
      <TextInput
        id="item-height"
        labelText={t.kit.height}
        helperText={read.height?.text ?? t.kit.lengthHint[studio.unit]}
        bind:value={height}
        on:blur={() => void look('height', height, 'length')}
        {...wrong('height')}
      />
    {/if}
    {#if now.what !== 'container'}
      <NumberInput id="item-count" labelText={t.kit.count} min={1} max={500} bind:value={count} {...wrong('count')} />
    {/if}
  </div>
  {#if kind === 'table' && now.what === 'implement'}<Checkbox
      id="item-checked"
      labelText={t.kit.checked}
      bind:checked
    />{/if}
</FormModal>

<style>
  .gap {
    margin-top: 16px;
  }
</style>
