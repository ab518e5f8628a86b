<script lang="ts">
  // The one new cue of this class, and what waits behind it.
  import type { Schemas } from '../../lib/api/client'
  import { studio } from '../../lib/state/studio.svelte'
  import { moves as t } from '../../lib/text/gen/moves'

  let { queue }: { queue: Schemas['CueQueue'] | undefined } = $props()
  const fresh = $derived(queue?.moves.find((c) => c.fresh))
</script>

{#if queue}
  <div class="cues" id="cues">
    {#if fresh}
      <p><b>{t.freshCue}</b> · {studio.move(fresh.move)}: “{fresh.text}”</p>
      {#if queue.waiting.length > 0}
        <details>
          <summary>{t.cuesWait(queue.waiting.length)}</summary>
          <ul>
            {#each queue.waiting as c (c.move)}<li>{studio.move(c.move)}: {c.text}</li>{/each}
          </ul>
        </details>
      {/if}
    {:else}<p class="muted">{t.allTaught}</p>{/if}
  </div>
{/if}

<style>
  .cues {
    border-left: 4px solid var(--accent);
    padding: 2px 0 2px 12px;
    margin: 12px 0;
  }
  p {
    margin: 0;
  }
  ul {
    margin: 4px 0;
    padding-left: 18px;
    list-style: disc;
  }
</style>
