<script lang="ts">
  import { Button, TextInput } from 'carbon-components-svelte'
  import {
    api,
    ask,
    invalid,
    type Entry,
    type Place,
    type Problem as ProblemType,
    type Schemas,
  } from '../../lib/api/client'
  import Steps from '../../lib/draw/Steps.svelte'
  import NumberBox from '../../lib/parts/NumberBox.svelte'
  import MovePick from '../../lib/parts/MovePick.svelte'
  import Problem from '../../lib/parts/Problem.svelte'
  import Why from '../../lib/parts/Why.svelte'
  import { itemsOf } from '../../lib/state/items'
  import { studio } from '../../lib/state/studio.svelte'
  import { mass } from '../../lib/text/format'
  import { loads } from '../../lib/text/gen/loads'

  let { place }: { place: Place } = $props()
  let move = $state('goblet-squat')
  let hold = $state<Entry['hold']>('goblet')
  let body = $state('')
  let from = $state((() => (studio.unit === 'lb' ? '18 lb' : '8 kg'))())
  let to = $state((() => (studio.unit === 'lb' ? '26 lb' : '12 kg'))())
  let low: number | null = $state(8)
  let high: number | null = $state(12)
  let last: number | null = $state(10)
  let sets: number | null = $state(3)
  let over: number | null = $state(0)
  let reserve: number | null = $state(2)
  let bridge = $state.raw<Schemas['BridgeAnswer']>()
  let problem = $state<ProblemType>()
  const items = $derived(itemsOf(place))

  // It begins with a jump that this place can make, unless somebody is quicker.
  const untouched = (() => [move, hold, from, to].join())()
  void ask(api.GET('/api/places/{place}/bridge', { params: { path: { place: (() => place.id)() } } })).then((a) => {
    const first = a.data?.[0]
    if (!first || [move, hold, from, to].join() !== untouched) return
    move = first.move
    hold = first.hold
    from = mass(first.fromG, studio.unit)
    to = mass(first.toG, studio.unit)
  })

  async function plan(): Promise<void> {
    const input = {
      ...{ move, hold, body, from, to },
      ...{
        repsLow: low ?? 0,
        repsHigh: high ?? 0,
        lastReps: last ?? 0,
        sets: sets ?? 0,
        sessionsOver: over ?? 0,
        reserve: reserve ?? 0,
      },
    }
    const a = await ask(api.POST('/api/places/{place}/bridge', { params: { path: { place: place.id } }, body: input }))
    problem = a.problem
    bridge = a.data
  }
  const wrong = (field: string) => invalid(problem, field)
  const verdict = $derived(
    !bridge
      ? ''
      : bridge.why.code === 'bridge-now'
        ? loads.bridge.now
        : bridge.why.code === 'bridge-ready'
          ? loads.bridge.ready
          : bridge.reached
            ? loads.bridge.needed
            : loads.bridge.not,
  )
</script>

<form
  class="row narrow top"
  onsubmit={(e) => {
    e.preventDefault()
    void plan()
  }}
>
  <MovePick id="bridge" bind:move bind:hold />
  <TextInput
    id="bridge-body"
    labelText={loads.body}
    helperText={loads.bodyHint(studio.unit, 70_000)}
    bind:value={body}
    {...wrong('body')}
  />
  <TextInput id="bridge-from" labelText={loads.bridge.from} bind:value={from} {...wrong('from')} />
  <TextInput id="bridge-to" labelText={loads.bridge.to} bind:value={to} {...wrong('to')} />
  <NumberBox id="bridge-low" labelText={loads.bridge.low} min={1} max={100} bind:value={low} {...wrong('repsLow')} />
  <NumberBox
    id="bridge-high"
    labelText={loads.bridge.high}
    min={1}
    max={100}
    bind:value={high}
    {...wrong('repsHigh')}
  />
  <NumberBox
    id="bridge-last"
    labelText={loads.bridge.last}
    min={0}
    max={100}
    bind:value={last}
    {...wrong('lastReps')}
  />
  <NumberBox
    id="bridge-sets"
    labelText={loads.bridge.setsLabel}
    min={1}
    max={20}
    bind:value={sets}
    {...wrong('sets')}
  />
  <NumberBox
    id="bridge-over"
    labelText={loads.bridge.over}
    min={0}
    max={100}
    bind:value={over}
    {...wrong('sessionsOver')}
  />
  <NumberBox
    id="bridge-reserve"
    labelText={loads.instead.reserve}
    min={0}
    max={20}
    bind:value={reserve}
    {...wrong('reserve')}
  />
  <Button type="submit" id="bridge-go" size="field">{loads.bridge.go}</Button>
</form>
{#if problem && !problem.errors}<Problem {problem} />{/if}
<div role="status" id="bridged">
  {#if bridge}
    <p>
      <b class:ember={!bridge.reached}>{verdict}</b>
      {loads.bridge.rise(bridge.ironPct, bridge.resistancePct)}
      <Why why={bridge.why} names={studio.names(items)} label={verdict} />
    </p>
    {#if bridge.between}
      <p id="bridge-between">
        {loads.bridge.get(studio.unit, bridge.between.fromG, bridge.between.toG)}
      </p>
    {/if}
    <p class="muted">{loads.bridge.atNext(studio.unit, bridge.atNext, bridge.toG)}</p>
    <Steps {bridge} {items} {move} />
    <p class="muted">{loads.instead.caution}</p>
  {/if}
</div>

<style>
  form {
    margin: 16px 0;
  }
</style>
