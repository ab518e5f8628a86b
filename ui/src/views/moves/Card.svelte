<script lang="ts">
  // All there is to say of one move, the ladder it stands on first.
  import { api, ask, type MoveCard, type Schemas } from '../../lib/api/client'
  import Figure from '../../lib/draw/Figure.svelte'
  import Glyph from '../../lib/draw/Glyph.svelte'
  import Ladder from '../../lib/draw/Ladder.svelte'
  import Words from '../../lib/parts/Words.svelte'
  import { studio } from '../../lib/state/studio.svelte'
  import { moves as t } from '../../lib/text/gen/moves'
  import { lookup, nameOf } from '../../lib/text/names'

  interface Props {
    card: MoveCard
    /** The rungs of its ladder, the easiest first. */
    rungs: MoveCard[]
    onpick: (id: string) => void
  }
  let { card, rungs, onpick }: Props = $props()
  // Called footwork has calls of its own each day.
  let footwork = $state.raw<Schemas['Footwork']>()
  $effect(() => {
    footwork = undefined
    if (card.id === 'called-footwork') void ask(api.GET('/api/footwork')).then((a) => (footwork = a.data))
  })
  const range = (low: number, high: number) => t.range(low === high ? undefined : low, high)
  const demands = $derived(Object.entries(card.demands).sort((a, b) => b[1] - a[1]))
  const shares = $derived(Object.entries(card.emphasis ?? {}).sort((a, b) => b[1] - a[1]))
  const needs = $derived([
    ...card.needs.map((n) => nameOf.anchor[n] ?? n),
    ...(card.room ?? []).map((r) => nameOf.room[r] ?? r),
    t.space(studio.unit, (card.spaceCm[0] ?? 0) * 10, (card.spaceCm[1] ?? 0) * 10),
  ])
</script>

{#snippet link(id: string)}<button type="button" class="link" onclick={() => onpick(id)}>{studio.move(id)}</button
  >{/snippet}

<article aria-labelledby="move-name">
  <h2 id="move-name" tabindex="-1">
    <svg width="22" height="22" aria-hidden="true"><Glyph pattern={card.pattern} x={3} y={3} /></svg>
    {card.name}
  </h2>
  <p class="muted">
    {nameOf.pattern[card.pattern]} · {nameOf.plane[card.plane]} · {nameOf.role[card.role]} · {nameOf.loadClass[
      card.class
    ]}{#if card.also?.length}
      · {t.also(card.also)}{/if}
  </p>
  <p class="purpose"><Words text={card.purpose} /></p>
  {#if card.gate}<p class="ember" id="gate">{nameOf.gate[card.gate]}</p>{/if}
  {#if card.figure}<Figure figure={card.figure} />{/if}

  <div class="say">
    <h3>{t.cue}</h3>
    <p class="cue"><Words text={card.cues[0] ?? ''} /></p>
    {#if card.cues.length > 1}
      <details>
        <summary>{t.waiting(card.cues.length - 1)}</summary>
        <ol start="2">
          {#each card.cues.slice(1) as c (c)}<li>{c}</li>{/each}
        </ol>
      </details>
    {/if}
  </div>

  <h3>{t.ladder}</h3>
  {#if rungs.length > 1}
    <Ladder {rungs} here={card.id} {onpick} />
    <dl>
      {#if card.harder}<dt>{t.up}</dt>
        <dd><Words text={card.test ?? ''} /> {t.harder}: {@render link(card.harder)}</dd>{/if}
      {#if card.easier}<dt>{t.down}</dt>
        <dd><Words text={card.down ?? ''} /> {t.easier}: {@render link(card.easier)}</dd>{/if}
    </dl>
  {:else}<p class="muted">{t.noLadder}</p>{/if}
  {#if card.learn?.length}
    <p>
      <b>{t.learn}</b>
      {#each card.learn as id, i (id)}{i > 0 ? ', ' : ''}{@render link(id)}{/each}
    </p>
  {/if}

  <div class="two">
    <section>
      <h3>{t.setup}</h3>
      <ol>
        {#each card.setup as s (s)}<li><Words text={s} /></li>{/each}
        {#each card.held as h (h.hold)}<li>
            {#if h.hold !== 'none'}<b>{nameOf.hold[h.hold]}:</b>{/if}
            <Words text={h.line} />
          </li>{/each}
      </ol>
      <h3>{t.fault}</h3>
      <p>
        <b>{card.fault.what}.</b>
        <Words text={`${t.sign(card.fault.sign)} ${t.mend(card.fault.mend)}`} />
      </p>
      <dl>
        <dt>{t.dose}</dt>
        <dd>
          {(card.sides === 'per-side' ? t.repsSide : t.reps)(card.repsLow, card.repsHigh)} · {card.tempo} ·
          {t.perRep(card.repMs)}
        </dd>
        <dt>{t.needs}</dt>
        <dd>{needs.join(', ')}</dd>
        <dt>{t.show}</dt>
        <dd>{nameOf.view[card.view]}</dd>
        <dt>{t.shoes}</dt>
        <dd>{nameOf.shoes[card.shoes]}</dd>
      </dl>
      {#if card.parts?.length}
        <h3>{t.parts}</h3>
        <ol>
          {#each card.parts as x (x.move)}<li>{t.part(x.reps, x.to === x.reps ? undefined : x.to, x.move)}</li>{/each}
        </ol>
      {/if}
      {#if card.counts?.length}
        <h3>{t.aSet}</h3>
        <ul id="counts">
          {#each card.counts as n (n.move)}
            <li>
              {card.sides === 'per-side'
                ? t.partCountSide(n.move, range(n.perSide, n.perSideMost), range(n.total, n.totalMost))
                : t.partCount(n.move, range(n.total, n.totalMost))}
            </li>
          {/each}
        </ul>
        {#if card.weakest}<p>{t.weakest(card.weakest, card.lightFor ?? [])}</p>{/if}
      {/if}
      {#if card.stages?.length}
        <h3>{t.stages}</h3>
        <ol id="stages">
          {#each card.stages as id, i (i)}<li>{studio.move(id)}</li>{/each}
        </ol>
      {/if}
      {#if footwork}
        <h3>{t.footwork(footwork.date, footwork.everyMs)}</h3>
        <ol id="footwork">
          {#each footwork.calls as c, i (i)}<li>{nameOf.direction[c]}</li>{/each}
        </ol>
      {/if}
    </section>
    <section>
      <h3>{t.asks}</h3>
      <ul class="bars">
        {#each demands as [j, n] (j)}
          <li>
            <span>{lookup(nameOf.joint, j)}</span>
            <svg viewBox="0 0 36 10" aria-hidden="true"
              >{#each [0, 1, 2] as i (i)}<rect class:on={i < n} x={i * 12} y="1" width="10" height="8" />{/each}</svg
            >
            <span class="muted">{nameOf.asksLevel[n]}</span>
          </li>
        {/each}
      </ul>
      {#if shares.length > 0}
        <h3>{t.shares}</h3>
        <ul class="bars">
          {#each shares as [r, n] (r)}
            <li>
              <span>{nameOf.region[r]}</span>
              <svg viewBox="0 0 100 10" preserveAspectRatio="none" aria-hidden="true"
                ><rect class="on" x="0" y="1" width={n * 100} height="8" /></svg
              >
              <span class="muted">{t.share(n)}</span>
            </li>
          {/each}
        </ul>
      {/if}
    </section>
  </div>

  <h3>{t.ends}</h3>
  <ul>
    {#each card.ends as e (e)}<li>{e}</li>{/each}
  </ul>
  <p class="muted">{t.burn}</p>
  {#if card.allCautions.length > 0}
    <h3>{t.cautions}</h3>
    <ul>
      {#each card.allCautions as c (c)}<li>{c}</li>{/each}
    </ul>
  {/if}
  <h3>{t.stop}</h3>
  <ul>
    {#each card.stop as s (s)}<li>{s}</li>{/each}
  </ul>
  <p class="muted">{t.stopAlways}</p>
</article>

<style>
  h2 {
    font-size: 20px;
    margin: 0;
    display: flex;
    gap: 8px;
    align-items: center;
  }
  .purpose {
    font-size: 16px;
  }
  .say {
    border-left: 4px solid var(--accent);
    padding-left: 12px;
    margin: 12px 0;
  }
  .say h3 {
    margin-top: 0;
  }
  .cue {
    font-size: 18px;
    font-weight: 600;
    margin: 0;
  }
  ol,
  ul {
    margin: 4px 0;
    padding-left: 20px;
    list-style: revert;
  }
  dl {
    display: grid;
    grid-template-columns: max-content 1fr;
    gap: 4px 12px;
    margin: 10px 0;
  }
  dt {
    color: var(--muted);
  }
  dd {
    margin: 0;
  }
  .two {
    display: grid;
    grid-template-columns: 1fr 1fr;
    gap: 0 28px;
  }
  .bars {
    list-style: none;
    padding: 0;
  }
  .bars li {
    display: grid;
    grid-template-columns: 130px 72px 1fr;
    gap: 8px;
    align-items: center;
  }
  .bars svg {
    height: 10px;
    width: 72px;
  }
  .bars rect {
    fill: var(--soft);
  }
  .bars rect.on {
    fill: var(--accent);
  }
  .link {
    font: inherit;
    color: var(--accent);
    background: none;
    border: 0;
    padding: 2px 0;
    min-height: 24px;
    cursor: pointer;
    text-decoration: underline;
  }
  @media (max-width: 900px) {
    .two {
      grid-template-columns: 1fr;
    }
  }
</style>
