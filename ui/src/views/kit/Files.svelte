<script lang="ts">
  // Places in and out as files: the server reads, says what it would do, and only that
  // is brought in.
  import { api, ask, textOf, type Problem as ProblemType, type Schemas } from '../../lib/api/client'
  import Problem from '../../lib/parts/Problem.svelte'
  import { common } from '../../lib/text/gen/common'
  import { loads } from '../../lib/text/gen/loads'
  import Preview from './Preview.svelte'

  let { onbrought }: { onbrought: () => void } = $props()
  let text = ''
  let seen = $state.raw<Schemas['PlacesPreview']>()
  let problem = $state<ProblemType>()
  let brought = $state(false)

  async function choose(e: Event & { currentTarget: HTMLInputElement }): Promise<void> {
    const input = e.currentTarget
    const file = input.files?.[0]
    brought = false
    seen = undefined
    if (!file) return
    const read = await textOf(file)
    input.value = '' // so that the same file can be chosen again
    if (read === null) {
      problem = { status: 400, detail: common.file.noText }
      return
    }
    text = read
    const a = await ask(api.POST('/api/places-file/preview', { body: { text } }))
    problem = a.problem
    seen = a.data
  }
  async function bring(): Promise<void> {
    const a = await ask(api.POST('/api/places-file/import', { body: { text, hash: seen?.hash ?? '' } }))
    problem = a.problem
    if (!a.data) return
    brought = true
    seen = undefined
    onbrought()
  }
</script>

<section>
  <h2>{loads.files.out}</h2>
  <p class="buttons">
    <a href="/api/places-file?format=csv" download="places.csv" id="places-csv">{loads.files.csv}</a>
    <a href="/api/places-file?format=json" download="places.json" id="places-json">{loads.files.json}</a>
  </p>
  <h2>{loads.files.into}</h2>
  <label
    >{loads.files.choose}
    <input id="places-file" type="file" accept=".csv,.json,text/csv,application/json" onchange={choose} /></label
  >
  {#if problem}<Problem {problem} />{/if}
  <div role="status" id="places-seen">
    {#if brought}<p id="places-brought">{loads.files.brought}</p>{/if}
    {#if seen}<Preview {seen} columns onbring={bring} />{/if}
  </div>
</section>
