<script lang="ts">
  // What every lane does now, or next while nobody works; and the keys by which is told what
  // somebody of it did.
  import { doseText, range } from '../../lib/state/blocks'
  import { studio } from '../../lib/state/studio.svelte'
  import type { Schemas } from '../../lib/api/client'
  import { moves as t } from '../../lib/text/gen/moves'
  import { run as texts } from '../../lib/text/gen/run'
  import { nameOf } from '../../lib/text/names'
  import type { Party } from '../../lib/state/parties'
  import Instead from './Instead.svelte'
  import type { LiveRun } from './live.svelte'
  import Who from './Who.svelte'

  interface Props {
    live: LiveRun
    /** A second screen only shows. */
    wall: boolean
  }
  const { live, wall }: Props = $props()
  const p = texts.party
  const cues = $derived(new Map((live.run?.cues ?? []).map((c) => [c.move, c])))
  const shown = $derived(
    live.stretch && ['work', 'learn', 'hand-over', 'change-sides'].includes(live.stretch.kind)
      ? live.stretch
      : live.stretch?.kind === 'prep'
        ? undefined
        : live.next,
  )
  const slots = $derived(live.slotsOf(shown))
  /** The lighter set before the first heavy one, while it is done. */
  const ramp = $derived(live.stretch?.kind === 'prep' && live.stretch.slot ? live.run?.ramp?.sets : undefined)
  /** Of the set at hand, which in a rest is the one before: whom something is told of. */
  const set = $derived(live.slotsOf(live.set)[0])
  let changing = $state<{ party: string; slot: string }>()
  let stopping = $state<{ lane: string; slot: string }>()
  const clocked = (s: Schemas['RunSlot']) =>
    live.run?.blocks.find((b) => b.id === s.block)?.scheme?.circuit?.format === 'timed'
  // With many people by name a card for each would not be read: they are lines of their lane's.
  const compact = $derived(live.cards.length < live.lanes.length)
  let opened = $state('')
  function stop(lane: string, slot: string): void {
    if (live.others(lane).length > 0) stopping = { lane, slot }
    else live.did('stopped', lane, slot)
  }
</script>

{#snippet change(s: Schemas['RunSlot'], l: Party)}
  {#if live.cell(s.id, l.party)}
    <button
      type="button"
      id={`change-${s.id}-${l.party}`}
      aria-label={p.of(p.change, slots.length > 1 ? `${l.name}, ${live.title(s.id)}` : l.name)}
      onclick={() => (changing = { party: l.party, slot: s.id })}>{p.change}</button
    >
  {/if}
{/snippet}

{#snippet deeds(l: Party)}
  {#if !wall && !live.ended}
    <div class="did" role="group" aria-label={l.name}>
      {#if set && live.inWindow}
        <button
          type="button"
          id={`round-${l.party}`}
          aria-label={p.of(p.round(live.roundsOf(l.party)), l.name)}
          onclick={() => live.did('round', l.party, set.id)}>{p.round(live.roundsOf(l.party))}</button
        >
      {:else if set && live.byReps && !live.isDone(l.party)}
        <button
          type="button"
          id={`done-${l.party}`}
          aria-label={p.of(p.done, l.name)}
          onclick={() => live.did('done', l.party, set.id)}>{p.done}</button
        >
      {/if}
      {#if set && live.hasStopped(l.party)}
        <button
          type="button"
          id={`again-${l.party}`}
          aria-label={p.of(p.backIn, l.name)}
          onclick={() => live.did('again', l.party, set.id)}>{p.backIn}</button
        >
      {:else if set}
        <button
          type="button"
          id={`stopped-${l.party}`}
          aria-label={p.of(p.stopped, l.name)}
          onclick={() => stop(l.party, set.id)}>{p.stopped}</button
        >
      {/if}
      {#if slots.length === 1 && slots[0]}{@render change(slots[0], l)}{/if}
    </div>
  {/if}
{/snippet}

<div class="lanes">
  {#each live.cards as l (l.party)}
    {@const hands = live.hands(l.party)}
    <section class={`lane w${l.mark}`} aria-label={l.name}>
      <div class="who">
        <h2>{l.name}</h2>
        {@render deeds(l)}
        <b>{live.sideText(l.party)}</b>
      </div>
      {#if !wall && !live.ended}
        {@const mine = live.stoppedOf(l.party)}
        {#if mine}<p class="told" id={`told-${l.party}`}>{p.stoppedOf(mine)}</p>{/if}
        {#if live.isDone(l.party) && live.byReps}
          <p class="told">{p.isDone(live.untilWork)}</p>
        {/if}
      {/if}
      {#if hands}<p class="hands" id={`hands-${l.party}`}>{hands}</p>{/if}
      {#if ramp}
        {@const x = ramp.find((y) => y.party === l.party || y.party === l.lane)}
        {#if x}
          <p class="load">
            {live.run ? studio.loadText(x.entry.load, x.loadG, live.run.items) : ''}
            <span class="dose">{range(x.entry.dose.low ?? 0, x.entry.dose.high ?? 0)}</span>
          </p>
          <p class="move">{studio.move(x.entry.variant)}</p>
        {/if}
      {/if}
      {#each slots as s (s.id)}
        {@const c = live.cell(s.id, l.party)}
        {#if c}
          <p class="load">
            {live.load(c)} <span class="dose">{doseText(c, clocked(s))}</span>
            {#if live.changed(l.party, s.id)}<small class="fresh">{p.changed}</small>{/if}
            {#if slots.length > 1 && !wall && !live.ended}<span class="did">{@render change(s, l)}</span>{/if}
          </p>
          <p class="move">
            {studio.move(c.entry.variant)}{c.entry.load.kind === 'none' ? '' : `, ${nameOf.hold[c.entry.hold]}`}
          </p>
          {@const cue = cues.get(c.entry.variant)}
          {@const parts = studio.moves.get(c.entry.variant)?.parts ?? []}
          {#if parts.length > 0}<p class="parts">
              {parts.map((x) => t.part(x.reps, x.to === x.reps ? undefined : x.to, x.move)).join(' · ')}
            </p>{/if}
          {#if slots.length === 1}
            <p class="dim">
              {#if cue?.fresh}<b class="fresh">{t.freshCue}:</b>{/if}
              {cue?.text ?? ''}
            </p>
          {/if}
          {#if c.cautions.length > 0}<p class="caution">{c.cautions.join(' ')}</p>{/if}
        {/if}
      {/each}
      {#if compact && l.party === l.lane}
        {#if slots.length > 0 && slots.every((s) => !live.cell(s.id, l.party))}<p class="dim">{p.eachOwn}</p>{/if}
        <ul class="people" aria-label={p.theirs(l.name)}>
          {#each live.lanes.filter((x) => x.lane === l.lane && x.party !== l.party) as x (x.party)}
            {@const own = slots.map((s) => live.cell(s.id, x.party)).filter((c) => c !== undefined)}
            {#if own.length > 0}
              <li>
                {#if wall}<b>{x.name}</b>{:else}<button
                    type="button"
                    class="name"
                    id={`person-${x.party}`}
                    aria-expanded={opened === x.party}
                    onclick={() => (opened = opened === x.party ? '' : x.party)}>{x.name}</button
                  >{/if}
                {#each own as c, i (i)}
                  {@const of = slots[i] && live.cell(slots[i].id, l.party)}
                  <span class="theirs"
                    >{live.load(c)}{c.entry.variant === of?.entry.variant
                      ? ''
                      : ` ${studio.move(c.entry.variant)}`}</span
                  >
                {/each}
                {#if live.sideText(x.party)}<b class="turn">{live.sideText(x.party)}</b>{/if}
                {#if live.stoppedOf(x.party)}<small class="told">{p.stopped}</small>{/if}
                {#if opened === x.party && !wall}
                  {@render deeds(x)}
                  {#each own as c, i (i)}{#if c.cautions.length > 0}<p class="caution">
                        {c.cautions.join(' ')}
                      </p>{/if}{/each}
                {/if}
              </li>
            {/if}
          {/each}
        </ul>
      {/if}
    </section>
  {/each}
</div>
{#if changing}<Instead {live} party={changing.party} slot={changing.slot} onclose={() => (changing = undefined)} />{/if}
{#if stopping}<Who {live} lane={stopping.lane} slot={stopping.slot} onclose={() => (stopping = undefined)} />{/if}

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
    flex-wrap: wrap;
    align-items: center;
    gap: 4px 10px;
    color: var(--dim);
  }
  .lane h2 {
    font-size: inherit;
    font-weight: 400;
    margin: 0;
  }
  .lane .who > b {
    margin-left: auto;
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
  .lane .dose {
    font-size: 0.75em;
  }
  .lane small {
    font-size: 0.5em;
  }
  .lane .hands,
  .lane .told {
    color: var(--call);
    font-weight: 600;
  }
  span.did {
    float: right;
  }
  .did {
    display: flex;
    flex-wrap: wrap;
    gap: 6px;
    font-size: 14px;
  }
  .did button {
    font: inherit;
    color: var(--pale);
    background: var(--dark);
    border: 1px solid #566070;
    border-radius: 4px;
    min-height: 36px;
    padding: 2px 10px;
    cursor: pointer;
  }
  .fresh {
    color: var(--call);
  }
  .people {
    list-style: none;
    margin: 6px 0 0;
    padding: 0;
    border-top: 1px solid #566070;
  }
  .people li {
    display: flex;
    flex-wrap: wrap;
    align-items: baseline;
    gap: 2px 10px;
    padding: 2px 0;
  }
  .people .name {
    font: inherit;
    color: var(--dim);
    background: none;
    border: 0;
    padding: 0;
    min-height: 24px;
    text-decoration: underline dotted;
    cursor: pointer;
    text-align: left;
  }
  .people .theirs {
    font-weight: 600;
  }
  .people .turn {
    color: var(--call);
  }
  .people .did {
    flex-basis: 100%;
  }
  @media (max-width: 700px) {
    .lanes {
      grid-auto-flow: row;
    }
  }
</style>
