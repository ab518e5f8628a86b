<script lang="ts">
  // The studio's name and time zone, and all of it out of and into one file.
  import { Select, SelectItem, TextInput } from 'carbon-components-svelte'
  import { api, asItStands, ask, fieldProblem, missing, type Problem as ProblemType, type Schemas } from '../api/client'
  import { studio } from '../state/studio.svelte'
  import { common } from '../text/gen/common'
  import { studio as t } from '../text/gen/studio'
  import type { Language } from '../text/language'
  import { nameOf } from '../text/names'
  import FileIn from './FileIn.svelte'
  import FormModal from './FormModal.svelte'

  let { onclose }: { onclose: () => void } = $props()
  let name = $state(studio.value.name)
  let timeZone = $state(studio.value.timeZone)
  let language = $state(studio.value.language)
  let problem = $state<ProblemType>()

  async function save(): Promise<void> {
    problem = missing({ name: [name, common.give.name] })
    if (problem) return
    problem = await studio.put({ ...studio.value, name: name.trim(), timeZone: timeZone.trim(), language })
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
  // What a studio's file brings, as the server counts it.
  function brings(n: Schemas['Imported']): string {
    const parts = (Object.keys(t.counts) as (keyof typeof t.counts)[]).flatMap((k) =>
      n[k] > 0 ? [t.counts[k](n[k])] : [],
    )
    return t.brings(parts.length > 0 ? parts : [t.nothingNew], n.kept)
  }
  async function look(text: string, name: string) {
    const a = await send(text, true)
    return a.data ? { say: t.would(name, brings(a.data)) } : { problem: a.problem }
  }
  async function bring(text: string) {
    const a = await send(text, false)
    await studio.load()
    return a.data ? { say: t.did(brings(a.data)) } : { problem: a.problem }
  }
</script>

<FormModal
  title={t.title}
  focus="#studio-name"
  {problem}
  beside={['name', 'timeZone'].some((f) => fieldProblem(problem, f) !== '')}
  onsave={save}
  {onclose}
>
  <div class="row">
    <TextInput
      id="studio-name"
      labelText={t.name}
      bind:value={name}
      invalid={fieldProblem(problem, 'name') !== ''}
      invalidText={fieldProblem(problem, 'name')}
    />
    <TextInput
      id="studio-zone"
      labelText={t.zone}
      bind:value={timeZone}
      invalid={fieldProblem(problem, 'timeZone') !== ''}
      invalidText={fieldProblem(problem, 'timeZone')}
    />
    <Select
      id="studio-language"
      labelText={t.language}
      bind:selected={() => language, (v) => (language = v as Language)}
    >
      {#each Object.entries(nameOf.language) as [id, text] (id)}<SelectItem value={id} {text} />{/each}
    </Select>
  </div>
  <h3>{t.file}</h3>
  <p class="muted">{t.fileWhat}</p>
  <p>
    <a id="studio-export" href="/api/studio/export" download="studio.json">{t.out}</a> ·
    <a id="studio-export-health" href="/api/studio/export?health=true" download="studio.json">{t.outHealth}</a>
  </p>
  <FileIn id="studio" label={t.in} {look} {bring} />
</FormModal>

<style>
  h3 {
    margin: 16px 0 4px;
  }
</style>
