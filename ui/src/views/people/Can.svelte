<script lang="ts">
  // What the log says that somebody can: their resistance index, and the stance factors that
  // were learned from pairs of sets. Either is shown with the sets behind it.
  import type { Problem as ProblemType, Schemas } from '../../lib/api/client'
  import Problem from '../../lib/parts/Problem.svelte'
  import { putRecord } from '../../lib/state/records'
  import { studio } from '../../lib/state/studio.svelte'
  import { day } from '../../lib/text/dates'
  import { mass, number, type MassUnit } from '../../lib/text/format'
  import { people as t } from '../../lib/text/gen/people'

  interface Props {
    page: Schemas['PersonPage']
    unit: MassUnit
    onchange: (page: Schemas['PersonPage']) => void
  }
  let { page, unit, onchange }: Props = $props()
  let problem = $state<ProblemType>()

  const set = (x: Schemas['Showing']): string =>
    t.can.set(
      day(x.date),
      studio.move(x.move),
      t.setOf(x.loadG > 0 ? mass(x.loadG, unit) : undefined, x.reps, x.left),
      mass(x.indexG, unit),
    )

  async function putBack(stance: string): Promise<void> {
    const a = await putRecord(page.id, { date: page.today, table: { stance } })
    problem = a.problem
    if (a.data) onchange(a.data)
  }
</script>

{#if page.indices.length === 0 && page.stances.length === 0}<p class="muted">{t.can.nothing}</p>{/if}
{#if problem}<Problem {problem} />{/if}
<ul class="plain" id="can">
  {#each page.indices as x (x.scale)}
    <li data-index={x.scale}>
      <p>
        <b>{t.can.index(t.of.scale[x.scale], mass(x.indexG, unit))}</b>
        {x.byReps ? t.can.byReps : t.can.bySaid}
      </p>
      <details>
        <summary>{t.can.sets(x.sets.length)}</summary>
        <ul class="plain">
          {#each x.sets as s, i (i)}<li>{set(s)}</li>{/each}
        </ul>
      </details>
    </li>
  {/each}
  {#each page.stances as x (x.stance)}
    <li data-stance={x.stance}>
      <p>
        <b>{t.can.stance(t.of.scale[x.scale], number(x.factor))}</b>
        {x.factor === x.table ? t.can.fewPairs : t.can.learned(number(x.table))}
        {#if x.factor !== x.table}
          <button type="button" class="link" onclick={() => void putBack(x.stance)}
            >{t.can.putBack}<span class="sr">: {t.of.scale[x.scale]}</span></button
          >
        {/if}
      </p>
      {#if x.pairs.length > 0}
        <details>
          <summary>{t.can.pairs(x.pairs.length)}</summary>
          <ul class="plain">
            {#each x.pairs as p, i (i)}
              <li>{t.can.pair(set(p.one), set(p.two), number(p.factor))}</li>
            {/each}
          </ul>
        </details>
      {/if}
    </li>
  {/each}
</ul>

<style>
  li {
    padding: 4px 0;
  }
  details {
    padding-left: 14px;
  }
  summary {
    cursor: pointer;
  }
</style>
