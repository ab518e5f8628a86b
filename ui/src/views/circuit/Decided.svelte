<script lang="ts">
  // What the log says of every lane's moves, and the last word to the instructor.
  import type { Circuit, Schemas } from '../../lib/api/client'
  import Why from '../../lib/parts/Why.svelte'
  import { partyName } from '../../lib/state/parties'
  import type { Editor } from '../../lib/state/editor.svelte'
  import { studio } from '../../lib/state/studio.svelte'
  import { circuit as t } from '../../lib/text/gen/circuit'
  import { nameOf } from '../../lib/text/names'

  type One = Schemas['Decided']
  let { circuit, editor }: { circuit: Circuit; editor: Editor } = $props()
  const items = $derived(circuit.items)
  const names = $derived(studio.names(items, circuit.occurrence))
  const hurts = (d: One) => d.joints.length > 0
  const decided = $derived(circuit.decided)
  const shown = $derived(decided.filter((d) => d.here))
  // Pain and what was set aside are always in sight.
  const first = $derived(shown.filter((d) => hurts(d) || d.overruled))
  const others = $derived(shown.filter((d) => !first.includes(d)))
  // What goes on as the log says, party by party: a class by name has a list for each.
  const byParty = $derived(Map.groupBy(others, (d) => d.party))

  /** Sets aside what the log says of a move, or follows it again. */
  function overrule(d: One): void {
    const old = circuit.document.overruled ?? []
    const rest = old.filter((o) => o.party !== d.party || !d.what.includes(o.what))
    const overruled = d.overruled ? rest : [...rest, ...d.what.map((what) => ({ party: d.party, what }))]
    editor.edit({ op: 'replace', document: { ...circuit.document, overruled } })
  }
</script>

{#snippet one(d: One)}
  <li>
    <span>{t.decidedFor(partyName(circuit.occurrence, d.party), studio.move(d.move))}</span>
    <b class:ember={hurts(d) && !d.overruled}>{d.overruled ? t.overruled : nameOf.advice[d.advice]}</b>
    <Why why={d.why} {names} label={studio.move(d.move)} />
    <button type="button" class="quiet" onclick={() => overrule(d)}
      >{d.overruled ? t.followAgain : hurts(d) && d.what[0] !== d.move ? t.cleared : t.overrule}<span class="sr"
        >: {partyName(circuit.occurrence, d.party)}, {studio.move(d.move)}</span
      ></button
    >
  </li>
{/snippet}

{#if shown.length > 0}
  <div id="decided">
    <h2>{t.decided}</h2>
    {#if first.length > 0}<ul class="plain">
        {#each first as d, i (i)}{@render one(d)}{/each}
      </ul>{/if}
    {#if others.length > 0}
      <details>
        <summary>{t.decidedOthers(others.length)}</summary>
        {#each byParty as [party, list] (party)}
          <details>
            <summary>{t.decidedPerson(partyName(circuit.occurrence, party), list.length)}</summary>
            <ul class="plain">
              {#each list as d, i (i)}{@render one(d)}{/each}
            </ul>
          </details>
        {/each}
      </details>
    {/if}
  </div>
{/if}

<style>
  li {
    display: flex;
    flex-wrap: wrap;
    gap: 2px 10px;
    align-items: baseline;
    padding: 3px 0;
  }
  .quiet {
    font: inherit;
    color: var(--accent);
    background: none;
    border: 0;
    min-height: 28px;
    padding: 2px 6px;
    text-decoration: underline;
    cursor: pointer;
  }
  summary {
    cursor: pointer;
  }
  details details {
    padding-left: 14px;
  }
</style>
