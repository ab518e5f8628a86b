<script lang="ts">
  // Who somebody on a sheet is: written otherwise, in another lane, taken out again, and,
  // where another has the name, the same or not.
  import { Button } from 'carbon-components-svelte'
  import {
    api,
    ask,
    asking,
    newId,
    type Log,
    type LogSheet,
    type Problem as ProblemType,
    type Schemas,
  } from '../../lib/api/client'
  import Problem from '../../lib/parts/Problem.svelte'
  import { day } from '../../lib/text/dates'
  import { common } from '../../lib/text/gen/common'
  import { log as t } from '../../lib/text/gen/log'
  import { people } from '../../lib/text/gen/people'
  import { nameOf } from '../../lib/text/names'

  interface Props {
    occurrence: string
    sheet: LogSheet
    onedit: () => void
    onchange: (log: Log) => void
  }
  let { occurrence, sheet, onedit, onchange }: Props = $props()
  let others = $state.raw<Schemas['Person'][]>([])
  let attended = $state.raw<Schemas['Attended'][]>()
  let picked = $state.raw<string[]>([])
  let problem = $state<ProblemType>()

  // A sheet is another with each line that comes in; who it is of stays.
  const personId = $derived(sheet.personId)
  const name = $derived(sheet.sameName ? sheet.name : undefined)
  const whose = $derived(sheet.subject)
  $effect(() => {
    void whose
    attended = undefined
    others = []
    if (!name) return
    const mine = personId
    return asking(
      (signal) => api.GET('/api/people', { params: { query: { name } }, signal }),
      (a) => (others = (a.data ?? []).filter((p) => p.id !== mine)),
    )
  })

  async function reload(then: Promise<{ problem?: ProblemType | undefined }>): Promise<void> {
    problem = (await then).problem
    if (problem) return
    const a = await ask(api.GET('/api/occurrences/{occurrence}/log', { params: { path: { occurrence } } }))
    problem = a.problem
    if (a.data) onchange(a.data)
  }
  const path = $derived({ person: personId ?? '' })
  const join = (personId: string) =>
    reload(ask(api.POST('/api/people/{person}/join', { params: { path }, body: { personId } })))
  const different = () =>
    reload(ask(api.PUT('/api/people/{person}', { params: { path }, body: { name: sheet.name ?? '' } })))
  async function part(): Promise<void> {
    const body = { personId: newId(), participants: picked }
    await reload(ask(api.POST('/api/people/{person}/part', { params: { path }, body })))
    if (!problem) attended = undefined
  }
  async function look(): Promise<void> {
    const a = await ask(api.GET('/api/people/{person}/classes', { params: { path } }))
    problem = a.problem
    attended = a.data
    picked = []
  }
  const remove = () =>
    reload(
      ask(
        api.DELETE('/api/occurrences/{occurrence}/participants/{participant}', {
          params: { path: { occurrence, participant: sheet.subject } },
        }),
      ),
    )
</script>

<div class="who">
  {#if sheet.personId}<a class="page-of" href={`/people/${sheet.personId}`}>{people.title}: {sheet.name}</a>{/if}
  <Button size="small" kind="ghost" id="edit-person" on:click={onedit}>{t.editPerson}</Button>
  {#if sheet.lines.every((l) => !l.saved)}
    <Button size="small" kind="ghost" id="remove-person" on:click={remove}>{t.removePerson}</Button>
  {/if}
  {#if sheet.personId}
    <Button size="small" kind="ghost" id="part-person" on:click={look}>{t.partPerson}</Button>
  {/if}
</div>
{#if sheet.sameName}
  <section class="same" id="same-name" aria-label={t.sameName}>
    <p><b>{t.sameName}</b> {t.sameNameHelp(sheet.name ?? '')}</p>
    <div class="buttons">
      {#each others as p (p.id)}
        <Button size="small" kind="tertiary" on:click={() => join(p.id)}
          >{t.theSame(
            p.name,
            p.lane ? nameOf.lane[p.lane as keyof typeof nameOf.lane] : '',
            p.lastDate ? day(p.lastDate) : undefined,
            p.classes,
          )}</Button
        >
      {/each}
      <Button size="small" kind="tertiary" id="different" on:click={different}>{t.different}</Button>
    </div>
  </section>
{/if}
{#if attended}
  <fieldset class="same" id="attended">
    <legend>{t.partWhich(sheet.name ?? '')}</legend>
    {#each attended as c (c.participantId)}
      <label
        ><input
          type="checkbox"
          checked={picked.includes(c.participantId)}
          onchange={(e) =>
            (picked = e.currentTarget.checked
              ? [...picked, c.participantId]
              : picked.filter((x) => x !== c.participantId))}
        />
        {day(c.date)}, {c.name}, {nameOf.lane[c.lane]}</label
      >
    {/each}
    <div class="buttons">
      <Button size="small" id="part" disabled={picked.length === 0 || picked.length === attended.length} on:click={part}
        >{t.part}</Button
      >
      <Button size="small" kind="ghost" on:click={() => (attended = undefined)}>{common.cancel}</Button>
    </div>
  </fieldset>
{/if}
{#if problem}<Problem {problem} />{/if}

<style>
  .who {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 0 8px;
  }
  .same {
    border: 0;
    border-left: 3px solid var(--ember);
    background: var(--paper);
    padding: 8px 12px;
    margin: 8px 0;
  }
  .same label {
    display: flex;
    gap: 8px;
    align-items: center;
    min-height: 28px;
  }
  .buttons {
    display: flex;
    flex-wrap: wrap;
    gap: 8px;
    margin-top: 6px;
  }
</style>
