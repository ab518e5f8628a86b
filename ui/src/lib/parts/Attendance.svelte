<script lang="ts">
  // Who is in a class: its regulars ticked in one go, drop-ins with or without a name, and
  // whoever comes late. Nothing is sent before it is kept.
  import { Button } from 'carbon-components-svelte'
  import {
    api,
    ask,
    lanes,
    newId,
    type Lane,
    type Occurrence,
    type Problem as ProblemType,
    type Schemas,
  } from '../api/client'
  import { day } from '../text/dates'
  import { common } from '../text/gen/common'
  import { people as t } from '../text/gen/people'
  import { nameOf } from '../text/names'
  import FormModal from './FormModal.svelte'

  interface Props {
    occurrence: string
    onclose: (changed?: Occurrence) => void
  }
  let { occurrence, onclose }: Props = $props()
  let regulars = $state.raw<Schemas['Regular'][]>()
  let here = $state<Record<string, boolean>>({})
  let lane = $state<Record<string, Lane>>({})
  let dropIns = $state<{ id: string; name: string; lane: Lane; personId?: string }[]>([])
  // Somebody who is known and no regular here.
  let known = $state.raw<Schemas['Person'][]>([])
  let picked = $state('')
  void ask(api.GET('/api/people')).then((a) => (known = a.data ?? []))
  const others = $derived(
    known.filter(
      (p) => !p.out && !(regulars ?? []).some((r) => r.personId === p.id) && !dropIns.some((d) => d.personId === p.id),
    ),
  )
  function pick(id: string): void {
    const p = others.find((x) => x.id === id)
    picked = ''
    if (!p) return
    const at = lanes.find((l) => l === p.lane) ?? 'ground'
    dropIns = [...dropIns, { id: newId(), name: p.name, lane: p.ground ? 'ground' : at, personId: p.id }]
  }
  let problem = $state<ProblemType>()

  void ask(
    api.GET('/api/occurrences/{occurrence}/regulars', { params: { path: { occurrence: (() => occurrence)() } } }),
  ).then((a) => {
    problem = a.problem
    regulars = a.data ?? []
    here = Object.fromEntries(regulars.map((r) => [r.personId, r.participantId !== undefined]))
    lane = Object.fromEntries(regulars.map((r) => [r.personId, r.lane]))
  })
  const may = $derived((regulars ?? []).filter((r) => !r.out))
  const allHere = $derived(may.length > 0 && may.every((r) => here[r.personId]))
  function all(): void {
    const on = !allHere
    here = { ...here, ...Object.fromEntries(may.map((r) => [r.personId, on])) }
  }
  function dropIn(): void {
    dropIns = [...dropIns, { id: newId(), name: '', lane: 'ground' }]
  }
  async function save(): Promise<void> {
    const came = (regulars ?? []).filter((r) => here[r.personId] && !r.participantId)
    const gone = (regulars ?? []).filter((r) => !here[r.personId] && r.participantId)
    const body = {
      here: [
        ...came.map((r) => ({ id: newId(), personId: r.personId, lane: lane[r.personId] ?? r.lane })),
        ...dropIns.map((d) => ({
          ...{ id: d.id, lane: d.lane },
          ...(d.personId ? { personId: d.personId } : d.name.trim() ? { name: d.name } : {}),
        })),
      ],
      gone: gone.map((r) => r.participantId ?? ''),
    }
    const a = await ask(api.PUT('/api/occurrences/{occurrence}/attendance', { params: { path: { occurrence } }, body }))
    problem = a.problem
    if (a.data) onclose(a.data)
  }
</script>

<FormModal
  title={common.came}
  of={occurrence}
  focus="#came-all"
  {problem}
  beside={false}
  onsave={save}
  onclose={() => onclose()}
>
  {#if regulars}
    {#if regulars.length > 0}
      <p>
        <label class="all"
          ><input id="came-all" type="checkbox" checked={allHere} onchange={all} />
          <b>{t.came.all(may.length)}</b></label
        >
      </p>
      <ul class="plain came" id="regulars">
        {#each regulars as r (r.personId)}
          <li>
            <label
              ><input
                id={`came-${r.personId}`}
                type="checkbox"
                checked={here[r.personId] ?? false}
                disabled={r.out && !r.participantId}
                onchange={(e) => (here = { ...here, [r.personId]: e.currentTarget.checked })}
              />
              {r.name}</label
            >
            {#if r.out}<span class="ember">{t.out}</span>{:else if r.ground}<span class="ember">{t.ground}</span>{/if}
            {#if !r.out && !r.participantId}
              <select
                class="log-input"
                aria-label={t.came.laneOf(r.name)}
                disabled={r.ground}
                value={lane[r.personId]}
                onchange={(e) => (lane = { ...lane, [r.personId]: e.currentTarget.value as Lane })}
              >
                {#each lanes as l (l)}<option value={l}>{nameOf.lane[l]}</option>{/each}
              </select>
            {/if}
          </li>
        {/each}
      </ul>
    {:else}<p class="muted">{t.came.none}</p>{/if}
    {#each dropIns as d, i (d.id)}
      <div class="row">
        <label class="field"
          ><span>{t.came.dropInName}</span>
          <input
            id={`drop-in-${i}`}
            class="log-input"
            value={d.name}
            readonly={d.personId !== undefined}
            oninput={(e) => (d.name = e.currentTarget.value)}
          /></label
        >
        <label class="field"
          ><span>{t.came.lane}</span>
          <select class="log-input" value={d.lane} onchange={(e) => (d.lane = e.currentTarget.value as Lane)}>
            {#each lanes as l (l)}<option value={l}>{nameOf.lane[l]}</option>{/each}
          </select></label
        >
        <button type="button" class="link" onclick={() => (dropIns = dropIns.filter((x) => x.id !== d.id))}
          >{common.takeOut(d.name || t.came.dropIn)}</button
        >
      </div>
    {/each}
    {#if others.length > 0}
      <label class="field"
        ><span>{t.came.known}</span>
        <select id="came-known" class="log-input" bind:value={() => picked, pick}>
          <option value="">{t.choose}</option>
          {#each others as p (p.id)}<option value={p.id}
              >{t.whoIs(p.name, p.lastDate ? day(p.lastDate) : undefined, p.classes)}</option
            >{/each}
        </select></label
      >
    {/if}
    <Button size="small" kind="tertiary" id="add-drop-in" on:click={dropIn}>{t.came.addDropIn}</Button>
  {:else if !problem}<p role="status">{common.loading}</p>{/if}
</FormModal>

<style>
  .came li {
    display: flex;
    flex-wrap: wrap;
    gap: 4px 14px;
    align-items: center;
    min-height: 34px;
    border-bottom: 1px solid var(--line);
  }
  .came label,
  .all {
    display: inline-flex;
    gap: 8px;
    align-items: center;
    min-height: 32px;
    flex: 0 1 260px;
  }
  .field input {
    width: 220px;
  }
  .field span {
    display: block;
    font-size: 12px;
    color: var(--muted);
  }
  .row {
    margin: 8px 0;
  }
</style>
