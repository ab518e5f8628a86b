<script lang="ts">
  // The house's own times: what its classes really took, and whether it plans with that.
  import { Button } from 'carbon-components-svelte'
  import { api, ask, type Problem as ProblemType, type Schemas } from '../../lib/api/client'
  import Problem from '../../lib/parts/Problem.svelte'
  import { studio } from '../../lib/state/studio.svelte'
  import { moves } from '../../lib/text/gen/moves'
  import { nameOf } from '../../lib/text/names'

  type Offer = Schemas['Offer']
  const t = moves.pace
  let offers = $state.raw<Offer[]>()
  let problem = $state<ProblemType>()
  void ask(api.GET('/api/paces')).then((a) => {
    problem = a.problem
    offers = a.data
  })
  async function use(o: Offer, take: boolean): Promise<void> {
    const body = { what: o.what, use: take, ...(o.variant ? { variant: o.variant } : {}) }
    const a = await ask(api.PUT('/api/paces', { body }))
    problem = a.problem
    if (!a.data) return
    offers = a.data
    await studio.load()
  }
  const name = (o: Offer) =>
    o.variant ? `${nameOf.pace[o.what]}: ${studio.move(o.variant)}` : (nameOf.pace[o.what] ?? o.what)
  const value = (o: Offer, n: number) => (o.what === 'per-rep' ? t.seconds(n / 1000) : t.percent(n))
</script>

<section id="paces">
  <h3>{t.title}</h3>
  <p class="muted">{t.what}</p>
  {#if problem}<Problem {problem} />{/if}
  {#if offers?.length === 0}<p id="no-paces">{t.none}</p>{/if}
  {#if offers && offers.length > 0}
    <table class="sheet stack" aria-label={t.title}>
      <thead>
        <tr>
          <th scope="col">{t.of}</th>
          <th scope="col" class="num">{t.reckoned}</th>
          <th scope="col" class="num">{t.own}</th>
          <th scope="col">{t.spread}</th>
          <th scope="col">{t.plans}</th>
        </tr>
      </thead>
      <tbody>
        {#each offers as o (`${o.what} ${o.variant ?? ''}`)}
          <tr>
            <th scope="row" class="full">{name(o)}</th>
            <td class="num" data-label={t.reckoned}>{value(o, o.reckoned)}</td>
            <td class="num" data-label={t.own}>{o.own > 0 ? value(o, o.own) : ''}</td>
            <td data-label={t.spread}>
              {o.own > 0 ? t.between(value(o, o.low), value(o, o.high), o.samples, o.runs) : ''}
            </td>
            <td data-label={t.plans}>
              {#if o.used}
                {value(o, o.used)}
                <Button
                  size="small"
                  kind="ghost"
                  aria-label={`${t.giveBack}: ${name(o)}`}
                  on:click={() => use(o, false)}>{t.giveBack}</Button
                >
              {/if}
              {#if o.own > 0 && o.own !== o.used}
                <Button size="small" kind="tertiary" aria-label={`${t.take}: ${name(o)}`} on:click={() => use(o, true)}
                  >{t.take}</Button
                >
              {/if}
            </td>
          </tr>
        {/each}
      </tbody>
    </table>
  {/if}
</section>
