<script lang="ts">
  // The rungs that somebody stands on, as one picture and in words, and where to put them.
  import { Button, Select, SelectItem } from 'carbon-components-svelte'
  import type { Problem as ProblemType, Schemas } from '../../lib/api/client'
  import Rungs from '../../lib/draw/Rungs.svelte'
  import Problem from '../../lib/parts/Problem.svelte'
  import Why from '../../lib/parts/Why.svelte'
  import { putRecord } from '../../lib/state/records'
  import { studio } from '../../lib/state/studio.svelte'
  import { day } from '../../lib/text/dates'
  import { people as t } from '../../lib/text/gen/people'
  import { nameOf } from '../../lib/text/names'
  import type { Names } from '../../lib/text/why'

  interface Props {
    page: Schemas['PersonPage']
    names: Names
    onchange: (page: Schemas['PersonPage']) => void
  }
  let { page, names, onchange }: Props = $props()
  let ladder: string | number = $state('')
  let move: string | number = $state('')
  let cause: string | number = $state('by-hand')
  let problem = $state<ProblemType>()
  const on = $derived(page.ladders.filter((l) => l.at > 0))
  const chosen = $derived(page.ladders.find((l) => l.ladder === ladder) ?? page.ladders[0])
  const ladderName = (l: Schemas['LadderState']) =>
    t.ladderOf(nameOf.pattern[l.pattern] ?? l.pattern, studio.move(l.rungs[0]?.move ?? ''))
  $effect(() => {
    const l = chosen
    if (l && !l.rungs.some((r) => r.move === move)) move = l.rungs[Math.max(0, l.at - 1)]?.move ?? ''
  })

  async function put(to: string, why: 'by-hand' | 'test' | 'log'): Promise<void> {
    const a = await putRecord(page.id, { date: page.today, level: { move: to, cause: why } })
    problem = a.problem
    if (a.data) onchange(a.data)
  }
</script>

{#if on.length > 0}
  <Rungs ladders={on} />
  <ul class="plain says" id="standing">
    {#each on as l (l.ladder)}
      {@const here = l.rungs.find((r) => r.rung === l.at)}
      {@const next = l.rungs.find((r) => r.rung === l.at + 1)}
      <li>
        <b>{nameOf.pattern[l.pattern] ?? l.pattern}: {studio.move(here?.move ?? '')}</b>
        {l.since && l.cause ? t.sinceBy(day(l.since), t.of.cause[l.cause]) : ''}
        {#if next}
          <span class="muted">{t.nextAsks(studio.move(next.move), l.next ?? '')}</span>
          <button type="button" class="link" onclick={() => void put(next.move, 'test')}
            >{t.passed}<span class="sr">: {studio.move(next.move)}</span></button
          >
        {:else}<span class="muted">{t.top}</span>{/if}
        {#if l.says}
          {@const says = l.says}
          <div>
            <span class="ember">{t.logSays(studio.move(says.move))}</span>
            <Why why={says.why} {names} label={studio.move(says.move)} />
            <button type="button" class="link" onclick={() => void put(says.move, 'log')}
              >{t.follow}<span class="sr">: {studio.move(says.move)}</span></button
            >
          </div>
        {/if}
      </li>
    {/each}
  </ul>
{:else}<p>{t.noLevels}</p>{/if}
{#if on.length > 0}<p class="muted">{t.laneHolds}</p>{/if}
{#each page.ladders.filter((l) => l.at === 0 && l.says) as l (l.ladder)}
  {@const says = l.says}
  {#if says}
    <p>
      {t.logSaysOf(nameOf.pattern[l.pattern] ?? l.pattern, studio.move(says.move))}
      <Why why={says.why} {names} label={studio.move(says.move)} />
      <button type="button" class="link" onclick={() => void put(says.move, 'log')}
        >{t.follow}<span class="sr">: {studio.move(says.move)}</span></button
      >
    </p>
  {/if}
{/each}
{#if problem}<Problem {problem} />{/if}
<details class="set">
  <summary>{t.putOn}</summary>
  <div class="row narrow wide">
    <Select id="level-ladder" labelText={t.ladder} bind:selected={ladder}>
      {#each page.ladders as l (l.ladder)}<SelectItem value={l.ladder} text={ladderName(l)} />{/each}
    </Select>
    <Select id="level-move" labelText={t.rung} bind:selected={move}>
      {#each chosen?.rungs ?? [] as r (r.move)}<SelectItem
          value={r.move}
          text={t.rungOf(
            r.rung,
            studio.move(r.move),
            r.lanes.map((x) => nameOf.lane[x]),
          )}
        />{/each}
    </Select>
    <Select id="level-cause" labelText={t.cause} bind:selected={cause}>
      {#each ['by-hand', 'test'] as const as c (c)}<SelectItem value={c} text={t.of.cause[c]} />{/each}
    </Select>
    <Button size="small" id="level-save" on:click={() => void put(String(move), cause === 'test' ? 'test' : 'by-hand')}
      >{t.keep}</Button
    >
  </div>
</details>

<style>
  .says {
    display: grid;
    gap: 6px;
    margin: 10px 0;
  }
  .set .row {
    margin-top: 8px;
    max-width: 860px;
  }
</style>
