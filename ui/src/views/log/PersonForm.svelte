<script lang="ts">
  import { Select, SelectItem, TextInput } from 'carbon-components-svelte'
  import {
    api,
    ask,
    fieldProblem,
    lanes,
    newId,
    type Log,
    type LogSheet,
    type Problem as ProblemType,
  } from '../../lib/api/client'
  import FormModal from '../../lib/parts/FormModal.svelte'
  import { log as t } from '../../lib/text/gen/log'
  import { nameOf } from '../../lib/text/names'

  interface Props {
    occurrence: string
    /** Somebody who is in the class; nobody to add one. */
    sheet?: LogSheet | undefined
    onclose: (log?: Log, participant?: string) => void
  }
  let { occurrence, sheet, onclose }: Props = $props()
  const given = (() => sheet)()
  const participant = given?.subject ?? newId()
  let name = $state(given?.name ?? '')
  let lane: string | number = $state(given?.lane ?? 'middle')
  let problem = $state<ProblemType>()

  async function save(): Promise<void> {
    const body = { ...(name.trim() ? { name: name.trim() } : {}), lane: lanes.find((l) => l === lane) ?? 'middle' }
    const path = { occurrence, participant }
    const a = await ask(api.PUT('/api/occurrences/{occurrence}/participants/{participant}', { params: { path }, body }))
    problem = a.problem
    if (a.data) onclose(a.data, participant)
  }
</script>

<FormModal
  title={given ? t.editPerson : t.addPerson}
  of={given?.subject ?? ''}
  focus="#person-name"
  {problem}
  beside={fieldProblem(problem, 'name') !== ''}
  onsave={save}
  onclose={() => onclose()}
>
  <div class="row">
    <TextInput
      id="person-name"
      labelText={t.personName}
      helperText={t.personNameHelp}
      bind:value={name}
      invalid={fieldProblem(problem, 'name') !== ''}
      invalidText={fieldProblem(problem, 'name')}
    />
    <Select id="person-lane" labelText={t.personLane} bind:selected={lane}>
      {#each lanes as l (l)}<SelectItem value={l} text={nameOf.lane[l]} />{/each}
    </Select>
  </div>
</FormModal>
