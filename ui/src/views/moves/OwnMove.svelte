<script lang="ts">
  // A move of one's own, copied from another: what is said of it and how it is
  // dosed is typed; body shape, holds and shares stay those of the copied one.
  import { Checkbox, TextArea, TextInput } from 'carbon-components-svelte'
  import { api, ask, type MoveCard, type Problem as ProblemType, type Schemas } from '../../lib/api/client'
  import { untrack } from 'svelte'
  import FormModal from '../../lib/parts/FormModal.svelte'
  import { moves as t } from '../../lib/text/gen/moves'

  interface Props {
    from: MoveCard
    /** The rung its ladder has free, if it stands on one. */
    nextRung: number | undefined
    onclose: (id?: string) => void
  }
  let { from, nextRung, onclose }: Props = $props()
  const start = untrack(() => from) // what is copied stays as it was when it was opened
  let name = $state('')
  let purpose = $state(start.purpose)
  let cues = $state(start.cues.slice(start.houseCues ?? 0).join('\n'))
  let setup = $state(start.setup.join('\n'))
  let fault = $state({ ...start.fault })
  let tempo = $state(start.tempo)
  let reps = $state(`${start.repsLow}-${start.repsHigh}`)
  let onLadder = $state(false)
  let lever = $state({ name: '', before: '', after: '' })
  let problem = $state<ProblemType>()

  const lines = (s: string) =>
    s
      .split('\n')
      .map((x) => x.trim())
      .filter(Boolean)
  const slug = (s: string) =>
    s
      .toLowerCase()
      .normalize('NFD')
      .replace(/[^a-z0-9]+/g, '-')
      .replace(/^-+|-+$/g, '')
      .slice(0, 50)

  function variant(): Schemas['Variant'] {
    // What only a card has, or the house's style says, is no part of a move.
    const drop = [
      'repMs',
      'easier',
      'harder',
      'figure',
      'counts',
      'weakest',
      'lightFor',
      'stages',
      'houseCues',
      'houseRepMs',
      'inTurn',
      'allCautions',
      'held',
    ]
    const ladder = ['ladder', 'rung', 'lever', 'test', 'down']
    const base = Object.fromEntries(
      Object.entries(start).filter(([k]) => !drop.includes(k) && !ladder.includes(k) && k !== 'also' && k !== 'learn'),
    ) as unknown as Schemas['Variant']
    const [low = 0, high = 0] = reps.split('-').map((x) => Number.parseInt(x, 10) || 0)
    return {
      ...base,
      id: `own-${slug(name)}`,
      name: name.trim(),
      lanes: [],
      purpose: purpose.trim(),
      cues: lines(cues),
      setup: lines(setup),
      fault,
      tempo: tempo.trim(),
      repsLow: low,
      repsHigh: high || low,
      ...(onLadder && start.ladder && nextRung
        ? { ladder: start.ladder, rung: nextRung, lever, test: start.test ?? '', down: start.down ?? '' }
        : {}),
    }
  }
  async function save(): Promise<void> {
    const body = variant()
    const a = await ask(api.PUT('/api/own-moves/{move}', { params: { path: { move: body.id } }, body }))
    problem = a.problem
    if (a.data) onclose(body.id)
  }
</script>

<FormModal
  title={t.own.title(from.name)}
  focus="#own-name"
  {problem}
  beside={false}
  onsave={save}
  onclose={() => onclose()}
>
  <p class="muted">{t.own.what}</p>
  <div class="row">
    <TextInput id="own-name" labelText={t.own.name} bind:value={name} />
    <TextInput id="own-tempo" labelText={t.own.tempo} bind:value={tempo} />
    <TextInput id="own-reps" labelText={t.own.reps} bind:value={reps} />
  </div>
  <TextInput id="own-purpose" labelText={t.own.purpose} bind:value={purpose} />
  <TextArea id="own-cues" labelText={t.own.cues} bind:value={cues} rows={3} />
  <TextArea id="own-setup" labelText={t.own.setup} bind:value={setup} rows={3} />
  <div class="row">
    <TextInput id="own-fault" labelText={t.own.fault} bind:value={fault.what} />
    <TextInput id="own-sign" labelText={t.own.sign} bind:value={fault.sign} />
    <TextInput id="own-mend" labelText={t.own.mend} bind:value={fault.mend} />
  </div>
  {#if nextRung}
    <Checkbox id="own-ladder" labelText={t.own.ladder} bind:checked={onLadder} />
    {#if onLadder}
      <div class="row">
        <TextInput id="own-lever" labelText={t.own.lever} bind:value={lever.name} />
        <TextInput id="own-before" labelText={t.own.before} bind:value={lever.before} />
        <TextInput id="own-after" labelText={t.own.after} bind:value={lever.after} />
      </div>
    {/if}
  {/if}
</FormModal>
