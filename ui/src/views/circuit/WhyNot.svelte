<script lang="ts">
  // Why a move does not stand in a slot: what it costs term by term, or what is against it and
  // the cheapest change that would allow it.
  import { api, asking, type Circuit, type Problem as ProblemType, type Schemas } from '../../lib/api/client'
  import Problem from '../../lib/parts/Problem.svelte'
  import { itemName } from '../../lib/state/floor'
  import { studio } from '../../lib/state/studio.svelte'
  import { number } from '../../lib/text/format'
  import { circuit as t } from '../../lib/text/gen/circuit'
  import { common } from '../../lib/text/gen/common'
  import { banName, lookup, nameOf } from '../../lib/text/names'
  import { whyText } from '../../lib/text/why'

  let { circuit, slot, party, move }: { circuit: Circuit; slot: string; party: string; move: string } = $props()
  const w = t.whyNot
  const names = $derived(studio.names(circuit.items, circuit.occurrence))
  let answer = $state.raw<Schemas['WhyNot']>()
  let problem = $state<ProblemType>()
  $effect(() => {
    void circuit.version
    const params = { path: { circuit: circuit.id }, query: { slot, party, move } }
    return asking(
      (signal) => api.GET('/api/circuits/{circuit}/why-not', { params, signal }),
      (a) => {
        answer = a.data
        problem = a.problem
      },
    )
  })
  const against = $derived(
    answer
      ? [
          ...(answer.entry ? [] : [w.nothing]),
          ...answer.faults.map((f) => whyText(f, names)),
          ...answer.shorts.map((s) => w.short(itemName(circuit.items, s.item), s.used, s.present)),
          ...(answer.overMs > 0 ? [w.over(answer.overMs)] : []),
        ]
      : [],
  )
  function mend(m: Schemas['Mend']): string {
    switch (m.kind) {
      case 'known':
        return w.known
      case 'waves':
        return w.waves(m.waves ?? 0)
      case 'minutes':
        return w.minutes(m.minutes ?? 0)
      case 'ban':
        return w.ban(banName(m.ban ?? '', (id) => studio.move(id)))
      case 'log':
        return w.log(nameOf.joint[m.what as keyof typeof nameOf.joint] ?? studio.move(m.what ?? ''))
      case 'piece':
        return w.piece(m.count ?? 0, itemName(circuit.items, m.item ?? ''))
      case 'thing':
        return w.thing(studio.unit, m.sort ?? '', m.count ?? 1, m.massG ?? 0, m.heightMm ?? 0)
      case 'person':
        return w.person
    }
  }
</script>

<div class="why-not-answer" role="status">
  {#if problem}<Problem {problem} />{/if}
  {#if !answer && !problem}<p>{common.loading}</p>{/if}
  {#if answer}
    {#if against.length > 0}
      <p><b>{w.against}</b></p>
      <ul>
        {#each against as a, i (i)}<li>{a}</li>{/each}
      </ul>
      {#if answer.mends.length > 0}
        <p><b>{w.mends}</b></p>
        <ul>
          {#each answer.mends as m, i (i)}<li>{mend(m)}</li>{/each}
        </ul>
      {:else}<p>{w.none}</p>{/if}
    {:else}
      <p>{w.costs(answer.cost, answer.now)}</p>
      <table>
        <thead><tr><th scope="col">{w.term}</th><th scope="col">{w.cost}</th><th scope="col">{w.now}</th></tr></thead>
        <tbody>
          {#each answer.terms as x (x.term)}
            <tr
              ><th scope="row">{lookup(nameOf.costTerm, x.term)}</th><td>{number(x.cost)}</td><td>{number(x.now)}</td
              ></tr
            >
          {/each}
        </tbody>
      </table>
    {/if}
  {/if}
</div>

<style>
  .why-not-answer {
    font-size: 13px;
    padding: 4px 0 8px;
  }
  th,
  td {
    text-align: left;
    padding: 2px 12px 2px 0;
    font-weight: 400;
  }
</style>
