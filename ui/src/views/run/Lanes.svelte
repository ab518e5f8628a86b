<script lang="ts">
  // What every lane does now, or next while nobody works.
  import { studio } from '../../lib/state/studio.svelte'
  import { moves as t } from '../../lib/text/gen/moves'
  import { nameOf } from '../../lib/text/names'
  import type { LiveRun } from './live.svelte'

  const { live }: { live: LiveRun } = $props()
  const cues = $derived(new Map((live.run?.cues ?? []).map((c) => [c.move, c])))
  const slot = $derived(
    live.stretch && ['work', 'learn', 'hand-over'].includes(live.stretch.kind)
      ? live.stretch.slot
      : live.stretch?.kind === 'prep'
        ? undefined
        : live.next?.slot,
  )
</script>

<div class="lanes">
  {#each live.lanes as l (l.party)}
    {@const c = live.cell(slot, l.party)}
    <section class={`lane w${l.mark}`} aria-label={l.name}>
      <p class="who"><span>{l.name}</span> <b>{live.sideText(l.party)}</b></p>
      {#if c}
        <p class="load">{live.load(c)}</p>
        <p class="move">
          {studio.move(c.entry.variant)}{c.entry.load.kind === 'none' ? '' : `, ${nameOf.hold[c.entry.hold]}`}
        </p>
        {@const cue = cues.get(c.entry.variant)}
        {@const parts = studio.moves.get(c.entry.variant)?.parts ?? []}
        {#if parts.length > 0}<p class="parts">
            {parts.map((x) => t.part(x.reps, x.to === x.reps ? undefined : x.to, x.move)).join(' · ')}
          </p>{/if}
        <p class="dim">
          {#if cue?.fresh}<b class="fresh">{t.freshCue}:</b>{/if}
          {cue?.text ?? ''}
        </p>
        {#if c.cautions.length > 0}<p class="caution">{c.cautions.join(' ')}</p>{/if}
      {/if}
    </section>
  {/each}
</div>

<style>
  .lanes {
    display: grid;
    grid-auto-flow: column;
    grid-auto-columns: minmax(0, 1fr);
    gap: 12px;
  }
  .lane {
    background: var(--box);
    padding: 10px 14px;
    border-bottom: 3px solid var(--go);
  }
  .lane.w2 {
    box-shadow:
      inset 0 -3px 0 var(--box),
      inset 0 -6px 0 var(--go);
    padding-bottom: 16px;
  }
  .lane.w3 {
    box-shadow:
      inset 0 -3px 0 var(--box),
      inset 0 -6px 0 var(--go),
      inset 0 -9px 0 var(--box),
      inset 0 -12px 0 var(--go);
    padding-bottom: 22px;
  }
  .lane p {
    margin: 0;
    font-size: inherit;
    line-height: 1.3;
  }
  .lane .who {
    display: flex;
    justify-content: space-between;
    gap: 8px;
    color: var(--dim);
  }
  .lane .who b {
    color: var(--call);
    font-size: 1.2em;
  }
  .lane .load {
    font-size: 1.9em;
    font-weight: 600;
    line-height: 1.2;
  }
  /* What to do is read across the room, as the clock is. */
  .lane .move {
    font-size: 1.6em;
    line-height: 1.15;
  }
  .lane .dim {
    color: var(--dim);
  }
  .lane .caution {
    font-size: max(0.7em, 12px);
    line-height: 1.25;
    border-left: 3px solid var(--call);
    padding-left: 8px;
    margin-top: 4px;
  }
  .fresh {
    color: var(--call);
  }
  @media (max-width: 700px) {
    .lanes {
      grid-auto-flow: row;
    }
  }
</style>
