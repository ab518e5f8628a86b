<script lang="ts">
  // What the run of a class was planned to take and really took, slot by slot.
  import { api, asking, type Problem as ProblemType, type Schemas } from '../../lib/api/client'
  import Problem from '../../lib/parts/Problem.svelte'
  import { blockTitle } from '../../lib/state/blocks'
  import { common } from '../../lib/text/gen/common'
  import { log } from '../../lib/text/gen/log'
  import { clock } from '../../lib/text/format'
  import { nameOf } from '../../lib/text/names'

  interface Props {
    run: string
    /** How often presses of the clock have come in since: the times are read again. */
    came: number
  }
  let { run, came }: Props = $props()
  const t = log.spent
  let spent = $state.raw<Schemas['Spent'][]>()

  let open = $state(false)
  let problem = $state<ProblemType>()
  $effect(() => {
    void came
    if (!open) return
    return asking(
      (signal) => api.GET('/api/runs/{run}/timings', { params: { path: { run } }, signal }),
      (a) => {
        problem = a.problem
        spent = a.data?.spent ?? spent
      },
    )
  })
  const where = (s: Schemas['Spent']): string =>
    [
      ...(s.for ? [blockTitle({ kind: s.for, scheme: s.scheme && { kind: s.scheme } })] : []),
      ...(s.pattern ? [nameOf.pattern[s.pattern]] : []),
    ].join(', ')
</script>

<details id="spent" bind:open>
  <summary>{t.title}</summary>
  {#if problem}
    <Problem {problem} />
  {:else if !spent}
    <p role="status">{common.loading}</p>
  {:else if spent.length === 0}
    <p>{t.none}</p>
  {:else}
    <table class="sheet stack" aria-label={t.title}>
      <thead>
        <tr>
          <th scope="col">{t.what}</th>
          <th scope="col">{t.kind}</th>
          {#each [t.times, t.planned, t.real, t.held, t.early] as head (head)}
            <th scope="col" class="number">{head}</th>
          {/each}
        </tr>
      </thead>
      <tbody>
        {#each spent as s, i (i)}
          <tr>
            <th scope="row" data-label={t.what}>{where(s) || nameOf.stretchKind[s.kind]}</th>
            <td data-label={t.kind}>{nameOf.stretchKind[s.kind]}</td>
            <td class="number" data-label={t.times}>{s.times}</td>
            <td class="number" data-label={t.planned}>{clock(s.plannedMs)}</td>
            <td class="number" data-label={t.real}><b>{clock(s.realMs)}</b></td>
            <td class="number" data-label={t.held}>{s.heldMs >= 500 ? clock(s.heldMs) : ''}</td>
            <td class="number" data-label={t.early}>{s.early > 0 ? s.early : ''}</td>
          </tr>
        {/each}
      </tbody>
    </table>
  {/if}
</details>

<style>
  .number {
    text-align: right;
  }
  summary {
    margin-top: 24px;
  }
</style>
