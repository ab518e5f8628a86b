<script lang="ts">
  // The studio's name and time zone, and all of it out of and into one file.
  import { TextInput } from 'carbon-components-svelte'
  import { api, asItStands, ask, fieldProblem, type Problem as ProblemType, type Schemas } from '../api/client'
  import { studio } from '../state/studio.svelte'
  import { t } from '../text/catalogue'
  import FileIn from './FileIn.svelte'
  import FormModal from './FormModal.svelte'

  let { onclose }: { onclose: () => void } = $props()
  let name = $state(studio.value.name)
  let timeZone = $state(studio.value.timeZone)
  let problem = $state<ProblemType>()

  async function save(): Promise<void> {
    problem = await studio.put({ ...studio.value, name: name.trim(), timeZone: timeZone.trim() })
    if (!problem) onclose()
  }

  const send = (text: string, dry: boolean) =>
    ask(
      api.POST('/api/studio/import', {
        params: { query: { try: dry } },
        body: {} as Schemas['StudioFile'],
        ...asItStands(text),
      }),
    )
  async function look(text: string, name: string) {
    const a = await send(text, true)
    return a.data ? { say: t.studio.would(name, a.data) } : { problem: a.problem }
  }
  async function bring(text: string) {
    const a = await send(text, false)
    await studio.load()
    return a.data ? { say: t.studio.did(a.data) } : { problem: a.problem }
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
  <FileIn id="studio" label={t.studio.in} {look} {bring} />
</FormModal>

<style>
  h3 {
    margin: 16px 0 4px;
  }
</style>
