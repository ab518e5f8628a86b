<script lang="ts">
  // Places in and out as files: the server reads, says what it would do, and only that
  // is brought in.
  import { Button } from 'carbon-components-svelte'
  import { api, ask, textOf, type Problem as ProblemType, type Schemas } from '../../lib/api/client'
  import Problem from '../../lib/parts/Problem.svelte'
  import { studio } from '../../lib/state/studio.svelte'
  import { mass } from '../../lib/text/format'
  import { common } from '../../lib/text/gen/common'
  import { loads } from '../../lib/text/gen/loads'
  import { lookup, nameOf } from '../../lib/text/names'

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
    {#if seen}
      {#if seen.faults.length > 0}
        <p class="ember">{loads.files.wrong(seen.faults.length + seen.more, seen.more, seen.faults.length)}</p>
        <table class="sheet stack" aria-label={loads.files.what}>
          <thead>
            <tr
              ><th scope="col">{loads.files.line}</th><th scope="col">{loads.files.column}</th><th scope="col"
                >{loads.files.what}</th
              ><th scope="col">{loads.files.got}</th></tr
            >
          </thead>
          <tbody>
            {#each seen.faults as f, i (i)}
              <tr
                ><td data-label={loads.files.line}>{f.line || '–'}</td><td data-label={loads.files.column}
                  >{f.column || '–'} {f.field ?? ''}</td
                ><td data-label={loads.files.what}>{f.message}</td><td data-label={loads.files.got}>{f.value ?? ''}</td
                ></tr
              >
            {/each}
          </tbody>
        </table>
      {:else}
        <p id="places-would">{loads.files.look(seen.new, seen.changed, seen.same)}</p>
        {#if seen.new + seen.changed > 0}
          <Button size="small" id="places-bring" on:click={() => void bring()}>{loads.files.bring}</Button>
        {/if}
        <table class="sheet stack" aria-label={loads.files.into}>
          <thead>
            <tr
              ><th scope="col">{loads.files.line}</th><th scope="col">{loads.files.place}</th><th scope="col"
                >{loads.files.thing}</th
              ><th scope="col"></th></tr
            >
          </thead>
          <tbody>
            {#each seen.rows.filter((r) => r.does !== 'same') as r (r.line)}
              <tr
                ><td data-label={loads.files.line}>{r.line}</td><td data-label={loads.files.place}>{r.place}</td><td
                  data-label={loads.files.thing}
                  >{r.count} × {r.name}{r.massG > 0 ? `, ${mass(r.massG, studio.unit)}` : ''} ({lookup(
                    nameOf.rowKind,
                    r.item,
                  )})</td
                ><td>{nameOf.rowDoes[r.does]}</td></tr
              >
            {/each}
          </tbody>
        </table>
      {/if}
    {/if}
  </div>
</section>
