<script lang="ts">
  import { Select, SelectItem, TextInput } from 'carbon-components-svelte'
  import {
    api,
    asking,
    fieldProblem,
    type Place,
    type Problem as ProblemType,
    type Schemas,
  } from '../../lib/api/client'
  import Rule from '../../lib/draw/Rule.svelte'
  import MovePick from '../../lib/parts/MovePick.svelte'
  import Problem from '../../lib/parts/Problem.svelte'
  import { itemsOf } from '../../lib/state/items'
  import { studio } from '../../lib/state/studio.svelte'
  import { mass, percent } from '../../lib/text/format'
  import { loads } from '../../lib/text/gen/loads'
  import { nameOf } from '../../lib/text/names'

  let { place }: { place: Place } = $props()
  let holding: string | number = $state('goblet')
  let move = $state('goblet-squat')
  let body = $state('')
  /** What was typed of the body, once it is left. */
  let typed = $state('')
  let at = $state(0)
  let rule = $state.raw<Schemas['LoadRule']>()
  let problem = $state<ProblemType>()
  const items = $derived(itemsOf(place))

  $effect(() => {
    const input = { holding: holding as Schemas['RuleInput']['holding'], move, body }
    const params = { path: { place: place.id } }
    return asking(
      (signal) => api.POST('/api/places/{place}/rule', { params, body: input, signal }),
      (a) => {
        problem = a.problem
        if (!a.data) return
        rule = a.data
        at = Math.min(Math.floor(a.data.marks.length / 2), Math.max(a.data.marks.length - 1, 0))
      },
    )
  })
  const mark = $derived(rule?.marks[at])
  const next = $derived(rule?.marks[at + 1])
  const wrong = $derived(fieldProblem(problem, 'body'))

  function up(r: Schemas['Rise'], to: number): string {
    return r.ironAlone
      ? loads.rule.upIron(studio.unit, to, r.ironPct)
      : loads.rule.up(studio.unit, to, r.ironPct, r.resistancePct)
  }
</script>

<section>
  <div class="row narrow wide top">
    <Select id="rule-holding" labelText={loads.rule.holding} bind:selected={holding}>
      {#each Object.entries(nameOf.holding) as [value, text] (value)}<SelectItem {value} {text} />{/each}
    </Select>
    <MovePick id="rule" bind:move />
    <TextInput
      id="rule-body"
      labelText={loads.body}
      helperText={loads.bodyHint(studio.unit, 70_000)}
      bind:value={typed}
      on:change={() => (body = typed)}
      invalid={wrong !== ''}
      invalidText={wrong}
    />
  </div>
  {#if problem && !wrong}<Problem {problem} />{/if}
  {#if rule}
    <p class="muted">{loads.rule.lead(studio.unit, place.name, studio.move(move), rule.bodyG)}</p>
    {#if mark}
      <div class="card" role="status" id="rule-here">
        <b>{mass(mark.totalG, studio.unit)}</b> · {studio.packing(mark.load, items)}<br />
        {#if mark.up && next}
          <span class="muted">{up(mark.up, next.totalG)}:</span>
          <span class:ember={!mark.up.allowed}>{mark.up.allowed ? loads.rule.allowed : loads.rule.far}</span>
        {:else}<span class="muted">{loads.rule.top}</span>{/if}
      </div>
      <Rule {rule} bind:at say={(m) => studio.packing(m.load, items)} />
      <p class="key">
        <svg width="12" height="22" aria-hidden="true"><rect class="block" width="10" height="22" /></svg>
        {loads.rule.implement}
        <svg width="12" height="14" aria-hidden="true"><path class="made" d="M0 1h10l-5 13z" /></svg>
        {loads.rule.made} ({loads.rule.limit(studio.unit, rule.maxBagG)})
        <svg width="28" height="14" aria-hidden="true"
          ><rect class="gap" width="28" height="14" /><path class="gap" d="M2 14L14 0M12 14L24 0" /></svg
        >
        {loads.rule.gap}
      </p>
      {#if rule.gaps.length > 0}
        <h2>{loads.rule.gaps}</h2>
        <table class="sheet stack" id="rule-gaps" aria-label={loads.rule.gaps}>
          <thead>
            <tr
              ><th scope="col">{loads.rule.from}</th><th scope="col">{loads.rule.to}</th><th scope="col"
                >{loads.rule.iron}</th
              ><th scope="col">{loads.rule.resistance}</th><th scope="col">{loads.rule.step}</th></tr
            >
          </thead>
          <tbody>
            {#each rule.gaps as g (g.fromG)}
              <tr>
                <th scope="row" data-label={loads.rule.from}>{mass(g.fromG, studio.unit)}</th>
                <td data-label={loads.rule.to}>{mass(g.toG, studio.unit)}</td>
                <td data-label={loads.rule.iron}>{percent(g.ironPct)}</td>
                <td data-label={loads.rule.resistance}>{g.ironAlone ? '–' : percent(g.resistancePct)}</td>
                <td data-label={loads.rule.step} class:ember={!g.allowed}
                  >{g.allowed ? loads.rule.yes : loads.rule.no}</td
                >
              </tr>
            {/each}
          </tbody>
        </table>
      {/if}
    {:else}<p id="rule-none">{loads.rule.none}</p>{/if}
  {/if}
</section>

<style>
  section {
    margin-top: 16px;
  }
  section > p {
    margin: 10px 0 6px;
  }
  .key {
    display: flex;
    flex-wrap: wrap;
    gap: 8px 10px;
    align-items: center;
  }
  .block {
    fill: var(--ink);
  }
  .made {
    fill: var(--accent);
  }
  .gap {
    fill: none;
    stroke: var(--ember);
    stroke-width: 2;
  }
</style>
