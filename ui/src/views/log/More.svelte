<script lang="ts">
  // What else there is to say of a set: each side, rounds of a window, stopped early, lighter
  // half-way, parts that came another number of times.
  import type { LogLine, Schemas } from '../../lib/api/client'
  import { studio } from '../../lib/state/studio.svelte'
  import { mass } from '../../lib/text/format'
  import { log as t } from '../../lib/text/gen/log'
  import { toldText } from './told'

  type Told = Pick<Schemas['LogInput'], 'left' | 'right' | 'rounds' | 'stopped' | 'lighter' | 'parts' | 'done'>
  interface Props {
    line: LogLine
    /** How a field of this line is called to who cannot see it. */
    label: (field: string) => string
    onset: (part: Partial<Told>) => void
  }
  const { line, label, onset }: Props = $props()
  const told = $derived(toldText(line))
  const summary = $derived(told.length > 0 ? `${t.more}: ${told.join(', ')}` : t.more)
  const combined = $derived(line.plannedParts.length > 1)
  function whole(text: string): number | undefined {
    const n = Number.parseInt(text, 10)
    return Number.isNaN(n) ? undefined : Math.min(Math.max(n, 0), 600)
  }
  /** Of two sides the lesser is what was done. */
  function side(field: 'left' | 'right', text: string): void {
    const n = whole(text) ?? line.planned
    const sides = { left: line.left ?? line.done, right: line.right ?? line.done, [field]: n }
    onset({ ...sides, done: Math.min(sides.left, sides.right) })
  }
  const doneOf = (part: string): number =>
    (line.parts ?? []).find((p) => p.move === part)?.done ??
    line.plannedParts.find((p) => p.move === part)?.done ??
    line.done
  function part(move: string, text: string): void {
    const others = (line.parts ?? []).filter((p) => p.move !== move)
    const n = whole(text)
    onset({ parts: n === undefined ? others : [...others, { move, done: n }] })
  }
</script>

{#snippet number(id: string, text: string, value: number | undefined, change: (typed: string) => void)}
  <label
    >{text}
    <input
      class="log-input"
      id={`${id}-${line.slot}`}
      type="number"
      min="0"
      max="600"
      value={value ?? ''}
      aria-label={label(text)}
      onchange={(e) => change(e.currentTarget.value)}
    /></label
  >
{/snippet}

<details open={told.length > 0} id={`more-${line.slot}`}>
  <summary aria-label={label(summary)}>{summary}</summary>
  <div class="fields">
    {#if line.twoSides}
      {@render number('left', t.left, line.left ?? line.done, (x) => side('left', x))}
      {@render number('right', t.right, line.right ?? line.done, (x) => side('right', x))}
    {/if}
    {#if line.scheme === 'window'}
      {@render number('rounds', t.rounds, line.rounds, (x) => onset({ rounds: whole(x) }))}
    {/if}
    {#if combined}
      {#each line.plannedParts as p (p.move)}
        {@render number(`part-${p.move}`, t.partDone(p.move), doneOf(p.move), (x) => part(p.move, x))}
      {/each}
    {/if}
    {#if line.loadG > 0}
      <label
        >{t.lighter}
        <input
          class="log-input wide"
          id={`lighter-${line.slot}`}
          type="text"
          value={line.lighterG === undefined ? '' : mass(line.lighterG, studio.unit)}
          aria-label={label(t.lighter)}
          onchange={(e) => onset({ lighter: e.currentTarget.value.trim() })}
        /></label
      >
    {/if}
    <label class="check"
      ><input
        type="checkbox"
        id={`stopped-${line.slot}`}
        checked={line.stopped ?? false}
        aria-label={label(t.stopped)}
        onchange={(e) => onset({ stopped: e.currentTarget.checked })}
      />
      {t.stopped}</label
    >
  </div>
</details>

<style>
  .fields {
    display: flex;
    flex-wrap: wrap;
    gap: 8px 16px;
    align-items: end;
    padding: 6px 0 10px;
  }
  label {
    display: flex;
    flex-direction: column;
    font-size: 12px;
  }
  label.check {
    flex-direction: row;
    gap: 6px;
    align-items: center;
    min-height: 28px;
  }
  .wide {
    width: 120px;
  }
</style>
