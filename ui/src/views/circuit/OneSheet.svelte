<script lang="ts">
  // Something of a class by itself, for one sheet of paper or a screen on the wall.
  import { Button } from 'carbon-components-svelte'
  import type { Snippet } from 'svelte'
  import type { Circuit, Problem as ProblemType } from '../../lib/api/client'
  import { route } from '../../lib/nav'
  import Problem from '../../lib/parts/Problem.svelte'
  import { when } from '../../lib/text/dates'
  import { common } from '../../lib/text/gen/common'
  import { moves as movesTexts } from '../../lib/text/gen/moves'
  import { ofClass } from './ofClass'

  interface Props {
    title: string
    /** What the button that prints says. */
    print: string
    /** In small print: much stands on it. */
    small?: boolean
    children: Snippet<[Circuit]>
  }
  const { title, print: printText, small = false, children }: Props = $props()
  const occurrence = (route.params as { occurrence?: string }).occurrence ?? ''
  let c = $state.raw<Circuit>()
  let problem = $state<ProblemType>()
  void ofClass(occurrence).then((a) => {
    c = a.data
    problem = a.problem
  })
</script>

<main class="page" class:compact={small} id="work">
  {#if problem}<Problem {problem} />{/if}
  {#if c}
    <div class="head">
      <div class="grow">
        <h1>{title}</h1>
        <p>{c.occurrence.name} · {when(c.occurrence.startMs, c.occurrence.timeZone)} · {c.occurrence.place}</p>
      </div>
      <span class="screen"><Button id="print-sheet" size="small" on:click={() => print()}>{printText}</Button></span>
    </div>
    {@render children(c)}
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
    .compact h1 {
      font-size: 12pt !important;
      margin: 0;
    }
    .compact p {
      font-size: 8pt !important;
      line-height: 1.15;
      margin: 1pt 0;
    }
  }
</style>
