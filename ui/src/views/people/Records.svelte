<script lang="ts">
  // What changed and when and why, the newest first; what was typed amiss is taken back.
  import type { Problem as ProblemType, Schemas } from '../../lib/api/client'
  import Problem from '../../lib/parts/Problem.svelte'
  import { removeRecord } from '../../lib/state/records'
  import { studio } from '../../lib/state/studio.svelte'
  import { day } from '../../lib/text/dates'
  import { mass, typedLength, typedMass, type MassUnit } from '../../lib/text/format'
  import { people as t } from '../../lib/text/gen/people'
  import { limit } from '../../lib/text/names'

  interface Props {
    page: Schemas['PersonPage']
    unit: MassUnit
    onchange: (page: Schemas['PersonPage']) => void
  }
  let { page, unit, onchange }: Props = $props()
  let problem = $state<ProblemType>()

  function says(r: Schemas['RecordEntry']): string {
    if (r.measure)
      return [
        r.measure.body ? t.bodyIs(typedMass(r.measure.body, unit)) : '',
        r.measure.stature ? t.statureIs(typedLength(r.measure.stature, unit)) : '',
      ]
        .filter(Boolean)
        .join(' ')
    if (r.level) return t.recordLevel(studio.move(r.level.move), t.of.cause[r.level.cause])
    if (r.screen) return t.recordScreen(t.of.screen[r.screen.screen])
    if (r.benchmark) {
      const b = r.benchmark
      return t.recordBenchmark(
        studio.move(b.move),
        t.setOf(b.loadG > 0 ? mass(b.loadG, unit) : undefined, b.reps, b.reserve),
      )
    }
    if (r.limit) return t.recordLimit(limit(r.limit.limit) ?? r.limit.limit)
    if (r.learned) return t.of.skill[r.learned.skill]
    if (r.table) return t.recordTable(r.table.stance)
    return ''
  }
  async function takeBack(id: string): Promise<void> {
    const a = await removeRecord(page.id, id)
    problem = a.problem
    if (a.data) onchange(a.data)
  }
</script>

{#if page.records.length === 0}<p class="muted">{t.noRecords}</p>{/if}
{#if problem}<Problem {problem} />{/if}
<ul class="plain" id="changes">
  {#each page.records as r (r.id)}
    <li>
      <span class="muted">{day(r.date)}</span>
      {says(r)}
      <button type="button" class="link" onclick={() => void takeBack(r.id)}
        >{t.takeBack}<span class="sr">: {says(r)}</span></button
      >
    </li>
  {/each}
</ul>
