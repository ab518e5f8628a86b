<script lang="ts">
  import { Button, Checkbox, Select, SelectItem, TextInput } from 'carbon-components-svelte'
  import {
    api,
    asking,
    type Cell,
    type Circuit,
    type Entry,
    type Problem as ProblemType,
    type Schemas,
  } from '../../lib/api/client'
  import NumberBox from '../../lib/parts/NumberBox.svelte'
  import NumberField from '../../lib/parts/NumberField.svelte'
  import Problem from '../../lib/parts/Problem.svelte'
  import Why from '../../lib/parts/Why.svelte'
  import PartsField from './PartsField.svelte'
  import WhyNot from './WhyNot.svelte'
  import { blockOf, byClock, doseText } from '../../lib/state/blocks'
  import type { Editor } from '../../lib/state/editor.svelte'
  import { partyName } from '../../lib/state/parties'
  import { studio } from '../../lib/state/studio.svelte'
  import { span } from '../../lib/text/format'
  import { circuit as t } from '../../lib/text/gen/circuit'
  import { common } from '../../lib/text/gen/common'
  import { loads } from '../../lib/text/gen/loads'
  import { moves as movesTexts } from '../../lib/text/gen/moves'
  import { lookup, nameOf } from '../../lib/text/names'
  import { meant, searched } from '../../lib/text/search'
  import { whyText } from '../../lib/text/why'

  interface Props {
    circuit: Circuit
    editor: Editor
    slot: string
    party: string
    /** The keys go back to the box of this slot, or of another that is named. */
    onclose: (to?: string) => void
    onpick?: (slot: string, party: string) => void
  }
  let { circuit, editor, slot, party, onclose, onpick }: Props = $props()

  const block = $derived(blockOf(circuit.document, slot))
  const index = $derived(block?.slots.findIndex((s) => s.id === slot) ?? -1)
  const plan = $derived(circuit.plan.slots.find((s) => s.id === slot))
  const doc = $derived(block?.slots[index])
  const clocked = $derived(byClock(block))
  const cell = $derived(plan?.cells.find((c) => c.party === party))
  const variant = $derived(cell ? studio.moves.get(cell.entry.variant) : undefined)
  const items = $derived(circuit.items)
  const names = $derived(studio.names(items, circuit.occurrence))
  let options = $state.raw<Schemas['Options']>()
  let problem = $state<ProblemType>()

  // What could stand here is asked anew for every version.
  $effect(() => {
    void circuit.version
    const params = { path: { circuit: circuit.id }, query: { slot, party } }
    return asking(
      (signal) => api.GET('/api/circuits/{circuit}/options', { params, signal }),
      (a) => {
        problem = a.problem
        options = a.data
      },
    )
  })

  function set(entry: Entry): void {
    editor.edit({ op: 'set-entry', slotId: slot, party, entry })
  }
  function change(part: Partial<Entry>): void {
    if (!cell) return
    const next = { ...cell.entry, ...part }
    if (JSON.stringify(next) !== JSON.stringify(cell.entry)) set(next)
  }
  const dose = $derived(cell?.entry.dose)
  const setDose = (part: Partial<Entry['dose']>) => dose && change({ dose: { ...dose, ...part } })
  function countIn(kind: Entry['dose']['kind']): void {
    if (!dose || kind === dose.kind) return
    if (kind === 'seconds') change({ dose: { kind, ms: 30_000 } })
    else change({ dose: { kind, low: dose.low ?? 10, high: dose.high ?? 10, ...(dose.inAll ? { inAll: true } : {}) } })
  }
  /** A range keeps its order: an end that passes the other takes it along. */
  const setLow = (low: number) => setDose({ low, high: Math.max(low, dose?.high ?? low) })
  const setHigh = (high: number) => setDose({ high, low: Math.min(high, dose?.low ?? high) })
  /** The entry with a field of another text, or without it. */
  function setText(field: 'tempo' | 'first', text: string): void {
    if (!cell) return
    const next: Entry = { ...cell.entry, [field]: text }
    if (text === '') Reflect.deleteProperty(next, field) // a tempo that is taken out leaves the time to the parts
    if ((cell.entry[field] ?? '') !== text) set(next)
  }
  /** Parts are their own time: the tempo goes, and comes back with those of the move. */
  function setParts(parts: NonNullable<Entry['parts']>): void {
    if (!cell) return
    const next: Entry = { ...cell.entry, parts }
    if (parts.length > 0) Reflect.deleteProperty(next, 'tempo')
    else Reflect.deleteProperty(next, 'parts')
    if (parts.length === 0 && variant && (variant.parts ?? []).length === 0) next.tempo = variant.tempo
    set(next)
  }
  const own = $derived({
    ...(doc?.workMs === undefined ? {} : { workMs: doc.workMs }),
    ...(doc?.restMs === undefined ? {} : { restMs: doc.restMs }),
    ...(doc?.sets ? { sets: doc.sets } : {}),
  })
  function setOwn(field: 'workMs' | 'restMs' | 'sets', n: number | null): void {
    const { [field]: was, ...rest } = own
    const next = n === null ? rest : { ...rest, [field]: n }
    if (was !== (n ?? undefined)) editor.edit({ op: 'set-own', slotId: slot, own: next })
  }
  function setWaves(count: number): void {
    const layout = count > 1 && block?.layout === 'together'
    const ops = layout ? [{ op: 'set-layout', blockId: block.id, layout: 'waves' } as const] : []
    editor.edit(...ops, { op: 'set-waves', slotId: slot, count })
  }
  const sides = $derived(
    Object.entries(nameOf.sides).filter(
      ([value]) => value !== 'rounds' || block?.scheme?.kind === 'circuit' || block?.scheme?.kind === 'sets',
    ),
  )
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
  // Moves by what people call them.
  let wanted = $state('')
  const meantMoves = $derived(
    (options?.moves ?? []).filter((a) => {
      const move = studio.moves.get(a.entry.variant)
      return !move || meant(wanted, searched([move.name, ...(move.also ?? [])]))
    }),
  )
  // Another slot begins at the top of the panel.
  let panel = $state<HTMLElement>()
  $effect(() => {
    void [slot, party]
    wanted = whyNotOf = ''
    panel?.scrollTo({ top: 0 })
  })
  const loadText = (a: Schemas['Alternative']) => studio.loadText(a.entry.load, a.loadG, circuit.items)
  // Somebody's own version, and of a lane who does otherwise.
  const isLane = $derived(party in nameOf.lane)
  const here = $derived(circuit.occurrence.people.filter((p) => p.lane === party))
  const ownOf = (id: string) => plan?.cells.find((c) => c.party === id)
  function giveOwn(id: string): void {
    if (!cell) return
    editor.edit({ op: 'set-entry', slotId: slot, party: id, entry: { ...cell.entry, pinned: true } })
    onpick?.(slot, id)
  }
  function giveBack(): void {
    if (!cell) return
    editor.edit({ op: 'clear-entry', slotId: slot, party })
    onpick?.(slot, cell.lane)
  }
  function pinOwn(on: boolean): void {
    if (!cell || on === (cell.entry.pinned ?? false)) return
    const next: Entry = { ...cell.entry, pinned: true }
    if (!on) Reflect.deleteProperty(next, 'pinned')
    set(next)
  }
  let whyNotOf = $state('')
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
      <small class={a.missing || a.faults.length + (a.breaks ?? []).length > 0 ? 'ember' : ''}
        >{beside(a)}{delta(a.deltaMs)}</small
      >
      {#each [...a.faults, ...(a.breaks ?? [])] as w, i (i)}<small class="ember">{whyText(w, names)}</small>{/each}
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
    {#if a.entry.variant !== cell?.entry.variant}
      <button
        type="button"
        class="link why-not"
        aria-expanded={whyNotOf === a.entry.variant}
        aria-label={t.whyNot.of(studio.move(a.entry.variant))}
        onclick={() => (whyNotOf = whyNotOf === a.entry.variant ? '' : a.entry.variant)}>{t.whyNot.ask}</button
      >
    {/if}
  </li>
  {#if a.entry.variant !== cell?.entry.variant && whyNotOf === a.entry.variant}
    <li class="answer"><WhyNot {circuit} {slot} {party} move={whyNotOf} /></li>
  {/if}
{/snippet}

{#snippet load(a: Schemas['Alternative'], cell: Cell)}
  {@render choice(a, `${loadText(a)} ${a.loadG > 0 ? nameOf.hold[a.entry.hold] : ''}`, same(a.entry, cell.entry))}
{/snippet}

{#if plan && cell && doc && block && dose}
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
      {partyName(circuit.occurrence, party)} · {t.slot(index + 1, block.slots.length)} · {span(cell.setMs)} · {doseText(
        cell,
        clocked,
      )}
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

    {#each [...cell.faults, ...(cell.breaks ?? [])] as w, i (i)}<p class="ember">{whyText(w, names)}</p>{/each}
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

    {#if !isLane}
      <div class="own">
        <Checkbox
          id="entry-pinned"
          labelText={t.own.pin}
          checked={cell.entry.pinned ?? false}
          on:check={(e) => pinOwn(e.detail)}
        />
        <Button id="give-back" size="small" kind="tertiary" on:click={giveBack}
          >{t.own.back(nameOf.lane[cell.lane])}</Button
        >
      </div>
    {:else if here.length > 0}
      <details class="own" id="own-people">
        <summary>{t.own.title}</summary>
        <ul class="plain">
          {#each here as p (p.id)}
            {@const own = ownOf(p.id)}
            <li>
              <span>{partyName(circuit.occurrence, p.id)}</span>
              {#if own}
                <button type="button" class="link" onclick={() => onpick?.(slot, p.id)}
                  >{studio.move(own.entry.variant)}, {studio.loadText(own.entry.load, own.loadG, circuit.items)}</button
                >
              {:else}
                <span class="muted">{t.own.as(nameOf.lane[cell.lane])}</span>
                <button type="button" class="link" id={`give-own-${p.id}`} onclick={() => giveOwn(p.id)}
                  >{t.own.give(partyName(circuit.occurrence, p.id))}</button
                >
              {/if}
            </li>
          {/each}
        </ul>
      </details>
    {/if}

    <div class="row fields">
      {#if !clocked && block.scheme?.kind !== 'ladder' && block.scheme?.kind !== 'called'}
        <Select
          id="entry-dose"
          labelText={t.dose.kind}
          selected={dose.kind}
          on:update={(e) => countIn(e.detail as Entry['dose']['kind'])}
        >
          {#each Object.entries(nameOf.doseKind) as [value, text] (value)}<SelectItem {value} {text} />{/each}
        </Select>
        {#if dose.kind === 'seconds'}
          <NumberField
            id="entry-seconds"
            label={t.dose.seconds}
            min={1}
            max={600}
            unit={common.secondsUnit}
            value={(dose.ms ?? 0) / 1000}
            answered={editor.answers}
            onset={(n) => setDose({ ms: Math.round(n * 1000) })}
          />
        {:else}
          <NumberField
            id="entry-low"
            label={t.dose.low}
            min={1}
            max={100}
            value={dose.low ?? 1}
            answered={editor.answers}
            onset={setLow}
          />
          <NumberField
            id="entry-reps"
            label={t.dose.high}
            min={1}
            max={100}
            value={dose.high ?? 1}
            answered={editor.answers}
            onset={setHigh}
          />
        {/if}
      {/if}
      <TextInput
        id="entry-tempo"
        labelText={t.tempo}
        helperText={variant && (variant.parts ?? []).length > 0 ? t.dose.tempoHelp : ''}
        value={cell.entry.tempo ?? ''}
        on:change={(e) => setText('tempo', String(e.detail).trim())}
      />
      <Select
        id="entry-sides"
        labelText={t.sides}
        selected={cell.entry.sides}
        on:update={(e) => change({ sides: e.detail as Entry['sides'] })}
      >
        {#each sides as [value, text] (value)}<SelectItem {value} {text} />{/each}
      </Select>
      {#if cell.twoSides || block.scheme?.chain?.sides === 2}
        <Select
          id="entry-first"
          labelText={t.dose.first}
          selected={cell.entry.first ?? 'left'}
          on:update={(e) => {
            if (String(e.detail) !== (cell?.entry.first ?? 'left')) setText('first', String(e.detail))
          }}
        >
          <SelectItem value="left" text={nameOf.side.left} />
          <SelectItem value="right" text={nameOf.side.right} />
        </Select>
      {/if}
      {#if clocked}
        <NumberBox
          id="own-work"
          allowEmpty
          labelText={t.dose.ownWork}
          helperText={t.dose.ownHelp}
          min={5}
          max={600}
          value={doc.workMs === undefined ? null : doc.workMs / 1000}
          onchange={(n) => setOwn('workMs', n === null ? null : Math.round(n * 1000))}
        />
      {/if}
      {#if block.scheme?.kind === 'sets'}
        <NumberBox
          id="own-sets"
          allowEmpty
          labelText={t.dose.ownSets}
          helperText={t.dose.ownHelp}
          min={1}
          max={20}
          value={doc.sets ? doc.sets : null}
          onchange={(n) => setOwn('sets', n)}
        />
      {/if}
      {#if block.scheme?.kind === 'sets' || block.scheme?.kind === 'circuit'}
        <NumberBox
          id="own-rest"
          allowEmpty
          labelText={t.dose.ownRest}
          helperText={t.dose.ownHelp}
          min={0}
          max={600}
          value={doc.restMs === undefined ? null : doc.restMs / 1000}
          onchange={(n) => setOwn('restMs', n === null ? null : Math.round(n * 1000))}
        />
      {/if}
      {#if block?.layout !== 'partners'}
        <NumberField
          id="slot-waves"
          label={t.wavesLabel}
          help={t.wavesHelp}
          min={1}
          max={4}
          value={doc.waves}
          answered={editor.answers}
          onset={setWaves}
        />
      {/if}
    </div>
    {#if cell.twoSides && !clocked && dose.kind !== 'seconds'}
      <Checkbox
        id="entry-in-all"
        labelText={t.dose.inAll}
        checked={dose.inAll ?? false}
        on:check={(e) => {
          const { inAll: was, ...rest } = dose
          if (e.detail !== (was ?? false)) change({ dose: e.detail ? { ...rest, inAll: true } : rest })
        }}
      />
    {/if}
    <PartsField {cell} answered={editor.answers} onset={setParts} />
    <Checkbox
      id="slot-new"
      labelText={t.newMove}
      checked={doc.new}
      on:check={(e) => {
        if (e.detail !== doc.new) editor.edit({ op: 'set-new', slotId: slot, flag: e.detail })
      }}
    />
    <Checkbox
      id="slot-pinned"
      labelText={t.pinned}
      checked={doc.pinned ?? false}
      on:check={(e) => {
        if (e.detail !== (doc.pinned ?? false)) editor.edit({ op: 'set-pin', slotId: slot, flag: e.detail })
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
        disabled={index === block.slots.length - 1}
        on:click={() => editor.edit({ op: 'move-slot', slotId: slot, count: index + 1 })}>{t.later}</Button
      >
      <Button
        size="small"
        kind="ghost"
        on:click={() => {
          const beside = block.slots[index + 1] ?? block.slots[index - 1]
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
      <label class="find">
        <span>{movesTexts.find}</span>
        <input id="find-instead" type="search" class="log-input" bind:value={wanted} autocomplete="off" />
      </label>
      {#if meantMoves.length === 0}<p class="muted" role="status">{t.noneMeant}</p>{/if}
      <ul class="plain" id="moves">
        {#each meantMoves as a (a.entry.variant)}{@render choice(
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
  .own {
    margin: 8px 0;
  }
  .own li {
    display: flex;
    flex-wrap: wrap;
    gap: 2px 10px;
    align-items: baseline;
    min-height: 32px;
  }
  .own summary {
    cursor: pointer;
    min-height: 28px;
  }
  .why-not {
    flex: 0 0 auto;
    min-height: 28px;
  }
  .find span {
    display: block;
    font-size: 12px;
  }
  .find input {
    width: 100%;
  }
  .fields > :global(*) {
    flex: 1 1 120px;
  }
</style>
