<script lang="ts">
  import Scroll from '../parts/Scroll.svelte'
  import type { Cell, Circuit } from '../api/client'
  import { parties } from '../state/parties'
  import { studio } from '../state/studio.svelte'
  import { clock, span } from '../text/format'
  import { circuit as circuitTexts } from '../text/gen/circuit'
  import { common } from '../text/gen/common'
  import { nameOf } from '../text/names'
  import Glyph from './Glyph.svelte'
  import { lines, outlines, stave, strip } from './score'

  interface Props {
    circuit: Circuit
    slot: string
    /** The party that is chosen in it. */
    party: string
    /** Without it the score is only looked at. */
    onpick?: (slot: string, party: string, byKeys?: boolean) => void
  }
  let { circuit, slot, party, onpick }: Props = $props()

  let width = $state(900)
  const label = 86 // room for the names of lanes and people
  const head = 62
  const row = 102
  const items = $derived(circuit.items)
  const staves = $derived(parties(circuit.occurrence, circuit.plan.slots))
  const blocks = $derived(strip(circuit.plan, width))
  const kinds = $derived(outlines(blocks))
  // What the pointer is over is told as a title tells it.
  let over = $state('')
  function point(e: PointerEvent & { currentTarget: SVGElement }): void {
    const x = e.clientX - e.currentTarget.getBoundingClientRect().left
    const b = blocks.find((b) => x >= b.x && x < b.x + b.width)
    over = b ? `${nameOf.blockKind[b.kind] ?? ''} ${span(b.untilMs - b.fromMs)}` : ''
  }
  const round = $derived(stave(circuit.plan, width - label, 82))
  const height = $derived(head + staves.length * row + 24)
  // What is written on the strip: prep and close, and where a round begins.
  const written = $derived(
    blocks.flatMap((b, i) => {
      const before = blocks[i - 1]
      if ((b.kind === 'prep' || b.kind === 'close') && b.width > 44)
        return [{ kind: b.kind, x: b.x + 6, text: nameOf.blockKind[b.kind] }]
      if (b.kind === 'work' && ((before?.round ?? 0) < b.round || before?.kind === 'round-rest'))
        return [{ kind: 'work', x: b.x + 4, text: String(b.round) }]
      return []
    }),
  )

  // One stop for Tab: the box chosen, else the first there is; arrows go from it.
  const stop = $derived.by(() => {
    const has = (s: string, p: string) =>
      circuit.plan.slots.some((x) => x.id === s && x.cells.some((c) => c.party === p))
    if (slot && party && has(slot, party)) return `${slot} ${party}`
    const first = circuit.plan.slots.find((x) => x.cells.length > 0)
    return first ? `${first.id} ${staves.find((v) => has(first.id, v.party))?.party ?? ''}` : ''
  })

  function cellOf(slotIndex: number, of: string): Cell | undefined {
    return circuit.plan.slots[slotIndex]?.cells.find((c) => c.party === of)
  }
  function repsText(c: Cell): string {
    const slow = c.entry.tempo !== (studio.moves.get(c.entry.variant)?.tempo ?? c.entry.tempo)
    const n = c.twoSides ? common.aSide(c.perSide) : common.inAll(c.perSide)
    return slow ? `${n} · ${c.entry.tempo}` : n
  }
  function loadOf(c: Cell): string {
    return studio.loadText(c.entry.load, c.loadG, items)
  }
  function key(e: KeyboardEvent, slotIndex: number, staveIndex: number): void {
    const moves: Record<string, [number, number]> = {
      ArrowLeft: [-1, 0],
      ArrowRight: [1, 0],
      ArrowUp: [0, -1],
      ArrowDown: [0, 1],
      Enter: [0, 0],
      ' ': [0, 0],
    }
    const m = moves[e.key]
    if (!m || !onpick) return
    e.preventDefault()
    const s = circuit.plan.slots[slotIndex + m[0]]
    const l = staves[staveIndex + m[1]]
    if (!s || !l) return
    onpick(s.id, l.party, e.key === 'Enter' || e.key === ' ')
    if (m[0] !== 0 || m[1] !== 0) document.getElementById(`cell-${s.id}-${l.party}`)?.focus()
  }
</script>

<div class="score" bind:clientWidth={width}>
  <h2 class="small">{circuitTexts.wholeClass}</h2>
  <svg
    class="strip"
    viewBox={`0 0 ${width} 26`}
    {width}
    height="26"
    role="img"
    aria-label={`${circuitTexts.wholeClass}: ${clock(circuit.plan.totalMs)}`}
    onpointermove={point}
  >
    {#if over}<title>{over}</title>{/if}
    {#each kinds as k (k.kind)}<path class={`block ${k.kind}`} d={k.d} />{/each}
    {#each written as w, i (i)}<text class={`on-${w.kind}`} x={w.x} y="15">{w.text}</text>{/each}
    <rect
      class="end"
      x={Math.min((circuit.plan.classMs / Math.max(circuit.plan.totalMs, circuit.plan.classMs)) * width, width) - 2}
      y="0"
      width="2"
      height="26"
    />
  </svg>

  <!-- svelte-ignore a11y_no_noninteractive_tabindex -->
  <Scroll label={circuitTexts.round(1)}>
    <svg class="staves" width={round.width + label} {height} viewBox={`0 0 ${round.width + label} ${height}`}>
      <text class="strong" x="0" y="18">{circuitTexts.round(1)}</text>
      {#each staves as l, li (l.party)}
        <g transform={`translate(0 ${head + li * row})`}>
          <text class="lane" id={`lane-${l.party}`} x="0" y="34">{lines(l.name, 9, 1)[0]}</text>
          <text class="muted" x="0" y="52">{common.people(l.people)}</text>
          {#each { length: l.mark }, n (n)}
            <line
              class="line"
              x1={label - 8}
              x2={label + round.width}
              y1={row / 2 - 4 + n * 4}
              y2={row / 2 - 4 + n * 4}
            />
          {/each}
        </g>
      {/each}
      {#each round.slots as s, si (s.id)}
        {@const sp = circuit.plan.slots[si]}
        {#if sp}
          <!-- A slot moves as one: nothing in it is laid out anew for that. -->
          <g transform={`translate(${label + s.x} 0)`}>
            <Glyph pattern={sp.pattern} x={2} y={4} />
            <text id={`head-${s.id}`} class="strong" class:picked={slot === s.id} x="24" y="17"
              >{lines(
                nameOf.pattern[sp.pattern] ?? sp.pattern,
                Math.floor((s.width + s.restWidth - 24) / 7.4),
                1,
              )[0]}</text
            >
            <text class="muted" x="2" y="38"
              >{span(sp.workMs)}{(circuit.document.slots[si]?.waves ?? 1) > 1
                ? ` · ${circuitTexts.waves(circuit.document.slots[si]?.waves ?? 1)}`
                : ''}</text
            >
            {#if s.restWidth > 0}
              <rect class="gap" x={s.width} y={head - 8} width={s.restWidth} height={staves.length * row + 8} />
              <text
                class={sp.grown ? 'grown' : 'muted'}
                text-anchor="middle"
                x={s.width + s.restWidth / 2}
                y={height - 6}>{sp.restMs / 1000}</text
              >
            {/if}
            {#each staves as l, li (l.party)}
              {@const c = cellOf(si, l.party)}
              {#if c}
                {@const name = lines(studio.move(c.entry.variant), Math.floor((s.width - 10) / 6.7), 3)}
                <g
                  id={`cell-${s.id}-${l.party}`}
                  class="cell"
                  class:picked={slot === s.id && party === l.party}
                  class:missing={c.missing}
                  role={onpick ? 'button' : undefined}
                  tabindex={onpick ? (stop === `${s.id} ${l.party}` ? 0 : -1) : undefined}
                  aria-pressed={onpick ? slot === s.id && party === l.party : undefined}
                  aria-describedby={onpick ? `head-${s.id} lane-${l.party}` : undefined}
                  onclick={() => onpick?.(s.id, l.party)}
                  onkeydown={(e) => key(e, si, li)}
                >
                  <rect x="0" y={head + li * row} width={s.width} height={row - 8} rx="2" />
                  {#each name as part, n (n)}
                    <text x="6" y={head + li * row + 16 + n * 14}>{part}</text>
                  {/each}
                  <text class="load" x="6" y={head + li * row + 66}>{loadOf(c)}</text>
                  <text class="muted" x="6" y={head + li * row + 84}
                    >{c.missing ? circuitTexts.missing : repsText(c)}</text
                  >
                </g>
              {/if}
            {/each}
          </g>
        {/if}
      {/each}
      <text class="muted" x="0" y={height - 6}>{circuitTexts.changeOver}</text>
    </svg>
  </Scroll>
</div>
