<script lang="ts">
  import { Button, Select, SelectItem, TextInput } from 'carbon-components-svelte'
  import {
    api,
    ask,
    missing,
    fieldProblem,
    lanes,
    newId,
    type Occurrence,
    type Place,
    type Problem as ProblemType,
  } from '../../lib/api/client'
  import NumberBox from '../../lib/parts/NumberBox.svelte'
  import FormModal from '../../lib/parts/FormModal.svelte'
  import { startPlace } from '../../lib/state/place'
  import { studio } from '../../lib/state/studio.svelte'
  import { asTyped } from '../../lib/text/format'
  import { common } from '../../lib/text/gen/common'
  import { today as t } from '../../lib/text/gen/today'

  interface Props {
    occurrence?: Occurrence | undefined
    /** The server's instant: the day offered is today in the studio's zone. */
    nowMs: number
    onclose: (saved: boolean) => void
  }
  let { occurrence, nowMs, onclose }: Props = $props()

  const given = (() => occurrence)()
  const id = given?.id ?? newId()
  const day = (() => new Intl.DateTimeFormat('en-CA', { timeZone: studio.value.timeZone }).format(nowMs))()
  let name = $state(given?.name ?? '')
  let date = $state(given?.date ?? day)
  let time = $state(given?.time ?? '18:00')
  let minutes: number | null = $state(given?.minutes ?? 45)
  let placeId: string | number = $state(given?.placeId ?? '')
  const before = (l: string) => given?.lanes.find((x) => x.lane === l)
  let people: (number | null)[] = $state(lanes.map((l, i) => before(l)?.people ?? (given || i !== 1 ? 0 : 8)))
  let bodies = $state(lanes.map((l) => (before(l)?.bodyKnown ? asTyped(before(l)?.body) : '')))
  let statures = $state(lanes.map((l) => asTyped(before(l)?.stature)))
  // How many come is said first; who of them is at Ground or Reach is taken off Middle.
  const all = $derived(people.reduce<number>((sum, n) => sum + (n ?? 0), 0))
  function come(n: number | null): void {
    if (n === null || n < 0 || n === all) return
    const ground = Math.min(people[0] ?? 0, n)
    const reach = Math.min(people[2] ?? 0, n - ground)
    people = [ground, n - ground - reach, reach]
  }
  // Whoever is said to be at Ground or Reach is taken off Middle, until somebody says how
  // many are there.
  let middleSaid = $state((() => given !== undefined)())
  function at(i: number, n: number | null): void {
    if (n === people[i]) return
    const next = people.map((was, k) => (k === i ? n : was))
    if (i === 1) middleSaid = true
    else if (!middleSaid) next[1] = Math.max(0, all - (next[0] ?? 0) - (next[2] ?? 0))
    people = next
  }
  let places = $state.raw<Place[]>([])
  let problem = $state<ProblemType>()
  let bodiesOpen = $state(false)

  const placesRead = ask(api.GET('/api/places')).then(({ data }) => {
    places = data ?? []
    if (!placeId) placeId = startPlace(places)
  })

  async function save(): Promise<void> {
    problem = missing({
      name: [name, common.give.name],
      minutes: [minutes, common.give.minutes],
      people: [all > 0 ? all : '', common.give.people],
    })
    if (problem) return
    await placesRead // where nothing else is chosen it is at one of them
    const body = {
      name: name.trim(),
      date,
      time,
      minutes: minutes ?? 0,
      placeId: String(placeId),
      lanes: lanes.map((l, i) => ({
        lane: l,
        people: people[i] ?? 0,
        ...(bodies[i] ? { body: bodies[i] } : {}),
        ...(statures[i] ? { stature: statures[i] } : {}),
      })),
    }
    const answer = await ask(api.PUT('/api/occurrences/{occurrence}', { params: { path: { occurrence: id } }, body }))
    problem = answer.problem
    if (answer.data) onclose(true)
  }
  const wrong = (field: string) => ({
    invalid: fieldProblem(problem, field) !== '',
    invalidText: fieldProblem(problem, field),
  })
  const elsewhere = $derived(problem && !problem.errors?.some((e) => /name|date|time|minutes|placeId/.test(e.location)))
</script>

<FormModal
  title={given ? t.edit : t.add}
  of={given?.id ?? ''}
  focus="#class-name"
  {problem}
  beside={!elsewhere}
  onsave={save}
  onclose={() => onclose(false)}
>
  <div class="row">
    <TextInput id="class-name" labelText={t.form.name} bind:value={name} {...wrong('name')} />
  </div>
  <div class="row gap">
    <TextInput id="class-date" type="date" labelText={t.form.date} bind:value={date} {...wrong('date')} />
    <TextInput id="class-time" type="time" labelText={t.form.time} bind:value={time} {...wrong('time')} />
    <NumberBox
      id="class-minutes"
      labelText={t.form.minutes}
      min={5}
      max={240}
      bind:value={minutes}
      {...wrong('minutes')}
    />
    <Select id="class-place" labelText={t.form.place} bind:selected={placeId} {...wrong('placeId')}>
      {#each places as p (p.id)}<SelectItem value={p.id} text={p.name} />{/each}
    </Select>
  </div>
  <div class="row gap">
    <NumberBox
      id="class-people"
      labelText={t.form.all}
      min={0}
      max={500}
      value={all}
      onchange={come}
      {...wrong('people')}
    />
  </div>
  <p class="muted">{t.form.split}</p>
  <div class="row gap">
    {#each lanes as l, i (l)}
      <NumberBox
        id={`class-${l}`}
        labelText={t.form.people(l)}
        min={0}
        max={500}
        value={people[i]}
        onchange={(n) => at(i, n)}
      />
    {/each}
  </div>
  <div class="gap bodies">
    <Button size="small" kind="ghost" aria-expanded={bodiesOpen} on:click={() => (bodiesOpen = !bodiesOpen)}>
      {t.form.bodies}
    </Button>
    <!-- Made only when wanted: the dialog's Tab order counts what is merely hidden. -->
    {#if bodiesOpen}<div class="row gap">
        {#each lanes as l, i (l)}
          <TextInput
            id={`class-${l}-body`}
            labelText={t.form.body(l)}
            placeholder={studio.unit === 'lb' ? '154 lb' : '70 kg'}
            bind:value={bodies[i]}
            {...wrong(`lanes[${i}].body`)}
          />
          <TextInput
            id={`class-${l}-stature`}
            labelText={t.form.stature(l)}
            placeholder={studio.unit === 'lb' ? '67 in' : '170 cm'}
            bind:value={statures[i]}
            {...wrong(`lanes[${i}].stature`)}
          />
        {/each}
      </div>{/if}
  </div>
</FormModal>

<style>
  .bodies .row {
    display: grid;
    grid-template-columns: 1fr 1fr;
  }
  .gap {
    margin-top: 16px;
  }
</style>
