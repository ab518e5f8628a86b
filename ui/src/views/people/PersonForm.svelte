<script lang="ts">
  // What is typed of a person: name, groups, unit, the weaker side, a note.
  import { Select, SelectItem, TextInput } from 'carbon-components-svelte'
  import { api, ask, invalid, newId, type Problem as ProblemType, type Schemas } from '../../lib/api/client'
  import FormModal from '../../lib/parts/FormModal.svelte'
  import Several from '../../lib/parts/Several.svelte'
  import { people as t } from '../../lib/text/gen/people'
  import { nameOf } from '../../lib/text/names'

  interface Props {
    /** Somebody who is known; nobody to add one. */
    person?: Schemas['Person'] | undefined
    groups: Schemas['PeopleGroup'][]
    onclose: (person?: string) => void
  }
  let { person, groups, onclose }: Props = $props()
  const given = (() => person)()
  const id = given?.id ?? newId()
  let name = $state(given?.name ?? '')
  let unit: string | number = $state(given?.massUnit ?? '')
  let weaker: string | number = $state(given?.weaker ?? '')
  let note = $state(given?.note ?? '')
  let chosen = $state.raw<string[]>(given?.groups ?? [])
  let problem = $state<ProblemType>()

  async function save(): Promise<void> {
    const body = {
      name,
      ...{ massUnit: unit as '' | 'kg' | 'lb', weaker: weaker as '' | 'left' | 'right', note },
    }
    const params = { path: { person: id } }
    const a = await ask(api.PUT('/api/people/{person}', { params, body }))
    problem = a.problem
    if (!a.data) return
    const g = await ask(api.PUT('/api/people/{person}/groups', { params, body: { groups: chosen } }))
    problem = g.problem
    if (g.data) onclose(id)
  }
</script>

<FormModal
  title={given ? t.edit : t.add}
  of={id}
  focus="#person-name"
  {problem}
  beside={(problem?.errors ?? []).length > 0}
  onsave={save}
  onclose={() => onclose()}
>
  <TextInput
    id="person-name"
    labelText={t.name}
    helperText={t.nameHelp}
    bind:value={name}
    {...invalid(problem, 'name')}
  />
  {#if groups.length > 0}
    <Several
      id="person-groups"
      label={t.groups}
      help={t.groupsHelp}
      options={groups.map((g) => ({ id: g.id, text: g.name }))}
      bind:chosen
    />
  {:else}<p class="muted">{t.noGroups}</p>{/if}
  <div class="row">
    <Select id="person-unit" labelText={t.unit} bind:selected={unit}>
      <SelectItem value="" text={t.unitOfStudio} />
      {#each ['kg', 'lb'] as u (u)}<SelectItem value={u} text={u} />{/each}
    </Select>
    <Select id="person-weaker" labelText={t.weaker} bind:selected={weaker}>
      <SelectItem value="" text={t.weakerNone} />
      {#each ['left', 'right'] as const as s (s)}<SelectItem value={s} text={nameOf.side[s]} />{/each}
    </Select>
  </div>
  <TextInput
    id="person-note"
    labelText={t.note}
    helperText={t.noteHelp}
    bind:value={note}
    {...invalid(problem, 'note')}
  />
</FormModal>
