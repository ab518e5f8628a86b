<script lang="ts">
  // Blocks as sections of one drawing: time goes left to right, a stave is a lane or
  // somebody. Of each block one round stands there, or one set of every slot.
  import Scroll from '../parts/Scroll.svelte'
  import type { Cell, Circuit } from '../api/client'
  import { blockOf, blockTime, blockTitle, byClock, doseText, schemeText, slotsOf, type Block } from '../state/blocks'
  import { parties } from '../state/parties'
  import { studio } from '../state/studio.svelte'
  import { clock, span } from '../text/format'
  import { circuit as circuitTexts } from '../text/gen/circuit'
  import { common } from '../text/gen/common'
  import { nameOf } from '../text/names'
  import Glyph from './Glyph.svelte'
  import { lines, outlines, sections, strip, type Section } from './score'

  interface Props {
    circuit: Circuit
    slot: string
    /** The party that is chosen in it. */
    party: string
    /** The block that is chosen. */
    block?: string
    /** Without it the score is only looked at. */
    onpick?: (slot: string, party: string, byKeys?: boolean) => void
    onblock?: (block: string) => void
    /** A slot goes to a place of a block, or a block to a place in the order. */
    onmove?: (what: { slot: string; block: string } | { block: string }, place: number) => void
  }
  let { circuit, slot, party, block = '', onpick, onblock, onmove }: Props = $props()

  let width = $state(900)
  const label = 86 // room for the names of lanes and people
  const head = 100
  const row = 102
  const items = $derived(circuit.items)
  const document_ = $derived(circuit.document)
  const slots = $derived(slotsOf(document_))
  // The lanes, and of those with something of their own whoever is opened or chosen.
  let opened = $state<Record<string, boolean>>({})
  const all = $derived(parties(circuit.occurrence, circuit.plan.slots))
  const isLane = (p: string) => p in nameOf.lane
  const staves = $derived(
    all.filter(
      (v) => isLane(v.party) || opened[v.lane] || v.party === party || !all.some((x) => x.party === (v.lane as string)),
    ),
  )
  const differ = (lane: string) => all.filter((v) => v.lane === lane && !isLane(v.party)).length
  const differIn = (slotIndex: number, lane: string) =>
    circuit.plan.slots[slotIndex]?.cells.filter((c) => c.lane === lane && c.party !== lane).length ?? 0
  function toggle(lane: string): void {
    opened = { ...opened, [lane]: !opened[lane] }
  }
  const pieces = $derived(strip(circuit.plan, width))
  const kinds = $derived(outlines(pieces))
  // What the pointer is over is told as a title tells it.
  let over = $state('')
  function point(e: PointerEvent & { currentTarget: SVGElement }): void {
    const x = e.clientX - e.currentTarget.getBoundingClientRect().left
    const b = pieces.find((b) => x >= b.x && x < b.x + b.width)
    over = b ? `${nameOf.stretchKind[b.kind] ?? ''} ${span(b.untilMs - b.fromMs)}` : ''
  }
  const placed = $derived(sections(circuit, width - label, 82))
  const wide = $derived(Math.max(0, ...placed.map((x) => x.x + x.width)))
  const height = $derived(head + staves.length * row + 24)
  // What is written on the strip: prep and close, and where a round begins.
  const written = $derived(
    pieces.flatMap((b, i) => {
      const before = pieces[i - 1]
      if ((b.kind === 'prep' || b.kind === 'close') && b.width > 44)
        return [{ kind: b.kind, x: b.x + 6, text: nameOf.stretchKind[b.kind] }]
      const begins = (before?.round ?? 0) < b.round || before?.kind === 'round-rest' || before?.block !== b.block
      if (b.kind === 'work' && begins && b.width > 10) return [{ kind: 'work', x: b.x + 4, text: String(b.round) }]
      return []
    }),
  )
  const fixed = (id: string) => document_.blocks.find((b) => b.id === id)

  // One stop for Tab among the blocks and one among the boxes: what is chosen, else the first
  // there is; arrows go from it.
  const blockStop = $derived(document_.blocks.some((b) => b.id === block) ? block : document_.blocks[0]?.id)
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
  function repsText(c: Cell, b: Block | undefined): string {
    const tempo = c.entry.tempo ?? ''
    const slow = tempo !== '' && tempo !== (studio.moves.get(c.entry.variant)?.tempo ?? tempo)
    const n = doseText(c, byClock(b))
    return slow ? `${n} · ${tempo}` : n
  }
  /** A line cut to a width: figures are narrower than words. */
  const fitted = (text: string, wide: number) =>
    lines(text, Math.floor(wide / (/[a-z]{3}/.test(text) ? 6.2 : 5.6)), 1)[0]
  function loadOf(c: Cell): string {
    return studio.loadText(c.entry.load, c.loadG, items)
  }

  const arrows: Record<string, [number, number]> = {
    ArrowLeft: [-1, 0],
    ArrowRight: [1, 0],
    ArrowUp: [0, -1],
    ArrowDown: [0, 1],
    Enter: [0, 0],
    ' ': [0, 0],
  }
  const keysTo = (id: string) => document.getElementById(id)?.focus()
  function key(e: KeyboardEvent, slotIndex: number, staveIndex: number): void {
    const m = arrows[e.key]
    if (!m || !onpick) return
    e.preventDefault()
    const here = circuit.plan.slots[slotIndex]
    const from = here && blockOf(document_, here.id)
    if (e.altKey && here && from) {
      // With Alt an arrow moves the slot itself.
      const place = from.slots.findIndex((s) => s.id === here.id) + m[0]
      if (m[0] === 0) return
      if (place >= 0 && place < from.slots.length) onmove?.({ slot: here.id, block: from.id }, place)
      else beyond(here.id, from.id, m[0])
      return
    }
    if (m[1] < 0 && staveIndex === 0 && from) {
      onblock?.(from.id)
      keysTo(`block-${from.id}`)
      return
    }
    const s = circuit.plan.slots[slotIndex + m[0]]
    const l = staves[staveIndex + m[1]]
    if (!s || !l) return
    onpick(s.id, l.party, e.key === 'Enter' || e.key === ' ')
    if (m[0] !== 0 || m[1] !== 0) keysTo(`cell-${s.id}-${l.party}`)
  }
  /** A slot goes past the end of its block into the next that takes slots, or the one before. */
  function beyond(slot: string, from: string, by: number): void {
    const at = document_.blocks.findIndex((b) => b.id === from)
    const on = by > 0 ? document_.blocks.slice(at + 1) : document_.blocks.slice(0, at).reverse()
    const to = on.find((b) => !b.auto)
    if (to) onmove?.({ slot, block: to.id }, by > 0 ? 0 : to.slots.length)
  }
  function blockKey(e: KeyboardEvent, at: number): void {
    const m = arrows[e.key]
    const here = document_.blocks[at]
    if (!m || !here || !onblock) return
    e.preventDefault()
    if (e.altKey) {
      const place = at + m[0]
      if (m[0] !== 0 && place >= 0 && place < document_.blocks.length) onmove?.({ block: here.id }, place)
      return
    }
    const first = here.slots[0]
    if (m[1] > 0 && first && staves[0]) {
      onpick?.(first.id, staves[0].party)
      keysTo(`cell-${first.id}-${staves[0].party}`)
      return
    }
    const next = document_.blocks[at + m[0]]
    if (!next) return
    onblock(next.id)
    keysTo(`block-${next.id}`)
  }

  // A slot or a block is drawn along by its head, and dropped where it is to stand.
  interface Drag {
    slot?: string
    block: string
    fromX: number
    x: number
    moving: boolean
  }
  let drag = $state<Drag>()
  let drawing = $state<SVGSVGElement>()
  const scaleX = () => (drawing ? (wide + label) / Math.max(drawing.getBoundingClientRect().width, 1) : 1)
  function grab(e: PointerEvent, of: { slot?: string; block: string }): void {
    if (!onmove || e.button !== 0) return
    drag = { ...of, fromX: e.clientX, x: e.clientX, moving: false }
    window.addEventListener('pointermove', pull)
    window.addEventListener('pointerup', drop, { once: true })
  }
  function pull(e: PointerEvent): void {
    if (!drag) return
    drag = { ...drag, x: e.clientX, moving: drag.moving || Math.abs(e.clientX - drag.fromX) > 6 }
  }
  function drop(e: PointerEvent): void {
    window.removeEventListener('pointermove', pull)
    const d = drag
    drag = undefined
    if (!d?.moving || !drawing) return
    const x = (e.clientX - drawing.getBoundingClientRect().left) * scaleX() - label
    const to = sectionAt(x)
    if (!to) return
    if (d.slot === undefined) {
      onmove?.({ block: d.block }, placed.indexOf(to))
      return
    }
    if (fixed(to.id)?.auto) return
    const others = to.slots.filter((s) => s.id !== d.slot)
    onmove?.({ slot: d.slot, block: to.id }, others.filter((s) => s.x + s.width / 2 < x).length)
  }
  const sectionAt = (x: number): Section | undefined => placed.find((s) => x < s.x + s.width + 8) ?? placed.at(-1)
  /** Whether something would keep a cell from being proposed, or somebody is to be spared it. */
  const questioned = (c: Cell) => c.faults.length + (c.breaks ?? []).length > 0
</script>

<!-- What does not fit its section is cut; what describes it says it all. -->
{#snippet headline(look: string, y: number, text: string, letters: number)}
  <text class={look} x="4" {y}>{lines(text, letters, 1)[0]}</text>
{/snippet}

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
  <Scroll label={circuitTexts.title}>
    <svg
      class="staves"
      class:dragging={drag?.moving}
      width={wide + label}
      {height}
      viewBox={`0 0 ${wide + label} ${height}`}
      bind:this={drawing}
    >
      {#each staves as l, li (l.party)}
        {@const who = lines(l.name, 10, 2)}
        <g transform={`translate(0 ${head + li * row})`}>
          <text class="lane" id={`lane-${l.party}`}
            >{#each who as part, n (n)}<tspan x="0" y={who.length > 1 ? 26 + n * 17 : 34}
                >{part}{n === 0 ? ' ' : ''}</tspan
              >{/each}</text
          >
          <text class="muted" x="0" y={who.length > 1 ? 60 : 52}>{common.people(l.people)}</text>
          {#if isLane(l.party) && differ(l.lane) > 0}
            {#if onpick}
              <g
                id={`differ-${l.party}`}
                class="differ"
                role="button"
                tabindex="0"
                aria-expanded={opened[l.lane] ?? false}
                aria-label={circuitTexts.differIn(circuitTexts.differ(differ(l.lane)), l.name)}
                onclick={() => toggle(l.lane)}
                onkeydown={(e) => {
                  if (e.key !== 'Enter' && e.key !== ' ') return
                  e.preventDefault()
                  toggle(l.lane)
                }}
              >
                <rect x="-2" y="66" width={label - 8} height="26" rx="2" />
                <path class="arrow" d={opened[l.lane] ? 'M3 76h9l-4.5 6z' : 'M4 74v9l6-4.5z'} />
                <text x="16" y="83">{circuitTexts.differ(differ(l.lane))}</text>
              </g>
            {:else}<text class="muted" x="0" y="83">{circuitTexts.differ(differ(l.lane))}</text>{/if}
          {/if}
          {#each { length: l.mark }, n (n)}
            <line class="line" x1={label - 8} x2={label + wide} y1={row / 2 - 4 + n * 4} y2={row / 2 - 4 + n * 4} />
          {/each}
        </g>
      {/each}
      {#each placed as x, bi (x.id)}
        {@const b = fixed(x.id)}
        {@const bp = circuit.plan.blocks[bi]}
        {#if b && bp}
          {@const chosen = block === b.id}
          {@const letters = Math.floor((x.width - 4) / 7)}
          {@const title = `${blockTitle(b)} ${bp.totalMs > 0 || !b.auto ? blockTime(bp) : ''}`.trim()}
          {@const how = b.scheme ? schemeText(b.scheme) : ''}
          <g transform={`translate(${label + x.x} 0)`}>
            <g
              id={`block-${b.id}`}
              class="section"
              class:picked={chosen}
              role={onblock ? 'button' : undefined}
              tabindex={onblock ? (blockStop === b.id ? 0 : -1) : undefined}
              aria-pressed={onblock ? chosen : undefined}
              aria-describedby={how ? `all-${b.id}` : undefined}
              onclick={() => onblock?.(b.id)}
              onkeydown={(e) => blockKey(e, bi)}
              onpointerdown={(e) => grab(e, { block: b.id })}
            >
              <rect x="0" y="0" width={x.width} height={b.slots.length > 0 ? 38 : height - 24} rx="2" />
              {#if b.auto}
                <text class="strong" transform={`translate(${x.width / 2 + 5} 10) rotate(90)`}>{title}</text>
              {:else}
                {@render headline('strong', 15, title, letters)}&nbsp;
                {@render headline('muted', 31, how, letters)}
              {/if}
            </g>
          </g>
          {#each x.slots as s (s.id)}
            {@const sp = circuit.plan.slots[s.at]}
            {#if sp}
              <!-- A slot moves as one: nothing in it is laid out anew for that. -->
              <g
                transform={`translate(${label + s.x + (drag?.moving && drag.slot === s.id ? (drag.x - drag.fromX) * scaleX() : 0)} 0)`}
              >
                <!-- svelte-ignore a11y_no_static_element_interactions -->
                <g class="head" onpointerdown={(e) => grab(e, { slot: s.id, block: b.id })}>
                  <Glyph pattern={sp.pattern} x={2} y={44} />
                  <text id={`head-${s.id}`} class="strong" class:picked={slot === s.id} x="24" y="57"
                    >{lines(
                      nameOf.pattern[sp.pattern] ?? sp.pattern,
                      Math.floor((s.width + s.restWidth - 24) / 7.4),
                      1,
                    )[0]}</text
                  >
                  <text class="muted" x="2" y="78"
                    >{[
                      span(sp.workMs),
                      ...(slots[s.at]?.pinned ? [circuitTexts.kept] : []),
                      ...((slots[s.at]?.waves ?? 1) > 1 ? [circuitTexts.waves(slots[s.at]?.waves ?? 1)] : []),
                    ].join(' · ')}</text
                  >
                </g>
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
                  {@const c = cellOf(s.at, l.party)}
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
                      aria-describedby={onpick
                        ? `head-${s.id} lane-${l.party}${questioned(c) ? ' questioned' : ''}`
                        : undefined}
                      onclick={() => onpick?.(s.id, l.party)}
                      onkeydown={(e) => key(e, s.at, li)}
                    >
                      <rect x="0" y={head + li * row} width={s.width} height={row - 8} rx="2" />
                      {#if questioned(c)}
                        <path class="mark" d={`M${s.width - 12} ${head + li * row}h12v12z`} />
                      {/if}
                      {#each name as part, n (n)}
                        <text x="6" y={head + li * row + 16 + n * 14}>{part}</text>
                      {/each}
                      <text class="load" x="6" y={head + li * row + 66}>{loadOf(c)}</text>
                      {#if isLane(l.party) && differIn(s.at, l.lane) > 0}
                        <text
                          class="differs"
                          text-anchor="end"
                          x={s.width - 5}
                          y={head + li * row + 84}
                          aria-hidden="true">+{differIn(s.at, l.lane)}</text
                        >
                      {/if}
                      <text class="muted" x="6" y={head + li * row + 84}
                        >{c.missing
                          ? circuitTexts.missing
                          : fitted(
                              repsText(c, b),
                              s.width - (isLane(l.party) && differIn(s.at, l.lane) > 0 ? 18 : 8),
                            )}</text
                      >
                    </g>
                  {:else if isLane(l.party) && differIn(s.at, l.lane) > 0}
                    <!-- Nobody does what the lane would: everybody of it has an entry of their own. -->
                    <g class="alone">
                      <rect x="0" y={head + li * row} width={s.width} height={row - 8} rx="2" />
                      {#each lines(circuitTexts.eachOwn, Math.floor((s.width - 10) / 6.7), 2) as part, n (n)}
                        <text class="muted" x="6" y={head + li * row + 16 + n * 14}>{part}</text>
                      {/each}
                      <text class="differs" text-anchor="end" x={s.width - 5} y={head + li * row + 84}
                        >+{differIn(s.at, l.lane)}</text
                      >
                    </g>
                  {/if}
                {/each}
              </g>
            {/if}
          {/each}
        {/if}
      {/each}
      <text class="muted" x="0" y={height - 6}>{circuitTexts.changeOver}</text>
    </svg>
    <span hidden id="questioned">{circuitTexts.questioned}</span>
    {#each document_.blocks as b (b.id)}
      {#if b.scheme}<span hidden id={`all-${b.id}`}>{blockTitle(b)}: {schemeText(b.scheme)}</span>{/if}
    {/each}
  </Scroll>
</div>
