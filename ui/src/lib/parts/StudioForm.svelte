<script lang="ts">
  // The studio's name and time zone, and all of it out of and into one file.
  import { Button, TextInput } from 'carbon-components-svelte'
  import { api, ask, fieldProblem, type Problem as ProblemType, type Schemas } from '../api/client'
  import { studio } from '../state/studio.svelte'
  import { t } from '../text/catalogue'
  import FormModal from './FormModal.svelte'
  import Problem from './Problem.svelte'

  let { onclose }: { onclose: () => void } = $props()
  let name = $state(studio.value.name)
  let timeZone = $state(studio.value.timeZone)
  let problem = $state<ProblemType>()

  async function save(): Promise<void> {
    problem = await studio.put({ ...studio.value, name: name.trim(), timeZone: timeZone.trim() })
    if (!problem) onclose()
  }

  // A file is tried first: the server says what it would bring, and only then is
  // it brought in.
  let file = $state.raw<Schemas['StudioFile']>()
  let would = $state.raw<Schemas['Imported']>()
  let did = $state.raw<Schemas['Imported']>()
  let refused = $state<ProblemType>()
  let picked = $state('')

  async function choose(e: Event & { currentTarget: HTMLInputElement }): Promise<void> {
    would = did = refused = undefined
    const input = e.currentTarget
    const f = input.files?.[0]
    if (!f) return
    picked = f.name
    try {
      const text = await f.text()
      input.value = '' // so that the same file can be chosen again
      file = JSON.parse(text) as Schemas['StudioFile']
    } catch {
      refused = { status: 400, detail: t.studio.noJson }
      return
    }
    const a = await send(true)
    would = a.data
  }
  async function send(dry: boolean): Promise<{ data?: Schemas['Imported'] }> {
    const a = await ask(api.POST('/api/studio/import', { params: { query: { try: dry } }, body: file! }))
    refused = a.problem
    return a
  }
  async function bring(): Promise<void> {
    const a = await send(false)
    would = undefined
    did = a.data
    await studio.load()
  }
</script>

<FormModal
  title={t.studio.title}
  focus="#studio-name"
  {problem}
  beside={['name', 'timeZone'].some((f) => fieldProblem(problem, f) !== '')}
  onsave={save}
  {onclose}
>
  <div class="row">
    <TextInput
      id="studio-name"
      labelText={t.studio.name}
      bind:value={name}
      invalid={fieldProblem(problem, 'name') !== ''}
      invalidText={fieldProblem(problem, 'name')}
    />
    <TextInput
      id="studio-zone"
      labelText={t.studio.zone}
      bind:value={timeZone}
      invalid={fieldProblem(problem, 'timeZone') !== ''}
      invalidText={fieldProblem(problem, 'timeZone')}
    />
  </div>
  <h3>{t.studio.file}</h3>
  <p class="muted">{t.studio.fileWhat}</p>
  <p><a id="studio-export" href="/api/studio/export" download="studio.json">{t.studio.out}</a></p>
  <label class="file"
    >{t.studio.in} <input id="studio-file" type="file" accept="application/json,.json" onchange={choose} /></label
  >
  {#if picked}<p class="muted">{picked}</p>{/if}
  {#if refused}<Problem problem={refused} />{/if}
  <div role="status">
    {#if would}
      <p id="studio-would">{t.studio.would(picked, would)}</p>
      <Button size="small" kind="tertiary" id="studio-bring" on:click={() => void bring()}>{t.studio.bring}</Button>
    {:else if did}
      <p id="studio-did">{t.studio.did(did)}</p>
    {/if}
  </div>
</FormModal>

<style>
  h3 {
    margin: 16px 0 4px;
  }
  .file {
    display: block;
    margin: 8px 0;
  }
</style>
