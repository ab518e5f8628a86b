<script lang="ts">
  // People in and out as files: the server reads, says what it would do, asks who is meant by
  // a name that is known, and only that is brought in.
  import { Button } from 'carbon-components-svelte'
  import { api, ask, textOf, type Problem as ProblemType, type Schemas } from '../../lib/api/client'
  import Mistakes from '../../lib/parts/Mistakes.svelte'
  import Problem from '../../lib/parts/Problem.svelte'
  import { day } from '../../lib/text/dates'
  import { common } from '../../lib/text/gen/common'
  import { loads } from '../../lib/text/gen/loads'
  import { people as t } from '../../lib/text/gen/people'
  import { nameOf } from '../../lib/text/names'

  let { onbrought }: { onbrought: () => void } = $props()
  let text = ''
  let seen = $state.raw<Schemas['PeoplePreview']>()
  let problem = $state<ProblemType>()
  let brought = $state(false)
  // Who the rows are whose name is known, by their lines: an id, or nothing for somebody else.
  let who = $state.raw<Record<number, string>>({})
  const answers = () => Object.entries(who).map(([line, personId]) => ({ line: Number(line), personId }))

  async function look(): Promise<void> {
    const a = await ask(api.POST('/api/people-file/preview', { body: { text, who: answers() } }))
    problem = a.problem
    seen = a.data ?? seen
  }
  async function choose(e: Event & { currentTarget: HTMLInputElement }): Promise<void> {
    const input = e.currentTarget
    const file = input.files?.[0]
    brought = false
    seen = undefined
    who = {}
    if (!file) return
    const read = await textOf(file)
    input.value = '' // so that the same file can be chosen again
    if (read === null) {
      problem = { status: 400, detail: common.file.noText }
      return
    }
    text = read
    await look()
  }
  async function say(line: number, personId: string): Promise<void> {
    who = { ...who, [line]: personId }
    await look()
  }
  async function bring(): Promise<void> {
    const body = { text, who: answers(), hash: seen?.hash ?? '' }
    const a = await ask(api.POST('/api/people-file/import', { body }))
    problem = a.problem
    if (!a.data) return
    brought = true
    seen = undefined
    onbrought()
  }
</script>

<section>
  <h2>{t.file.out}</h2>
  <p class="buttons">
    <a href="/api/people-file?format=csv" download="people.csv" id="people-csv">{loads.files.csv}</a>
    <a href="/api/people-file?format=json" download="people.json" id="people-json">{loads.files.json}</a>
  </p>
  <p class="muted">{t.file.noHealth}</p>
  <h2>{t.file.into}</h2>
  <label
    >{t.file.choose}
    <input id="people-file" type="file" accept=".csv,.json,text/csv,application/json" onchange={choose} /></label
  >
  {#if problem}<Problem {problem} />{/if}
  <div role="status" id="people-seen">
    {#if brought}<p id="people-brought">{loads.files.brought}</p>{/if}
    {#if seen}
      {#if seen.faults.length > 0}
        <Mistakes faults={seen.faults} more={seen.more} columns />
      {:else}
        <p id="people-would">{loads.files.look(seen.new, seen.changed, seen.same)}</p>
        {#if seen.asked > 0}<p class="ember">{t.file.asked(seen.asked)}</p>{/if}
        {#if seen.asked === 0 && seen.new + seen.changed > 0}
          <Button size="small" id="people-bring" on:click={() => void bring()}>{loads.files.bring}</Button>
        {/if}
        <ul class="plain rows">
          {#each seen.rows.filter((r) => r.does !== 'same') as r (r.line)}
            <li>
              {t.file.row(r.line, r.name)}
              {#if r.does === 'asked'}
                <fieldset>
                  <legend>{t.file.who(r.name)}</legend>
                  {#each r.known as k (k.id)}
                    <button type="button" class="link" onclick={() => void say(r.line, k.id)}
                      >{t.file.theSame(k.groups, k.lastDate ? day(k.lastDate) : undefined)}</button
                    >
                  {/each}
                  <button type="button" class="link" onclick={() => void say(r.line, '')}>{t.file.another}</button>
                </fieldset>
              {:else}{nameOf.rowDoes[r.does]}{/if}
            </li>
          {/each}
        </ul>
      {/if}
    {/if}
  </div>
</section>

<style>
  .rows {
    margin: 10px 0;
    display: grid;
    gap: 4px;
  }
  fieldset {
    border: 0;
    border-left: 3px solid var(--ember);
    padding: 2px 10px;
    margin: 2px 0 6px;
    display: flex;
    flex-wrap: wrap;
    gap: 4px 14px;
  }
</style>
