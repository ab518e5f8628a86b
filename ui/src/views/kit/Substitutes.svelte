<script lang="ts">
  import { Button, Checkbox, Select, SelectItem, TextInput } from 'carbon-components-svelte'
  import {
    api,
    ask,
    invalid,
    lanes,
    type Entry,
    type Lane,
    type Place,
    type Problem as ProblemType,
    type Schemas,
  } from '../../lib/api/client'
  import NumberBox from '../../lib/parts/NumberBox.svelte'
  import MovePick from '../../lib/parts/MovePick.svelte'
  import Problem from '../../lib/parts/Problem.svelte'
  import Why from '../../lib/parts/Why.svelte'
  import { itemsOf } from '../../lib/state/items'
  import { studio } from '../../lib/state/studio.svelte'
  import { mass } from '../../lib/text/format'
  import { circuit as circuitTexts } from '../../lib/text/gen/circuit'
  import { kit as t } from '../../lib/text/gen/kit'
  import { loads } from '../../lib/text/gen/loads'
  import { lookup, nameOf } from '../../lib/text/names'

  let { place }: { place: Place } = $props()
  let missing: string | number = $state('')
  const weights = $derived(place.implements.filter((i) => i.mass))
  let move = $state('goblet-squat')
  let hold = $state<Entry['hold']>('goblet')
  let load = $state('')
  let lane: string | number = $state('middle')
  let body = $state('')
  let reps: number | null = $state(10)
  let reserve: number | null = $state(2)
  let first = $state(false)
  let found = $state.raw<Schemas['SubstituteAnswer']>()
  let problem = $state<ProblemType>()
  const items = $derived(itemsOf(place))
  const names = $derived(studio.names(items))

  async function find(): Promise<void> {
    const input = {
      ...(missing ? { missing: String(missing) } : {}),
      move,
      hold,
      load,
      body,
      lane: lane as Lane,
      reps: reps ?? 0,
      reserve: reserve ?? 0,
      first,
    }
    const a = await ask(
      api.POST('/api/places/{place}/substitutes', { params: { path: { place: place.id } }, body: input }),
    )
    problem = a.problem
    found = a.data
  }
  const wrong = (field: string) => invalid(problem, field)
  const how = (o: Schemas['SubstituteOption']) =>
    [nameOf.way[o.way], ...o.repairs.map((r) => nameOf.repair[r])].join('; ')
</script>

<form
  class="row narrow top"
  onsubmit={(e) => {
    e.preventDefault()
    void find()
  }}
>
  <Select
    id="instead-missing"
    labelText={loads.instead.missing}
    helperText={loads.instead.missingHint}
    bind:selected={missing}
  >
    <SelectItem value="" text={loads.instead.nothingMissing} />
    {#each weights as i (i.id)}<SelectItem
        value={i.id}
        text={studio.itemName(items.find((x) => x.id === i.id))}
      />{/each}
  </Select>
  <MovePick id="instead" bind:move bind:hold />
  <TextInput
    id="instead-load"
    labelText={loads.instead.load}
    helperText={loads.instead.loadHint}
    bind:value={load}
    {...wrong('load')}
  />
  <Select id="instead-lane" labelText={loads.instead.lane} bind:selected={lane}>
    {#each lanes as l (l)}<SelectItem value={l} text={nameOf.lane[l]} />{/each}
  </Select>
  <TextInput
    id="instead-body"
    labelText={loads.body}
    helperText={loads.bodyHint(studio.unit, 70_000)}
    bind:value={body}
    {...wrong('body')}
  />
  <NumberBox id="instead-reps" labelText={loads.instead.reps} min={1} max={30} bind:value={reps} {...wrong('reps')} />
  <NumberBox
    id="instead-reserve"
    labelText={loads.instead.reserve}
    min={0}
    max={5}
    bind:value={reserve}
    {...wrong('reserve')}
  />
  <Checkbox id="instead-first" labelText={loads.instead.first} bind:checked={first} />
  <Button type="submit" id="instead-go" size="field">{loads.instead.go}</Button>
</form>
{#if problem && !problem.errors}<Problem {problem} />{/if}
<div role="status" id="instead-found">
  {#if found}
    <p>{loads.instead.wanted(studio.unit, found.loadG, found.wantedG)}</p>
    {#each found.limits as l (l.what)}<p class="ember">{l.say}</p>{/each}
    {#if found.options.length === 0}<p>{loads.instead.none}</p>{/if}
  {/if}
</div>
{#if found && found.options.length > 0}
  <table class="sheet stack" id="instead-options" aria-label={loads.tabs.instead}>
    <thead>
      <tr
        ><th scope="col">{loads.instead.option}</th><th scope="col">{loads.instead.how}</th><th scope="col"
          >{loads.instead.reached}</th
        ><th scope="col">{loads.instead.changes}</th><th scope="col">{loads.instead.before}</th></tr
      >
    </thead>
    <tbody>
      {#each found.options as o (o.move + o.way)}
        <tr>
          <th scope="row" class="full"
            >{studio.move(o.move)}{o.hold === 'none' ? '' : `, ${nameOf.hold[o.hold]}`}<br /><span class="plain"
              >{o.loadG > 0 ? `${mass(o.loadG, studio.unit)}: ` : ''}{studio.packing(o.load, items)}</span
            ></th
          >
          <td data-label={loads.instead.how}>{how(o)}<br /><b>{loads.instead.set(o.reps, o.tempo)}</b></td>
          <td data-label={loads.instead.reached} class="figures"
            >{#if o.compared}{loads.instead.inResistance(o.resistancePct)}<br />{loads.instead.inIron(o.ironPct)}<br
              /><span class="muted">{loads.instead.left(o.leftPct)}</span>{:else}{circuitTexts.uncompared}{/if}
            <Why why={o.why} {names} label={studio.move(o.move)} /></td
          >
          <td data-label={loads.instead.changes}
            >{#if o.lost.length > 0}{loads.instead.lost(o.lost)}<br
              />{/if}{#if o.gained.length > 0}{loads.instead.gained(o.gained)}{/if}</td
          >
          <td data-label={loads.instead.before}>{o.check.map((c) => lookup(nameOf.checkShort, c)).join('; ') || '–'}</td
          >
        </tr>
      {/each}
    </tbody>
  </table>
  <p class="muted">{loads.instead.caution} {t.caution}</p>
{/if}

<style>
  form {
    margin: 16px 0;
  }
  .plain {
    font-weight: 400;
  }
  @media (min-width: 900px) {
    .figures {
      white-space: nowrap;
    }
    .figures :global(details) {
      white-space: normal;
    }
  }
</style>
