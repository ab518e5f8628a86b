<script lang="ts">
  import { Button, Checkbox, Select, SelectItem, TextInput } from 'carbon-components-svelte'
  import {
    api,
    ask,
    type Cell,
    type Circuit,
    type Entry,
    type Problem as ProblemType,
    type Schemas,
  } from '../../lib/api/client'
  import NumberField from '../../lib/parts/NumberField.svelte'
  import Problem from '../../lib/parts/Problem.svelte'
  import Why from '../../lib/parts/Why.svelte'
  import type { Editor } from '../../lib/state/editor.svelte'
  import { partyName } from '../../lib/state/parties'
  import { studio } from '../../lib/state/studio.svelte'
  import { span } from '../../lib/text/format'
  import { circuit as t } from '../../lib/text/gen/circuit'
  import { common } from '../../lib/text/gen/common'
  import { loads } from '../../lib/text/gen/loads'
  import { moves as movesTexts } from '../../lib/text/gen/moves'
  import { lookup, nameOf } from '../../lib/text/names'
  import { whyText } from '../../lib/text/why'

  interface Props {
    circuit: Circuit
    editor: Editor
    slot: string
    party: string
    /** The keys go back to the box of this slot, or of another that is named. */
    onclose: (to?: string) => void
  }
  let { circuit, editor, slot, party, onclose }: Props = $props()

  const index = $derived(circuit.document.slots.findIndex((s) => s.id === slot))
  const plan = $derived(circuit.plan.slots[index])
  const doc = $derived(circuit.document.slots[index])
  const cell = $derived(plan?.cells.find((c) => c.party === party))
  const variant = $derived(cell ? studio.moves.get(cell.entry.variant) : undefined)
  const items = $derived(circuit.items)
  const names = $derived(studio.names(items, circuit.occurrence))
  let options = $state.raw<Schemas['Options']>()
  let problem = $state<ProblemType>()

  // What could stand here is asked anew for every version; a late answer for an
  // older question is dropped.
  let asked = 0
  $effect(() => {
    const turn = ++asked
    const query = { slot, party }
    void circuit.version
    void ask(api.GET('/api/circuits/{circuit}/options', { params: { path: { circuit: circuit.id }, query } })).then(
      (a) => {
        if (turn !== asked) return
        problem = a.problem
        options = a.data
      },
    )
  })

  function set(entry: Entry): void {
    editor.edit({ op: 'set-entry', slotId: slot, lane: party, entry })
  }
  function change(part: Partial<Entry>): void {
    if (!cell) return
    const next = { ...cell.entry, ...part }
    if (JSON.stringify(next) !== JSON.stringify(cell.entry)) set(next)
  }
  // The load in use and what is near it come first; what is not there comes last.
  const nearPct = 30
  const grouped = $derived.by(() => {
    const all = options?.loads ?? []
    const now = (a: Schemas['Alternative']) => cell !== undefined && same(a.entry, cell.entry)
    const there = all.filter((a) => now(a) || !a.missing)
    const near = (a: Schemas['Alternative']) => now(a) || Math.abs(a.ironPct) <= nearPct
    return {
      near: there.some(near) ? there.filter(near) : there,
      far: there.some(near) ? there.filter((a) => !near(a)) : [],
      missing: all.filter((a) => a.missing && !now(a)),
    }
  })
  // Another slot begins at the top of the panel.
  let panel = $state<HTMLElement>()
  $effect(() => {
    void [slot, party]
    panel?.scrollTo({ top: 0 })
  })
  const loadText = (a: Schemas['Alternative']) => studio.loadText(a.entry.load, a.loadG, circuit.items)
  const same = (a: Entry, b: Entry) => a.hold === b.hold && JSON.stringify(a.load) === JSON.stringify(b.load)
  const beside = (a: Schemas['Alternative']) =>
    [
      a.loadG > 0 || a.ironPct !== 0 ? loads.instead.inIron(a.ironPct) : nameOf.hold[a.entry.hold],
      ...(a.compared ? [] : [t.uncompared]),
      ...(a.missing ? [t.missing] : []),
    ].join(' · ')
  const delta = (ms: number) => (ms === 0 ? '' : ` · ${ms > 0 ? '+' : '−'}${span(Math.abs(ms))}`)
</script>

{#snippet choice(a: Schemas['Alternative'], title: string, now: boolean)}
  <li class="choice" class:now>
    <button type="button" aria-pressed={now} onclick={() => set(a.entry)}>
      <b>{title}</b>
      <small class={a.missing || a.faults.length > 0 ? 'ember' : ''}>{beside(a)}{delta(a.deltaMs)}</small>
      {#each a.faults as w, i (i)}<small class="ember">{whyText(w, names)}</small>{/each}
      {#each a.asks as w, i (i)}<small>{whyText(w, names)}</small>{/each}
      {#if ((a.entry.variant !== cell?.entry.variant && a.lost.length + a.gained.length > 0) || a.check.length > 0) && !now}
        <small class="more"
          >{[
            a.lost.length > 0 && a.entry.variant !== cell?.entry.variant ? loads.instead.lost(a.lost) : '',
            a.gained.length > 0 && a.entry.variant !== cell?.entry.variant ? loads.instead.gained(a.gained) : '',
            ...a.check.map((c) => lookup(nameOf.checkShort, c)),
          ]
            .filter(Boolean)
            .join(' · ')}</small
        >
      {/if}
    </button>
    <Why why={a.why} {names} label={title} />
  </li>
{/snippet}

{#snippet load(a: Schemas['Alternative'], cell: Cell)}
  {@render choice(a, `${loadText(a)} ${a.loadG > 0 ? nameOf.hold[a.entry.hold] : ''}`, same(a.entry, cell.entry))}
{/snippet}

{#if plan && cell && doc}
  <aside
    class="side"
    bind:this={panel}
    aria-label={`${nameOf.pattern[plan.pattern]}, ${partyName(circuit.occurrence, party)}`}
  >
    <div class="head">
      <h2 class="grow" id="slot-move" tabindex="-1">{studio.move(cell.entry.variant)}</h2>
      <Button size="small" kind="ghost" on:click={() => onclose()} aria-label={t.close}>{common.close}</Button>
    </div>
    <p class="muted">
      {partyName(circuit.occurrence, party)} · {t.slot(index + 1, circuit.document.slots.length)} · {span(cell.setMs)} · {cell.twoSides
        ? common.aSide(cell.perSide)
        : common.inAll(cell.perSide)}
    </p>
    {#if problem}<Problem {problem} />{/if}
    <h3 id="load">
      {studio.loadText(cell.entry.load, cell.loadG, circuit.items)}
      <span class="muted">{nameOf.hold[cell.entry.hold]}</span>
    </h3>
    <Why why={cell.loadWhy} {names} label={studio.move(cell.entry.variant)} text={t.whyLoad} />
    <Why why={cell.timeWhy} {names} label={studio.move(cell.entry.variant)} text={t.whyTime} />
    {#if plan.restWhy}<Why why={plan.restWhy} {names} label={studio.move(cell.entry.variant)} text={t.whyRest} />{/if}
    {#each plan.shorts as s (s.item)}<p class="ember">
        {names.item(s.item)}: {t.tooMany(s.used, s.present)}
      </p>{/each}

    {#each cell.faults as w, i (i)}<p class="ember">{whyText(w, names)}</p>{/each}
    {#each cell.asks as w, i (i)}<p>{whyText(w, names)}</p>{/each}
    {#if cell.log}<p id="log-said"><b>{t.decided}:</b> {whyText(cell.log, names)}</p>{/if}
    {#if cell.beside}
      {@const b = cell.beside}
      <p id="beside">
        <b>{t.besideIt}:</b>
        {studio.move(b.entry.variant)}, {studio.packing(b.entry.load, circuit.items)}
        <Why why={b.why} {names} label={studio.move(b.entry.variant)} />
      </p>
    {/if}

    <div class="row fields">
      {#if circuit.document.format === 'reps'}
        <NumberField
          id="entry-reps"
          label={cell.twoSides ? t.repsSide : t.repsBoth}
          min={1}
          max={100}
          value={cell.entry.reps}
          answered={editor.answers}
          onset={(reps) => change({ reps })}
        />
      {/if}
      <TextInput
        id="entry-tempo"
        labelText={t.tempo}
        value={cell.entry.tempo}
        on:change={(e) => change({ tempo: String(e.detail).trim() })}
      />
      <Select
        id="entry-sides"
        labelText={t.sides}
        selected={cell.entry.sides}
        on:update={(e) => change({ sides: e.detail as Entry['sides'] })}
      >
        {#each Object.entries(nameOf.sides) as [value, text] (value)}<SelectItem {value} {text} />{/each}
      </Select>
      <NumberField
        id="slot-waves"
        label={t.wavesLabel}
        help={t.wavesHelp}
        min={1}
        max={4}
        value={doc.waves}
        answered={editor.answers}
        onset={(count) => editor.edit({ op: 'set-waves', slotId: slot, count })}
      />
    </div>
    <Checkbox
      id="slot-new"
      labelText={t.newMove}
      checked={doc.new}
      on:check={(e) => {
        if (e.detail !== doc.new) editor.edit({ op: 'set-new', slotId: slot, flag: e.detail })
      }}
    />
    <div class="buttons">
      <Button
        size="small"
        kind="ghost"
        disabled={index === 0}
        on:click={() => editor.edit({ op: 'move-slot', slotId: slot, count: index - 1 })}>{t.earlier}</Button
      >
      <Button
        size="small"
        kind="ghost"
        disabled={index === circuit.document.slots.length - 1}
        on:click={() => editor.edit({ op: 'move-slot', slotId: slot, count: index + 1 })}>{t.later}</Button
      >
      <Button
        size="small"
        kind="ghost"
        on:click={() => {
          const beside = circuit.document.slots[index + 1] ?? circuit.document.slots[index - 1]
          editor.edit({ op: 'remove-slot', slotId: slot })
          onclose(beside?.id)
        }}>{t.remove}</Button
      >
    </div>

    {#if options}
      <h3>{t.load}</h3>
      <ul class="plain" id="loads">
        {#each grouped.near as a, i (i)}{@render load(a, cell)}{/each}
      </ul>
      {#each [[t.otherLoads, grouped.far], [t.missingLoads, grouped.missing]] as const as [title, list] (title)}
        {#if list.length > 0}
          <details class="more-loads">
            <summary>{title} ({list.length})</summary>
            <ul class="plain">
              {#each list as a, i (i)}{@render load(a, cell)}{/each}
            </ul>
          </details>
        {/if}
      {/each}
      <h3>{t.instead}</h3>
      <ul class="plain" id="moves">
        {#each options.moves as a (a.entry.variant)}{@render choice(
            a,
            `${studio.move(a.entry.variant)}, ${loadText(a)}`,
            false,
          )}{/each}
      </ul>
    {/if}
    {#if variant}
      <h3>{t.watch}</h3>
      <p><a href={`/moves/${variant.id}`}>{movesTexts.card}</a></p>
      {#if doc?.new && variant.learn?.length}
        <p class="ember">{movesTexts.learn}: {variant.learn.map((id) => studio.move(id)).join(', ')}</p>
      {/if}
      {#if cell.setup.length > 0}
        <p><b>{t.setupFor}:</b> {cell.setup.join(' ')}</p>
      {/if}
      <p>{variant.cue} {variant.fault.what}: {variant.fault.sign}. {variant.fault.mend}</p>
      {#if cell.cautions.length > 0}
        <h3>{t.cautions}</h3>
        <ul id="cautions">
          {#each cell.cautions as x (x)}<li>{x}</li>{/each}
        </ul>
      {/if}
      <h3>{t.stop}</h3>
      <ul>
        {#each variant.stop as s (s)}<li>{s}</li>{/each}
      </ul>
    {/if}
  </aside>
{/if}

<style>
  .fields > :global(*) {
    flex: 1 1 120px;
  }
</style>
