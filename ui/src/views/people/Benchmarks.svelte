<script lang="ts">
  // How somebody stands at the gate to a bar on the back, and the sets that show what they can.
  import { Button, Checkbox, Select, SelectItem, TextInput } from 'carbon-components-svelte'
  import { invalid, type Problem as ProblemType, type Schemas } from '../../lib/api/client'
  import NumberBox from '../../lib/parts/NumberBox.svelte'
  import Problem from '../../lib/parts/Problem.svelte'
  import Why from '../../lib/parts/Why.svelte'
  import { putRecord, removeRecord } from '../../lib/state/records'
  import { studio } from '../../lib/state/studio.svelte'
  import { day } from '../../lib/text/dates'
  import { mass, type MassUnit } from '../../lib/text/format'
  import { people as t } from '../../lib/text/gen/people'
  import { lookup } from '../../lib/text/names'
  import type { Names } from '../../lib/text/why'

  interface Props {
    page: Schemas['PersonPage']
    names: Names
    unit: MassUnit
    onchange: (page: Schemas['PersonPage']) => void
  }
  let { page, names, unit, onchange }: Props = $props()
  let move: string | number = $state('goblet-squat')
  let load = $state('')
  let reps: number | null = $state(10)
  let reserve: number | null = $state(2)
  let date = $state((() => page.today)())
  let problem = $state<ProblemType>()
  const moves = $derived([...studio.moves.values()].sort((a, b) => a.name.localeCompare(b.name)))
  const skills = ['bracing', 'slow-five'] as const
  const learned = (skill: string) => page.records.find((r) => r.learned?.skill === skill)

  async function save(): Promise<void> {
    const a = await putRecord(page.id, {
      date,
      benchmark: { move: String(move), load, reps: reps ?? 0, reserve: reserve ?? 0 },
    })
    problem = a.problem
    if (!a.data) return
    load = ''
    onchange(a.data)
  }
  async function learn(skill: (typeof skills)[number], on: boolean): Promise<void> {
    const there = learned(skill)
    if (on === (there !== undefined)) return
    const a = there
      ? await removeRecord(page.id, there.id)
      : await putRecord(page.id, { date: page.today, learned: { skill } })
    problem = a.problem
    if (a.data) onchange(a.data)
  }
  async function takeBack(id: string): Promise<void> {
    const a = await removeRecord(page.id, id)
    problem = a.problem
    if (a.data) onchange(a.data)
  }
</script>

<div class="card gate" id="gate">
  <p>
    <b>{t.gate}: {t.of.gateResult[page.gate.result]}</b>
    <Why why={page.gate.why} {names} label={t.gate} />
  </p>
  {#if page.gate.missing.length > 0}
    <p>{t.gateMissing(page.gate.missing.map((m) => lookup(t.of.gateMissing, m)))}</p>
  {/if}
  {#if page.gate.formReps > 0}<p class="muted">{t.gateBest(unit, page.gate.loadG, page.gate.formReps)}</p>{/if}
  {#each skills as s (s)}
    <Checkbox
      id={`learned-${s}`}
      labelText={t.of.skill[s]}
      checked={learned(s) !== undefined}
      on:check={(e) => void learn(s, e.detail)}
    />
  {/each}
</div>
{#if page.benchmarks.length > 0}
  <table class="sheet stack" id="done" aria-label={t.benchmarks}>
    <thead>
      <tr>
        <th scope="col">{t.date}</th><th scope="col">{t.move}</th><th scope="col">{t.set}</th><th scope="col"
          >{t.index}</th
        >
        <td></td>
      </tr>
    </thead>
    <tbody>
      {#each page.benchmarks as b (b.id)}
        <tr>
          <td data-label={t.date}>{day(b.date)}</td>
          <td data-label={t.move}>{studio.move(b.move)}</td>
          <td data-label={t.set}>{t.setOf(b.loadG > 0 ? mass(b.loadG, unit) : undefined, b.reps, b.reserve)}</td>
          <td data-label={t.index}
            >{b.indexG > 0 ? mass(b.indexG, unit) : t.noIndex}
            {#if b.old}<span class="ember">{t.old}</span>{/if}</td
          >
          <td
            ><button type="button" class="link" onclick={() => void takeBack(b.id)}
              >{t.takeBack}<span class="sr">: {studio.move(b.move)}</span></button
            ></td
          >
        </tr>
      {/each}
    </tbody>
  </table>
{/if}
{#if problem && !problem.errors?.length}<Problem {problem} />{/if}
<details>
  <summary>{t.addBenchmark}</summary>
  <p class="muted">{t.benchmarkHelp}</p>
  <div class="row top narrow">
    <Select id="benchmark-move" labelText={t.move} bind:selected={move} {...invalid(problem, 'benchmark.move')}>
      {#each moves as m (m.id)}<SelectItem value={m.id} text={m.name} />{/each}
    </Select>
    <TextInput
      id="benchmark-load"
      labelText={t.load}
      placeholder={t.bodyHint(unit)}
      bind:value={load}
      invalid={invalid(problem, 'benchmark.load').invalid || invalid(problem, 'benchmark.loadG').invalid}
      invalidText={invalid(problem, 'benchmark.load').invalidText || invalid(problem, 'benchmark.loadG').invalidText}
    />
    <NumberBox
      id="benchmark-reps"
      labelText={t.reps}
      bind:value={reps}
      min={1}
      max={100}
      {...invalid(problem, 'benchmark.reps')}
    />
    <NumberBox
      id="benchmark-reserve"
      labelText={t.reserve}
      bind:value={reserve}
      min={0}
      max={20}
      {...invalid(problem, 'benchmark.reserve')}
    />
    <label class="date"
      ><span>{t.date}</span><input id="benchmark-date" type="date" class="log-input day" bind:value={date} /></label
    >
    <Button size="small" id="benchmark-save" on:click={() => void save()}>{t.keep}</Button>
  </div>
</details>

<style>
  .gate {
    max-width: 700px;
    margin-bottom: 12px;
  }
  .gate p {
    margin: 2px 0 6px;
  }
  .date span {
    display: block;
    font-size: 12px;
    color: var(--muted);
    margin-bottom: 4px;
  }
</style>
