<script lang="ts">
  // The class at thirty times its speed, as its kit sees it.
  import { Button } from 'carbon-components-svelte'
  import { onDestroy } from 'svelte'
  import { api, asking, type Circuit, type Problem as ProblemType, type Schemas } from '../../lib/api/client'
  import { handsAt } from '../../lib/draw/timetable'
  import Timetable from '../../lib/draw/Timetable.svelte'
  import Problem from '../../lib/parts/Problem.svelte'
  import { guestName, itemName } from '../../lib/state/floor'
  import { clock } from '../../lib/text/format'
  import { circuit as t } from '../../lib/text/gen/circuit'
  import { nameOf } from '../../lib/text/names'

  let { circuit }: { circuit: Circuit } = $props()
  const q = t.rehearsal
  const speed = 30
  let r = $state.raw<Schemas['Rehearsal']>()
  let problem = $state<ProblemType>()
  let at = $state(0)
  let playing = $state(false)
  $effect(() => {
    void circuit.version
    const params = { path: { circuit: circuit.id } }
    return asking(
      (signal) => api.GET('/api/circuits/{circuit}/rehearsal', { params, signal }),
      (a) => {
        r = a.data
        problem = a.problem
      },
    )
  })
  let frame = 0
  let last = 0
  function tick(now: number): void {
    if (!playing || !r) return
    at = Math.min(r.totalMs, at + (now - last) * speed)
    last = now
    if (at >= r.totalMs) playing = false
    else frame = requestAnimationFrame(tick)
  }
  function play(): void {
    if (!r) return
    playing = !playing
    if (!playing) return
    if (at >= r.totalMs) at = 0
    last = performance.now()
    frame = requestAnimationFrame(tick)
  }
  onDestroy(() => cancelAnimationFrame(frame))
  const now = $derived(r && handsAt(r, at))
  const stretch = $derived(r?.stretches.find((s) => s.fromMs <= at && at < s.untilMs))
  const slot = $derived(circuit.plan.slots.find((s) => s.id === (now?.slot ?? stretch?.slot)))
  const said = (x: Schemas['InHand']) => {
    const g = r?.guests[x.guest]
    const items = x.items.map((i) =>
      i.n > 1 ? t.floor.piece(i.n, itemName(circuit.items, i.item)) : itemName(circuit.items, i.item),
    )
    return { who: g ? guestName(circuit.occurrence, g) : '', items: items.join(', ') }
  }
  const holds = $derived((now?.holds ?? []).map(said).filter((x) => x.items !== ''))
  const waits = $derived((now?.waits ?? []).map(said))
  const title = $derived(
    [
      stretch ? nameOf.stretchKind[stretch.kind] : '',
      slot ? nameOf.pattern[slot.pattern] : '',
      stretch?.round ? q.round(stretch.round) : '',
      stretch?.wave &&
      (slot ? circuit.document.blocks.flatMap((b) => b.slots).find((s) => s.id === slot.id)?.waves : 1) !== 1
        ? q.wave(stretch.wave)
        : '',
    ]
      .filter(Boolean)
      .join(' · '),
  )
</script>

<p>{q.lead}</p>
{#if problem}<Problem {problem} />{/if}
{#if r}
  <div class="player">
    <Button id="rehearse" size="small" on:click={play}>{playing ? q.pause : q.play}</Button>
    <input
      id="rehearsal-at"
      type="range"
      min="0"
      max={r.totalMs}
      step="1000"
      aria-label={q.from}
      aria-valuetext={clock(at)}
      value={at}
      oninput={(e) => (at = Number(e.currentTarget.value))}
    />
    <b class="at" id="rehearsal-clock">{clock(at)}</b>
    <span id="rehearsal-now">{title}</span>
  </div>
  <Timetable rehearsal={r} items={circuit.items} atMs={at} onseek={(ms) => (at = ms)} />
  <div class="two">
    <section>
      <h2>{q.holds}</h2>
      <ul class="plain" id="holds">
        {#each holds as x, i (i)}<li>{q.holding(x.who, x.items)}</li>{:else}<li class="muted">{q.nobody}</li>{/each}
      </ul>
    </section>
    <section>
      <h2>{q.waits}</h2>
      <ul class="plain" id="waits">
        {#each waits as x, i (i)}<li>{x.items ? q.waitsFor(x.who, x.items) : x.who}</li>{:else}<li class="muted">
            {q.nobody}
          </li>{/each}
      </ul>
    </section>
  </div>
{/if}

<style>
  .player {
    display: flex;
    flex-wrap: wrap;
    gap: 12px;
    align-items: center;
    margin-bottom: 10px;
  }
  .player input {
    flex: 1 1 240px;
    max-width: 480px;
    min-height: 28px;
    accent-color: var(--accent);
  }
  .at {
    font-variant-numeric: tabular-nums;
    min-width: 56px;
  }
  .two {
    display: grid;
    grid-template-columns: repeat(auto-fit, minmax(260px, 1fr));
    gap: 8px 24px;
    min-height: 220px;
  }
</style>
