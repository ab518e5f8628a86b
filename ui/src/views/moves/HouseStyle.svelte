<script lang="ts">
  // The house style: where practitioners differ, what this house does, and why
  // people choose it. A move may be an exception.
  import { api, ask, type Problem as ProblemType, type Schemas } from '../../lib/api/client'
  import Problem from '../../lib/parts/Problem.svelte'
  import { studio } from '../../lib/state/studio.svelte'
  import { moves as t } from '../../lib/text/gen/moves'

  interface Props {
    /** The move whose exceptions are shown; none for the house. */
    move?: string
    onchange: () => void
  }
  let { move, onchange }: Props = $props()
  let style = $state.raw<Schemas['HouseStyle']>()
  let problem = $state<ProblemType>()

  void ask(api.GET('/api/style')).then((a) => {
    problem = a.problem
    style = a.data
  })

  const chosen = (s: Schemas['SchoolChoice']) => (move ? (style?.moves[move]?.[s.id] ?? '') : s.chosen)

  async function choose(school: string, option: string): Promise<void> {
    if (!style) return
    const house = Object.fromEntries(style.schools.map((s) => [s.id, s.chosen]))
    const moves = { ...style.moves }
    if (move) {
      const mine = { ...moves[move], [school]: option }
      if (option === '') delete mine[school]
      moves[move] = mine
      if (Object.keys(mine).length === 0) delete moves[move]
    } else house[school] = option
    const a = await ask(api.PUT('/api/style', { body: { studio: house, moves } }))
    problem = a.problem
    if (!a.data) return
    style = a.data
    await studio.load()
    onchange()
  }
</script>

{#if problem}<Problem {problem} />{/if}
{#if style}
  {#each style.schools as s (s.id)}
    <fieldset id={`school-${s.id}`}>
      <legend>{s.question}</legend>
      {#if move}
        <label>
          <input type="radio" name={s.id} checked={chosen(s) === ''} onchange={() => void choose(s.id, '')} />
          <span>{t.asHouse(s.options.find((o) => o.id === s.chosen)?.name ?? '')}</span>
        </label>
      {/if}
      {#each s.options as o (o.id)}
        <label>
          <input
            type="radio"
            name={s.id}
            value={o.id}
            checked={chosen(s) === o.id}
            onchange={() => void choose(s.id, o.id)}
          />
          <span><b>{o.name}</b> <span class="muted">{o.why}</span></span>
        </label>
      {/each}
    </fieldset>
  {/each}
{/if}

<style>
  fieldset {
    border: 0;
    border-top: 1px solid var(--line);
    padding: 10px 0;
    margin: 0;
  }
  legend {
    font-weight: 600;
    padding: 10px 0 0;
    float: left;
    width: 100%;
  }
  input {
    accent-color: var(--accent);
  }
  label {
    display: flex;
    gap: 8px;
    align-items: baseline;
    padding: 3px 0;
    min-height: 24px;
    clear: both;
  }
</style>
