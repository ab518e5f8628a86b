<script lang="ts">
  // What the log says of every lane's moves, and the last word to the instructor.
  import type { Circuit, Schemas } from '../../lib/api/client'
  import Why from '../../lib/parts/Why.svelte'
  import type { Editor } from '../../lib/state/editor.svelte'
  import { studio } from '../../lib/state/studio.svelte'
  import { advice, lane as laneName, t } from '../../lib/text/catalogue'

  type One = Schemas['Decided']
  let { circuit, editor }: { circuit: Circuit; editor: Editor } = $props()
  const names = $derived(studio.names(circuit.items))
  const hurts = (d: One) => d.joints.length > 0
  const inPlan = (d: One) => circuit.document.slots.some((s) => s.lanes[d.lane]?.variant === d.move)
  const shown = $derived(circuit.decided.filter((d) => hurts(d) || d.overruled || inPlan(d)))

  /** Sets aside what the log says of a move, or follows it again. */
  function overrule(d: One): void {
    const old = circuit.document.overruled ?? []
    const rest = old.filter((o) => o.lane !== d.lane || o.what !== d.move)
    const overruled = d.overruled ? rest : [...rest, { lane: d.lane, what: d.move }]
    editor.edit({ op: 'replace', document: { ...circuit.document, overruled } })
  }
</script>

{#if shown.length > 0}
  <h2>{t.circuit.decided}</h2>
  <ul class="plain" id="decided">
    {#each shown as d (d.lane + d.move)}
      <li>
        <span>{t.circuit.decidedFor(laneName[d.lane], studio.move(d.move))}</span>
        <b class:ember={hurts(d) && !d.overruled}>{d.overruled ? t.circuit.overruled : advice[d.advice]}</b>
        <Why why={d.why} {names} label={studio.move(d.move)} />
        <button type="button" class="quiet" onclick={() => overrule(d)}
          >{d.overruled ? t.circuit.followAgain : t.circuit.overrule}<span class="sr"
            >: {laneName[d.lane]}, {studio.move(d.move)}</span
          ></button
        >
      </li>
    {/each}
  </ul>
{/if}

<style>
  li {
    display: flex;
    flex-wrap: wrap;
    gap: 2px 10px;
    align-items: baseline;
    padding: 3px 0;
  }
</style>
