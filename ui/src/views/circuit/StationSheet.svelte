<script lang="ts">
  // The station plan of a class by itself, for one sheet of paper or a screen on the wall.
  import { Button } from 'carbon-components-svelte'
  import type { Circuit, Problem as ProblemType } from '../../lib/api/client'
  import { route } from '../../lib/nav'
  import Problem from '../../lib/parts/Problem.svelte'
  import { blockTitle } from '../../lib/state/blocks'
  import { when } from '../../lib/text/dates'
  import { circuit as t } from '../../lib/text/gen/circuit'
  import { common } from '../../lib/text/gen/common'
  import { moves as movesTexts } from '../../lib/text/gen/moves'
  import Floor from './Floor.svelte'
  import { ofClass } from './ofClass'

  const occurrence = (route.params as { occurrence?: string }).occurrence ?? ''
  let c = $state.raw<Circuit>()
  let problem = $state<ProblemType>()
  void ofClass(occurrence).then((a) => {
    c = a.data
    problem = a.problem
  })
</script>

<main class="page" id="work">
  {#if problem}<Problem {problem} />{/if}
  {#if c}
    <div class="head">
      <div class="grow">
        <h1>{t.floor.title}</h1>
        <p>{c.occurrence.name} · {when(c.occurrence.startMs, c.occurrence.timeZone)} · {c.occurrence.place}</p>
      </div>
      <span class="screen"><Button id="print-sheet" size="small" on:click={() => print()}>{t.floor.print}</Button></span
      >
    </div>
    {#each c.plan.floors as f (f.block)}
      {@const b = c.document.blocks.find((x) => x.id === f.block)}
      <section class="sheet">
        {#if c.plan.floors.length > 1 && b}<h2>{blockTitle(b)}</h2>{/if}
        <Floor floor={f} occurrence={c.occurrence} slots={c.plan.slots} items={c.items} />
      </section>
    {:else}
      <p>{t.floor.none}</p>
    {/each}
    <p class="muted">{movesTexts.stopAlways}</p>
  {:else if !problem}
    <p role="status">{common.loading}</p>
  {/if}
</main>

<style>
  @media print {
    .screen {
      display: none;
    }
    .sheet {
      break-inside: avoid;
    }
  }
</style>
