<script lang="ts">
  import { Modal, Select, SelectItem, TextInput } from 'carbon-components-svelte'
  import { api, ask, fieldProblem, newId, type Place, type Problem as ProblemType } from '../../lib/api/client'
  import { returnFocus } from '../../lib/parts/opener'
  import Problem from '../../lib/parts/Problem.svelte'
  import { studio } from '../../lib/state/studio.svelte'
  import { t } from '../../lib/text/catalogue'

  let { onclose }: { onclose: (next?: Place) => void } = $props()
  returnFocus()
  const id = newId()
  let open = $state(true)
  let name = $state('')
  let kind: string | number = $state('hall')
  let unit: string | number = $state(studio.unit)
  let problem = $state<ProblemType>()

  async function save(): Promise<void> {
    const a = await ask(
      api.PUT('/api/places/{place}', {
        params: { path: { place: id } },
        body: { name: name.trim(), kind: kind === 'flat' ? 'flat' : 'hall', massUnit: unit === 'lb' ? 'lb' : 'kg' },
      }),
    )
    problem = a.problem
    if (a.data) onclose(a.data)
  }
</script>

<Modal
  bind:open
  modalHeading={t.kit.addPlace}
  primaryButtonText={t.save}
  secondaryButtonText={t.cancel}
  selectorPrimaryFocus="#place-name"
  hasForm
  on:click:button--secondary={() => onclose()}
  on:close={() => onclose()}
  on:submit={() => void save()}
>
  {#if problem && !fieldProblem(problem, 'name')}<Problem {problem} />{/if}
  <div class="row">
    <TextInput
      id="place-name"
      labelText={t.kit.name}
      bind:value={name}
      invalid={fieldProblem(problem, 'name') !== ''}
      invalidText={fieldProblem(problem, 'name')}
    />
    <Select id="place-kind" labelText={t.kit.placeKind} bind:selected={kind}>
      <SelectItem value="hall" text={t.kit.hall} />
      <SelectItem value="flat" text={t.kit.flat} />
    </Select>
    <Select id="place-unit" labelText={t.kit.placeUnit} bind:selected={unit}>
      <SelectItem value="kg" text="kg" />
      <SelectItem value="lb" text="lb" />
    </Select>
  </div>
</Modal>
