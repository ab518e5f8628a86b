<script lang="ts">
  import { Button } from 'carbon-components-svelte'
  import {
    api,
    ask,
    asking,
    type Circuit,
    type Entry,
    type Problem as ProblemType,
    type Schemas,
  } from '../../lib/api/client'
  import Score from '../../lib/draw/Score.svelte'
  import Problem from '../../lib/parts/Problem.svelte'
  import { range } from '../../lib/state/blocks'
  import type { Editor } from '../../lib/state/editor.svelte'
  import { partyName } from '../../lib/state/parties'
  import { studio } from '../../lib/state/studio.svelte'
  import { when } from '../../lib/text/dates'
  import { span } from '../../lib/text/format'
  import { circuit as t } from '../../lib/text/gen/circuit'
  import { lookup, nameOf } from '../../lib/text/names'

  interface Props {
    circuit: Circuit
    editor: Editor
    /** A version to open with. */
    start?: number | undefined
  }
  let { circuit, editor, start }: Props = $props()

  let rows = $state.raw<Schemas['VersionRow'][]>([])
  let more = $state(false)
  let chosen = $state((() => start)())
  let looked = $state.raw<Schemas['Version']>()
  let problem = $state<ProblemType>()

  async function list(before?: number): Promise<void> {
    const query = before ? { before } : {}
    const a = await ask(
      api.GET('/api/circuits/{circuit}/versions', { params: { path: { circuit: circuit.id }, query } }),
    )
    problem = a.problem
    if (!a.data) return
    rows = before ? [...rows, ...a.data.rows] : a.data.rows
    more = a.data.more
  }
  $effect(() => {
    void circuit.version
    void list()
  })
  $effect(() => {
    void circuit.version
    const version = chosen
    if (!version) return
    const params = { path: { circuit: circuit.id, version } }
    return asking(
      (signal) => api.GET('/api/circuits/{circuit}/versions/{version}', { params, signal }),
      (a) => {
        problem = a.problem
        looked = a.data
      },
    )
  })
  // Presses of one field follow each other: they are one line, that of the last.
  const together = 10_000
  const gathered = $derived(
    rows.reduce<{ row: Schemas['VersionRow']; n: number; firstMs: number }[]>((out, row) => {
      const above = out.at(-1)
      const alike =
        above &&
        row.kind === 'edit' &&
        above.row.kind === 'edit' &&
        !row.side &&
        !above.row.side &&
        row.version !== start &&
        String(row.edits) === String(above.row.edits) &&
        String(row.moves) === String(above.row.moves) &&
        above.firstMs - row.atMs <= together
      if (alike) return [...out.slice(0, -1), { row: above.row, n: above.n + 1, firstMs: row.atMs }]
      return [...out, { row, n: 1, firstMs: row.atMs }]
    }, []),
  )
  const then = $derived(looked ? { ...circuit, document: looked.document, plan: looked.plan } : undefined)

  function entry(e: Entry | undefined): string {
    if (!e) return t.absent
    return `${studio.move(e.variant)}, ${studio.packing(e.load, circuit.items)}, ${dose(e)}${e.tempo ? ` × ${e.tempo}` : ''}, ${nameOf.sides[e.sides]}`
  }
  const dose = (e: Entry) =>
    e.dose.kind === 'seconds' ? span(e.dose.ms ?? 0) : range(e.dose.low ?? 0, e.dose.high ?? 0)
  const words: Record<string, string> = {
    ...nameOf.format,
    ...nameOf.scheme,
    ...nameOf.blockKind,
    ...nameOf.layout,
    ...nameOf.goal,
    ...nameOf.template,
  }
  function value(d: Schemas['Difference'], term: Schemas['Term'] | undefined): string {
    if (d.field === 'slot' || d.field === 'block') return term ? t.yes : t.absent
    if (d.field === 'new' || d.field === 'pinned') return term?.value ? t.yes : t.no
    if (!term) return t.absent
    if (term.kind === 'spanMs') return span(term.value ?? 0)
    if (term.kind === 'text') return lookup(words, term.text ?? '') || t.absent
    return String(term.value ?? 0)
  }
  const what = (d: Schemas['Difference']) =>
    [
      d.pattern ? nameOf.pattern[d.pattern] : d.kind ? nameOf.blockKind[d.kind] : '',
      d.party ? partyName(circuit.occurrence, d.party) : '',
      nameOf.differs[d.field],
    ]
      .filter(Boolean)
      .join(' · ')
</script>

{#if problem}<Problem {problem} />{/if}
<div class="two">
  <section>
    <h2 class="small">{t.versions}</h2>
    <ul class="plain" id="versions">
      {#each gathered as { row: r, n } (r.version)}
        <li class="choice" class:now={r.version === chosen}>
          <button type="button" aria-pressed={r.version === chosen} onclick={() => (chosen = r.version)}>
            <b>{r.version === circuit.version ? t.versionNewest(r.version) : t.version(r.version)}</b>
            <small class={r.side ? 'ember' : ''}>
              {when(r.atMs, circuit.occurrence.timeZone)} · {nameOf.versionKind[r.kind]}{r.kind === 'edit'
                ? `: ${[...new Set(r.edits)].map((e) => lookup(nameOf.editKind, e)).join(', ')}${r.moves.length > 0 ? ` (${r.moves.map((m) => studio.move(m)).join(', ')})` : ''}`
                : ''}{r.side ? ` · ${t.sideOf(r.base ?? 0)}` : ''}{n > 1 ? ` · ${t.gathered(n)}` : ''}
            </small>
          </button>
        </li>
      {/each}
    </ul>
    {#if more}
      <Button size="small" kind="ghost" on:click={() => void list(rows.at(-1)?.version)}>{t.older}</Button>
    {/if}
  </section>
  <section>
    {#if looked && then}
      <div class="head">
        <h2 class="grow">{t.version(looked.version)}</h2>
        <Button
          id="bring-back"
          size="small"
          disabled={looked.version === circuit.version}
          on:click={() => editor.restore(looked?.version ?? 0)}>{t.bringBack}</Button
        >
      </div>
      {#if looked.differences.length > 0}
        <table class="sheet" id="differences" aria-label={t.differs(looked.version)}>
          <thead>
            <tr>
              <td></td>
              <th scope="col">{t.version(looked.version)}</th>
              <th scope="col">{t.versionNewest(circuit.version)}</th>
            </tr>
          </thead>
          <tbody>
            {#each looked.differences as d, i (i)}
              <tr>
                <th scope="row">{what(d)}</th>
                <td>{d.field === 'entry' ? entry(d.entryA) : value(d, d.a)}</td>
                <td>{d.field === 'entry' ? entry(d.entryB) : value(d, d.b)}</td>
              </tr>
            {/each}
          </tbody>
        </table>
      {:else}
        <p class="muted">{t.same}</p>
      {/if}
      <Score circuit={then} slot="" party="" />
    {:else}
      <p class="muted">{t.pickVersion}</p>
    {/if}
  </section>
</div>

<style>
  .two {
    display: grid;
    grid-template-columns: minmax(220px, 300px) minmax(0, 1fr);
    gap: 20px;
  }
  @media (max-width: 900px) {
    .two {
      grid-template-columns: minmax(0, 1fr);
    }
  }
</style>
