<script lang="ts">
  // A text whose words of the trade open what they mean.
  import { glossary } from '../state/glossary'

  let { text }: { text: string } = $props()
  const uid = $props.id()
  const parts = $derived(glossary.split(text))
</script>

{#each parts as p, i (i)}{#if p.means}<button type="button" class="word" popovertarget={`${uid}-${i}`}>{p.text}</button
    ><span popover="auto" id={`${uid}-${i}`} class="means">{p.means}</span>{:else}{p.text}{/if}{/each}

<style>
  .word {
    font: inherit;
    color: inherit;
    background: none;
    border: 0;
    border-bottom: 1px dotted var(--accent);
    padding: 0;
    cursor: help;
  }
  .means {
    border: 1px solid var(--line);
    background: var(--panel);
    color: var(--ink);
    padding: 10px 14px;
    max-width: 320px;
    font-size: 14px;
    font-weight: 400;
  }
</style>
