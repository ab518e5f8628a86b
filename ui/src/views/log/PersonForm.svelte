<script lang="ts">
  import { Modal, Select, SelectItem, TextInput } from 'carbon-components-svelte'
  import { api, ask, fieldProblem, lanes, newId, type Log, type Problem as ProblemType } from '../../lib/api/client'
  import { returnFocus } from '../../lib/parts/opener'
  import Problem from '../../lib/parts/Problem.svelte'
  import { lane as laneName, t } from '../../lib/text/catalogue'

  let { occurrence, onclose }: { occurrence: string; onclose: (log?: Log, participant?: string) => void } = $props()
  returnFocus()
  const participant = newId()
  let name = $state('')
  let lane: string | number = $state('middle')
  let problem = $state<ProblemType>()

  async function save(): Promise<void> {
    const body = { name: name.trim(), lane: lanes.find((l) => l === lane) ?? 'middle' }
    const path = { occurrence, participant }
    const a = await ask(api.PUT('/api/occurrences/{occurrence}/participants/{participant}', { params: { path }, body }))
    problem = a.problem
    if (a.data) onclose(a.data, participant)
  }
</script>

<Modal
  open
  modalHeading={t.log.addPerson}
  primaryButtonText={t.save}
  secondaryButtonText={t.cancel}
  selectorPrimaryFocus="#person-name"
  hasForm
  on:click:button--secondary={() => onclose()}
  on:close={() => onclose()}
  on:submit={() => void save()}
>
  {#if problem && !fieldProblem(problem, 'name')}<Problem {problem} />{/if}
  <div class="row">
    <TextInput
      id="person-name"
      labelText={t.log.personName}
      bind:value={name}
      invalid={fieldProblem(problem, 'name') !== ''}
      invalidText={fieldProblem(problem, 'name')}
    />
    <Select id="person-lane" labelText={t.log.personLane} bind:selected={lane}>
      {#each lanes as l (l)}<SelectItem value={l} text={laneName[l]} />{/each}
    </Select>
  </div>
</Modal>
