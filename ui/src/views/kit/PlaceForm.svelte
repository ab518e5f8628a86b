<script lang="ts">
  import { Select, SelectItem, TextInput } from 'carbon-components-svelte'
  import { api, ask, fieldProblem, missing, newId, type Place, type Problem as ProblemType } from '../../lib/api/client'
  import FormModal from '../../lib/parts/FormModal.svelte'
  import { studio } from '../../lib/state/studio.svelte'
  import { common } from '../../lib/text/gen/common'
  import { kit as t } from '../../lib/text/gen/kit'
  import { nameOf } from '../../lib/text/names'

  interface Props {
    /** A place that is changed; none for a new one. */
    old?: Place | undefined
    /** What other places are called. */
    taken: string[]
    onclose: (next?: Place) => void
  }
  let { old, taken, onclose }: Props = $props()
  const given = (() => old)()
  const id = given?.id ?? newId()
  let name = $state(given?.name ?? '')
  let kind: string | number = $state(given?.kind ?? 'hall')
  let unit: string | number = $state(given?.massUnit ?? studio.unit)
  let problem = $state<ProblemType>()

  async function save(): Promise<void> {
    problem = missing({ name: [name, common.give.name] })
    if (problem) return
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

<FormModal
  title={given ? t.editPlace : t.addPlace}
  of={given?.id ?? ''}
  focus="#place-name"
  {problem}
  beside={fieldProblem(problem, 'name') !== ''}
  onsave={save}
  onclose={() => onclose()}
>
  <div class="row">
    <TextInput
      id="place-name"
      labelText={t.name}
      bind:value={name}
      helperText={taken.includes(name.trim()) ? t.sameName : ''}
      invalid={fieldProblem(problem, 'name') !== ''}
      invalidText={fieldProblem(problem, 'name')}
    />
    <Select id="place-kind" labelText={t.placeKind} bind:selected={kind}>
      {#each Object.entries(nameOf.placeKind) as [value, text] (value)}<SelectItem {value} {text} />{/each}
    </Select>
    <Select id="place-unit" labelText={t.placeUnit} bind:selected={unit}>
      <SelectItem value="kg" text="kg" />
      <SelectItem value="lb" text="lb" />
    </Select>
  </div>
</FormModal>
