<script lang="ts">
  // The numbers of one block: what it is for, its scheme, and what that goes by.
  import { Button, Select, SelectItem, TextInput } from 'carbon-components-svelte'
  import {
    api,
    ask,
    newId,
    type Circuit,
    type Op,
    type Problem as ProblemType,
    type Schemas,
  } from '../../lib/api/client'
  import Problem from '../../lib/parts/Problem.svelte'
  import NumberField from '../../lib/parts/NumberField.svelte'
  import { blockTime, blockTitle, type Block, type Scheme } from '../../lib/state/blocks'
  import type { Editor } from '../../lib/state/editor.svelte'
  import { studio } from '../../lib/state/studio.svelte'
  import { circuit as t } from '../../lib/text/gen/circuit'
  import { common } from '../../lib/text/gen/common'
  import { nameOf } from '../../lib/text/names'
  import Steps from './Steps.svelte'

  interface Props {
    circuit: Circuit
    editor: Editor
    block: Block
    /** Another block is chosen. */
    onblock: (id: string) => void
  }
  let { circuit, editor, block, onblock }: Props = $props()
  const d = $derived(circuit.document)
  const at = $derived(d.blocks.findIndex((b) => b.id === block.id))
  const plan = $derived(circuit.plan.blocks[at])
  const s = $derived(block.scheme)

  // A change-over that is longer than the rest makes it grow, here and there.
  const grown = $derived(
    Math.max(0, ...circuit.plan.slots.filter((x) => x.block === block.id && x.grown).map((x) => x.restMs)),
  )
  const grownHelp = $derived((ms: number) => (grown > ms ? t.restGrown(grown / 1000) : ''))

  const edit = (...ops: Op[]) => editor.edit(...ops)
  const set = (scheme: Scheme) => edit({ op: 'set-scheme', blockId: block.id, scheme })
  const next = (part: Partial<Scheme>) => s && set({ ...s, ...part })
  function become(kind: Scheme['kind']): void {
    if (kind === s?.kind) return
    // What only circuits and straight sets know is taken back first.
    const settle: Op[] = block.slots.flatMap((x): Op[] => {
      const own: Op[] =
        x.workMs !== undefined || x.restMs !== undefined || x.sets ? [{ op: 'set-own', slotId: x.id, own: {} }] : []
      const turns =
        kind === 'circuit' || kind === 'sets' ? [] : Object.entries(x.entries).filter(([, e]) => e.sides === 'rounds')
      return [
        ...own,
        ...turns.map(([party, e]): Op => ({ op: 'set-entry', slotId: x.id, party, entry: { ...e, sides: 'split' } })),
      ]
    })
    const scheme = studio.schemes.get(kind)
    const lost =
      (block.layout === 'stations' && kind !== 'circuit') ||
      (block.layout === 'partners' && ['chain', 'window', 'called'].includes(kind))
    const layout: Op[] = lost ? [{ op: 'set-layout', blockId: block.id, layout: 'together' }] : []
    if (scheme) edit(...settle, ...layout, { op: 'set-scheme', blockId: block.id, scheme })
  }
  // People rotate in a circuit only, and partners take turns set by set.
  const layouts = $derived(
    (Object.keys(nameOf.layout) as Block['layout'][]).filter(
      (l) =>
        l === block.layout ||
        ((l !== 'stations' || s?.kind === 'circuit') &&
          (l !== 'partners' || !['chain', 'window', 'called'].includes(s?.kind ?? ''))),
    ),
  )
  function lay(layout: Block['layout']): void {
    if (layout === block.layout) return
    const alone: Op[] =
      layout === 'together' || layout === 'partners'
        ? block.slots.filter((x) => x.waves > 1).map((x) => ({ op: 'set-waves', slotId: x.id, count: 1 }))
        : []
    edit(...alone, { op: 'set-layout', blockId: block.id, layout })
  }
  let rungs = $state('')
  $effect(() => {
    void editor.answers
    rungs = s?.ladder?.rungs.join(' ') ?? ''
  })
  const counts = $derived(rungs.trim().split(/\s+/).map(Number))
  const rungsRight = $derived(counts.every((n) => Number.isInteger(n) && n >= 1 && n <= 100))

  // What a new slot of each pattern would come to here, asked for when one is looked for.
  let rooms = $state.raw<Schemas['PatternRoom'][]>([])
  let askedAt = ''
  async function lookForRoom(): Promise<void> {
    const now = `${circuit.version} ${block.id}`
    if (askedAt === now || block.auto) return
    askedAt = now
    const params = { path: { circuit: circuit.id }, query: { block: block.id } }
    const a = await ask(api.GET('/api/circuits/{circuit}/patterns', { params }))
    if (a.data) rooms = a.data
  }
  const patterns = $derived(
    Object.entries(nameOf.pattern).map(([value, name]) => {
      const room = rooms.find((r) => r.pattern === value)?.room ?? 'yes'
      const text = room === 'yes' ? name : t.addSlotBut(name, nameOf.patternRoom[room])
      return { value, text, disabled: room === 'nothing' }
    }),
  )
  let add: string | number = $state('')
  $effect(() => {
    if (add === '') return
    editor.addSlot(block.id, add as Parameters<Editor['addSlot']>[1], block.slots.length)
    add = ''
  })

  function addBlock(): void {
    const id = newId().slice(0, 12)
    const scheme = studio.schemes.get('sets')
    if (!scheme) return
    const fresh = { id, kind: 'work', layout: 'together', afterMs: 0, scheme } as const
    edit({ op: 'add-block', block: { ...fresh, slots: [] }, count: at + 1 })
    onblock(id)
  }
  function remove(): void {
    const beside = d.blocks[at + 1] ?? d.blocks[at - 1]
    edit({ op: 'remove-block', blockId: block.id })
    onblock(beside?.id ?? '')
  }
  // The house's prep keeps what a step is: seconds or repetitions, sides, what is held.
  let kept = $state('')
  let keptProblem = $state.raw<ProblemType>()
  async function keepPrep(): Promise<void> {
    const steps = circuit.plan.slots
      .filter((x) => x.block === block.id)
      .flatMap((x): Schemas['PrepStep'][] => {
        const c = x.cells.find((y) => y.party === 'middle') ?? x.cells[0]
        if (!c) return []
        const d = c.entry.dose
        return [
          {
            move: c.entry.variant,
            ...(d.kind === 'seconds' ? { ms: d.ms ?? 0 } : { reps: d.low ?? 0, inAll: d.inAll ?? false }),
            sides: c.entry.sides,
            ...(c.loadG > 0 ? { hold: c.entry.hold, loadG: c.loadG } : {}),
          },
        ]
      })
    const a = await ask(api.PUT('/api/prep', { body: { steps } }))
    keptProblem = a.problem
    kept = a.data ? t.prepKept : ''
  }
  const move = (by: number) => edit({ op: 'move-block', blockId: block.id, count: at + by })
</script>

{#snippet seconds(id: string, label: string, ms: number, onset: (ms: number) => void, least = 0, most = 600, help = '')}
  <NumberField
    {id}
    {label}
    min={least}
    max={most}
    unit={common.secondsUnit}
    {help}
    value={ms / 1000}
    answered={editor.answers}
    onset={(n) => onset(Math.round(n * 1000))}
  />
{/snippet}
{#snippet number(id: string, label: string, value: number, onset: (n: number) => void, least = 1, most = 20)}
  <NumberField {id} {label} min={least} max={most} {value} answered={editor.answers} {onset} />
{/snippet}

<section class="block" aria-label={t.block.title(at + 1, d.blocks.length, blockTitle(block))}>
  <div class="head">
    <h2 class="small grow" id="block-title">
      {t.block.title(at + 1, d.blocks.length, blockTitle(block))}
      {#if plan}<span class="muted" id="block-time">{blockTime(plan)}</span>{/if}
    </h2>
    <Button size="small" kind="ghost" id="block-earlier" disabled={at <= 0} on:click={() => move(-1)}
      >{t.block.earlier}</Button
    >
    <Button size="small" kind="ghost" id="block-later" disabled={at >= d.blocks.length - 1} on:click={() => move(1)}
      >{t.block.later}</Button
    >
    <Button size="small" kind="ghost" id="remove-block" disabled={d.blocks.length === 1} on:click={remove}
      >{t.block.remove}</Button
    >
    <Button size="small" kind="tertiary" id="add-block" on:click={addBlock}>{t.block.add}</Button>
  </div>
  {#if block.auto && plan}<p class="muted">{t.block.auto(nameOf.blockKind[block.kind], plan.totalMs)}</p>{/if}
  {#if block.auto && block.kind !== 'close'}<Steps {circuit} {editor} {block} />{/if}
  {#if !block.auto && block.kind === 'prep' && block.slots.length > 0}
    <div class="buttons">
      <Button size="small" kind="ghost" id="keep-prep" on:click={() => void keepPrep()}>{t.housePrep}</Button>
      {#if kept}<span role="status">{kept}</span>{/if}
    </div>
    {#if keptProblem}<Problem problem={keptProblem} />{/if}
  {/if}
  <div class="row narrow set">
    {#if s}
      <Select
        id="block-kind"
        labelText={t.block.kind}
        selected={block.kind}
        on:update={(e) => {
          if (e.detail !== block.kind) edit({ op: 'set-kind', blockId: block.id, kind: e.detail as Block['kind'] })
        }}
      >
        {#each Object.entries(nameOf.blockKind) as [value, text] (value)}<SelectItem {value} {text} />{/each}
      </Select>
      <Select
        id="block-scheme"
        labelText={t.block.scheme}
        selected={s.kind}
        on:update={(e) => become(e.detail as Scheme['kind'])}
      >
        {#each Object.entries(nameOf.scheme) as [value, text] (value)}<SelectItem {value} {text} />{/each}
      </Select>
      {#if layouts.length > 1}
        <Select
          id="block-layout"
          labelText={t.block.layout}
          selected={block.layout}
          on:update={(e) => lay(e.detail as Block['layout'])}
        >
          {#each layouts as value (value)}<SelectItem {value} text={nameOf.layout[value]} />{/each}
        </Select>
      {/if}
      {#if s.circuit}
        {@const x = s.circuit}
        <Select
          id="set-format"
          labelText={t.format}
          selected={x.format}
          on:update={(e) => {
            if (e.detail !== x.format) void next({ circuit: { ...x, format: e.detail === 'reps' ? 'reps' : 'timed' } })
          }}
        >
          {#each Object.entries(nameOf.format) as [value, text] (value)}<SelectItem {value} {text} />{/each}
        </Select>
        {#if x.format === 'timed'}
          {@render seconds('set-work', t.work, x.workMs, (workMs) => void next({ circuit: { ...x, workMs } }), 5)}
        {/if}
        {@render seconds(
          'set-rest',
          t.rest,
          x.restMs,
          (restMs) => void next({ circuit: { ...x, restMs } }),
          0,
          600,
          grownHelp(x.restMs),
        )}
        {@render number('set-rounds', t.rounds, x.rounds, (rounds) => void next({ circuit: { ...x, rounds } }))}
        {@render seconds(
          'set-round-rest',
          t.roundRest,
          x.roundRestMs,
          (roundRestMs) => void next({ circuit: { ...x, roundRestMs } }),
        )}
      {:else if s.sets}
        {@const x = s.sets}
        {@render number('set-sets', t.block.sets, x.sets, (sets) => void next({ sets: { ...x, sets } }))}
        {@render seconds('set-set-rest', t.block.setRest, x.restMs, (restMs) => void next({ sets: { ...x, restMs } }))}
        {@render seconds(
          'set-between',
          t.block.between,
          x.betweenMs,
          (betweenMs) => void next({ sets: { ...x, betweenMs } }),
          0,
          600,
          grownHelp(x.betweenMs),
        )}
      {:else if s.superset}
        {@const x = s.superset}
        {@render number('set-rounds', t.rounds, x.rounds, (rounds) => void next({ superset: { ...x, rounds } }))}
        {@render seconds(
          'set-group-rest',
          t.block.groupRest,
          x.restMs,
          (restMs) => void next({ superset: { ...x, restMs } }),
        )}
      {:else if s.chain}
        {@const x = s.chain}
        {@render number('set-rounds', t.rounds, x.rounds, (rounds) => void next({ chain: { ...x, rounds } }))}
        {@render number('set-sides', t.block.sides, x.sides, (sides) => void next({ chain: { ...x, sides } }), 1, 2)}
        {@render seconds(
          'set-side-change',
          t.block.sideChange,
          x.sideChangeMs,
          (sideChangeMs) => void next({ chain: { ...x, sideChangeMs } }),
        )}
        {@render seconds(
          'set-chain-rest',
          t.block.chainRest,
          x.restMs,
          (restMs) => void next({ chain: { ...x, restMs } }),
        )}
      {:else if s.interval}
        {@const x = s.interval}
        {@render seconds(
          'set-every',
          t.block.every,
          x.everyMs,
          (everyMs) => void next({ interval: { ...x, everyMs } }),
          5,
        )}
        {@render number('set-sets', t.block.sets, x.sets, (sets) => void next({ interval: { ...x, sets } }), 1, 60)}
      {:else if s.window}
        {@const x = s.window}
        <NumberField
          id="set-window"
          label={t.block.window}
          min={1}
          max={60}
          value={x.windowMs / 60_000}
          answered={editor.answers}
          onset={(n) => void next({ window: { windowMs: Math.round(n * 60_000) } })}
        />
      {:else if s.ladder}
        {@const x = s.ladder}
        <TextInput
          id="set-rungs"
          labelText={t.block.rungs}
          helperText={t.block.rungsHelp}
          bind:value={rungs}
          invalid={!rungsRight}
          invalidText={t.block.rungsWrong}
          on:change={() => rungsRight && void next({ ladder: { ...x, rungs: counts } })}
        />
        {@render seconds(
          'set-rung-rest',
          t.block.rungRest,
          x.restMs,
          (restMs) => void next({ ladder: { ...x, restMs } }),
        )}
        {@render seconds(
          'set-between',
          t.block.between,
          x.betweenMs,
          (betweenMs) => void next({ ladder: { ...x, betweenMs } }),
          0,
          600,
          grownHelp(x.betweenMs),
        )}
      {:else if s.drop}
        {@const x = s.drop}
        {@render seconds(
          'set-change',
          t.block.change,
          x.changeMs,
          (changeMs) => void next({ drop: { changeMs } }),
          0,
          600,
          grownHelp(x.changeMs),
        )}
      {:else if s.called}
        {@const x = s.called}
        {@render seconds(
          'set-called',
          t.block.called,
          x.calledMs,
          (calledMs) => void next({ called: { ...x, calledMs } }),
          5,
        )}
        {@render seconds(
          'set-every',
          t.block.calledEvery,
          x.everyMs,
          (everyMs) => void next({ called: { ...x, everyMs } }),
          1,
          60,
        )}
        <Button
          size="field"
          kind="tertiary"
          id="draw-calls"
          on:click={() => void next({ called: { ...x, seed: (x.seed + 1) % 1_000_000 } })}>{t.block.draw}</Button
        >
      {/if}
    {/if}
    {#if at < d.blocks.length - 1}
      {@render seconds(
        'set-after',
        t.block.after,
        block.afterMs,
        (ms) => edit({ op: 'set-after', blockId: block.id, ms }),
        0,
        600,
        plan?.grown ? t.block.afterGrown(plan.afterMs / 1000) : '',
      )}
    {/if}
    {#if !block.auto}
      <div role="presentation" onpointerenter={() => void lookForRoom()} onfocusin={() => void lookForRoom()}>
        <Select id="add-slot" labelText={t.addSlot} bind:selected={add}>
          <SelectItem value="" text="–" />
          {#each patterns as p (p.value)}<SelectItem {...p} />{/each}
        </Select>
      </div>
    {/if}
  </div>
</section>

<style>
  .set {
    margin: 8px 0 16px;
    align-items: flex-start;
  }
  .block {
    margin-top: 8px;
  }
</style>
