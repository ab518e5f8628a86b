<script lang="ts">
  // The luggage scale: what it shows, and taking it as a weight. Only a steady reading
  // is one; the server refuses any other.
  import { Button, Select, SelectItem, TextInput } from 'carbon-components-svelte'
  import { api, ask, type Problem as ProblemType, type Schemas } from '../../lib/api/client'
  import Problem from '../../lib/parts/Problem.svelte'
  import { studio } from '../../lib/state/studio.svelte'
  import { weight } from '../../lib/text/format'
  import { loads } from '../../lib/text/gen/loads'
  import { nameOf } from '../../lib/text/names'

  let { ontake }: { ontake: (text: string) => void } = $props()
  let scale = $state.raw<Schemas['ScaleReading']>()
  let problem = $state<ProblemType>()
  let hang = $state((() => (studio.unit === 'lb' ? '1 lb' : '455 g'))())
  let fault: string | number = $state('none')

  async function read(): Promise<void> {
    const a = await ask(api.GET('/api/scale'))
    if (a.data) scale = a.data
    else problem = a.problem
  }
  // Twice a second is as fast as anybody reads; the scale itself reads ten times.
  $effect(() => {
    void read()
    const every = setInterval(() => void read(), 500)
    return () => clearInterval(every)
  })
  async function put(): Promise<void> {
    const body = { hang, fault: fault as Schemas['StandIn']['fault'] }
    const a = await ask(api.PUT('/api/scale/stand-in', { body }))
    problem = a.problem
    if (a.data) scale = a.data
  }
  async function tare(): Promise<void> {
    const a = await ask(api.POST('/api/scale/tare'))
    problem = a.problem
    if (a.data) scale = a.data
  }
  async function take(): Promise<void> {
    const a = await ask(api.POST('/api/scale/take'))
    problem = a.problem
    if (a.data) ontake(a.data.text)
  }
  const shown = $derived.by(() => {
    if (!scale) return ''
    if (scale.state === 'overload') return loads.scale.overload
    if (scale.state === 'lost') return loads.scale.lost
    return weight(scale.grams, studio.unit)
  })
</script>

<fieldset>
  <legend class="small">{loads.scale.title}{scale ? `: ${scale.name}` : ''}</legend>
  <p class="shown">
    <output id="scale-shown">{shown}</output>
    {#if scale?.state === 'ok'}<span id="scale-steady" class:ember={!scale.stable}
        >{scale.stable ? loads.scale.steady : loads.scale.moving}</span
      >{/if}
  </p>
  {#if problem}<Problem {problem} />{/if}
  <div class="buttons">
    <Button size="small" kind="tertiary" id="scale-take" on:click={() => void take()}>{loads.scale.take}</Button>
    <Button size="small" kind="ghost" id="scale-tare" on:click={() => void tare()}>{loads.scale.tare}</Button>
  </div>
  {#if scale?.simulated}
    <details id="scale-gear">
      <summary>{loads.scale.gear}</summary>
      <div class="row">
        <TextInput id="scale-hang" labelText={loads.scale.standIn} bind:value={hang} />
        <Select id="scale-fault" labelText={loads.scale.fault} bind:selected={fault}>
          {#each Object.entries(nameOf.scaleFault) as [value, text] (value)}<SelectItem {value} {text} />{/each}
        </Select>
        <Button size="field" kind="tertiary" id="scale-put" on:click={() => void put()}>{loads.scale.hang}</Button>
      </div>
    </details>
  {/if}
</fieldset>

<style>
  fieldset {
    border: 1px solid var(--line);
    margin: 12px 0 0;
    padding: 8px 12px;
  }
  .shown {
    font-size: 20px;
    display: flex;
    gap: 12px;
    align-items: baseline;
    margin: 0 0 8px;
  }
  .shown span {
    font-size: 14px;
  }
  .row {
    margin-top: 10px;
  }
</style>
