<script lang="ts">
  import { Button, Checkbox, Select, SelectItem } from 'carbon-components-svelte'
  import {
    lanes,
    type Answer,
    type Circuit,
    type Occurrence,
    type Problem as ProblemType,
    type Schemas,
  } from '../../lib/api/client'
  import { onDestroy } from 'svelte'
  import NumberBox from '../../lib/parts/NumberBox.svelte'
  import Several from '../../lib/parts/Several.svelte'
  import Problem from '../../lib/parts/Problem.svelte'
  import { asInput, type AskedBlock } from '../../lib/state/asked'
  import { mainBlock } from '../../lib/state/blocks'
  import { studio } from '../../lib/state/studio.svelte'
  import { asTyped } from '../../lib/text/format'
  import { circuit as t } from '../../lib/text/gen/circuit'
  import { today as todayTexts } from '../../lib/text/gen/today'
  import { nameOf, limit } from '../../lib/text/names'
  import { whyText } from '../../lib/text/why'

  import BriefBlocks from './BriefBlocks.svelte'

  interface Props {
    occurrence: Occurrence
    circuit?: Circuit
    /** Asks for the proposal; it may be given up. */
    send: (brief: Schemas['ProposalBrief'], signal: AbortSignal) => Promise<Answer<Schemas['Proposed']>>
  }
  let { occurrence, circuit, send }: Props = $props()

  const start = (() => ({ occurrence, circuit }))()
  let minutes: number | null = $state(start.occurrence.minutes)
  let format: string | number = $state(
    (start.circuit && mainBlock(start.circuit.document)?.scheme?.circuit?.format) ?? studio.format,
  )
  let goal: string | number = $state(start.circuit?.document.goal ?? 'general')
  let template: string | number = $state(start.circuit?.document.template ?? 'alternating')
  let pattern: string | number = $state(
    start.circuit?.document.blocks.find((b) => b.kind === 'work')?.slots[0]?.pattern ?? 'squat',
  )
  let people: (number | null)[] = $state(
    lanes.map((l) => start.occurrence.lanes.find((x) => x.lane === l)?.people ?? 0),
  )
  let bans = $state<string[]>([...(start.circuit?.document.bans ?? [])])
  // What the interface marks when the class knows every move.
  const everything = 'all'
  const before = start.circuit?.document.known ?? []
  let knowAll = $state(before.includes(everything))
  let known = $state<string[]>(before.filter((x) => x !== everything))
  const moves = [...studio.moves.values()]
    .map((m) => ({ id: m.id, text: m.name }))
    .sort((a, b) => a.text.localeCompare(b.text))
  const limits = studio.limits.map((id) => ({ id, text: limit(id) ?? id }))
  let pins = $state<string[]>([])
  let fresh = $state<string[]>([])
  const dealt = start.circuit && mainBlock(start.circuit.document)?.layout
  let layout: string | number = $state(dealt === 'stations' || dealt === 'partners' ? dealt : '')
  let blocks = $state<AskedBlock[]>([])
  let answer = $state.raw<Schemas['Proposed']>()
  let problem = $state<ProblemType>()
  let asking = $state.raw<AbortController>()
  // Mobility is not proposed, so it need not be left out.
  const patterns = (Object.keys(nameOf.pattern) as (keyof typeof nameOf.pattern)[]).filter(
    (p) => p !== 'mobility' && p !== 'whole-body',
  )

  async function propose(): Promise<void> {
    const turn = (asking = new AbortController())
    const brief: Schemas['ProposalBrief'] = {
      minutes: minutes ?? 0,
      format: format === 'reps' ? 'reps' : 'timed',
      goal: goal as NonNullable<Schemas['ProposalBrief']['goal']>,
      template: template as NonNullable<Schemas['ProposalBrief']['template']>,
      ...(pins.length > 0 && blocks.length === 0 ? { pins: pins.map((move) => ({ move })) } : {}),
      ...(fresh.length > 0 ? { new: fresh } : {}),
      ...(layout ? { layout: layout as NonNullable<Schemas['ProposalBrief']['layout']> } : {}),
      ...(blocks.length > 0 ? { blocks: blocks.map(asInput) } : {}),
      ...(template === 'one-pattern' ? { pattern: pattern as NonNullable<Schemas['ProposalBrief']['pattern']> } : {}),
      bans,
      known: knowAll ? [everything] : known,
      overruled: start.circuit?.document.overruled ?? [],
      lanes: lanes.map((l, i) => {
        const had = occurrence.lanes.find((x) => x.lane === l)
        return {
          lane: l,
          people: people[i] ?? 0,
          ...(had ? { ...(had.bodyKnown ? { body: asTyped(had.body) } : {}), stature: asTyped(had.stature) } : {}),
        }
      }),
    }
    const a = await send(brief, turn.signal)
    if (turn.signal.aborted) return
    asking = undefined
    problem = a.problem
    answer = a.data
  }
  function giveUp(): void {
    asking?.abort()
    asking = undefined
  }
  onDestroy(giveUp)
  const ban = (p: string, on: boolean) => (bans = on ? [...bans, p] : bans.filter((x) => x !== p))
</script>

<form
  onsubmit={(e) => {
    e.preventDefault()
    void propose()
  }}
>
  {#if problem}<Problem {problem} />{/if}
  <div class="row narrow">
    <NumberBox id="brief-minutes" labelText={todayTexts.form.minutes} min={5} max={240} bind:value={minutes} />
    <Select id="brief-format" labelText={t.format} helperText={t.formatHelp} bind:selected={format}>
      {#each Object.entries(nameOf.format) as [value, text] (value)}<SelectItem {value} {text} />{/each}
    </Select>
    <Select id="brief-goal" labelText={t.goal} bind:selected={goal}>
      {#each Object.entries(nameOf.goal) as [value, text] (value)}<SelectItem {value} {text} />{/each}
    </Select>
    <Select id="brief-template" labelText={t.template} bind:selected={template}>
      {#each Object.entries(nameOf.template) as [value, text] (value)}<SelectItem {value} {text} />{/each}
    </Select>
    {#if template === 'one-pattern'}
      <Select id="brief-pattern" labelText={t.ofPattern} bind:selected={pattern}>
        {#each patterns as p (p)}<SelectItem value={p} text={nameOf.pattern[p]} />{/each}
      </Select>
    {/if}
    <Select id="brief-layout" labelText={t.layoutAsked} helperText={t.layoutHelp} bind:selected={layout}>
      <SelectItem value="" text={t.layoutFree} />
      {#each Object.entries(nameOf.layout) as [value, text] (value)}<SelectItem {value} {text} />{/each}
    </Select>
    {#each lanes as l, i (l)}
      <NumberBox id={`brief-${l}`} labelText={todayTexts.form.people(l)} min={0} max={500} bind:value={people[i]} />
    {/each}
  </div>
  <fieldset>
    <legend class="small">{t.bans}</legend>
    <div class="checks">
      {#each patterns as p (p)}
        <Checkbox
          id={`ban-${p}`}
          labelText={nameOf.pattern[p]}
          checked={bans.includes(p)}
          on:check={(e) => ban(p, e.detail)}
        />
      {/each}
    </div>
  </fieldset>
  <div class="row narrow wide top">
    {#if blocks.length === 0}<Several
        id="brief-pins"
        label={t.pins}
        help={t.pinsHelp}
        options={moves}
        bind:chosen={pins}
      />{/if}
    <Several id="brief-new" label={t.newMoves} help={t.newMovesHelp} options={moves} bind:chosen={fresh} />
    <Several id="brief-limits" label={t.limits} help={t.limitsHelp} options={limits} bind:chosen={bans} />
    <Several id="brief-moves" label={t.banMoves} options={moves} bind:chosen={bans} />
    {#if !knowAll}<Several
        id="brief-known"
        label={t.known}
        help={t.knownHelp}
        options={moves}
        bind:chosen={known}
      />{/if}
    <Checkbox id="brief-know-all" labelText={t.knowAll} bind:checked={knowAll} />
  </div>
  <BriefBlocks bind:blocks />
  <p class="muted">{t.proposalRest}</p>
  <div class="buttons">
    <Button type="submit" size="small" disabled={asking !== undefined}>{t.propose}</Button>
    {#if asking}
      <Button id="give-up" size="small" kind="tertiary" on:click={giveUp}>{t.giveUp}</Button>
      <p role="status" class="muted">{t.proposing}</p>
    {/if}
  </div>
  {#if answer && !answer.feasible}
    <div role="alert" id="relax">
      <p class="ember">{t.nothingFits}</p>
      <ul>
        {#each answer.relax as r, i (i)}<li>{whyText(r, studio.names([]))}</li>{/each}
      </ul>
    </div>
  {/if}
</form>

<style>
  fieldset {
    border: 0;
    margin: 14px 0 6px;
    padding: 0;
  }
</style>
