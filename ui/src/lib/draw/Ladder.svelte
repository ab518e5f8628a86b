<script lang="ts">
  // A ladder: a row for each rung, the hardest on top, a string for each lever.
  // Where a string carries a mark, that lever changes on that rung.
  import type { MoveCard } from '../api/client'
  import { moves as t } from '../text/gen/moves'
  import { nameOf } from '../text/names'

  interface Props {
    /** The rungs of one ladder, the easiest first. */
    rungs: MoveCard[]
    here: string
    onpick: (id: string) => void
  }
  let { rungs, here, onpick }: Props = $props()
  const levers = $derived([...new Set(rungs.flatMap((r) => (r.lever ? [r.lever.name] : [])))])
  const rows = $derived([...rungs].reverse())
</script>

<table class="ladder">
  <caption class="muted">{t.ladderHelp}</caption>
  <thead>
    <tr>
      <th scope="col">{t.rung}</th>
      {#each levers as l (l)}<th scope="col" class="lever">{l}</th>{/each}
    </tr>
  </thead>
  <tbody>
    {#each rows as r (r.id)}
      <tr class:here={r.id === here}>
        <th scope="row">
          <button type="button" aria-current={r.id === here ? 'true' : undefined} onclick={() => onpick(r.id)}
            >{r.name}</button
          >
          {#if r.gate}<span class="mark ember">{t.gated}</span>{/if}
          {#each r.lanes as l (l)}<span class="mark">{nameOf.lane[l]}</span>{/each}
        </th>
        {#each levers as l (l)}
          <td class:on={r.lever?.name === l}>
            <svg aria-hidden="true">
              <line x1="10" x2="10" y1="0" y2="100%" />
              {#if r.lever?.name === l}<circle cx="10" cy="50%" r="7" />{/if}
            </svg>
            {#if r.lever?.name === l}<span><i>{l}: </i>{r.lever.before} → <b>{r.lever.after}</b></span>{/if}
          </td>
        {/each}
      </tr>
    {/each}
  </tbody>
</table>

<style>
  table {
    border-collapse: collapse;
    width: 100%;
  }
  caption {
    text-align: left;
    padding-bottom: 6px;
  }
  th,
  td {
    text-align: left;
    padding: 4px 8px;
    font-weight: 400;
    vertical-align: middle;
  }
  thead th {
    font-size: 12px;
    color: var(--muted);
  }
  tbody tr {
    border-top: 1px solid var(--line);
  }
  tbody th {
    border-left: 4px solid transparent;
    min-width: 150px;
  }
  .here th {
    border-left-color: var(--accent);
    background: var(--soft);
  }
  button {
    font: inherit;
    color: var(--accent);
    background: none;
    border: 0;
    padding: 4px 0;
    min-height: 24px;
    text-align: left;
    cursor: pointer;
    text-decoration: underline;
  }
  .here button {
    color: var(--ink);
    font-weight: 600;
    text-decoration: none;
  }
  .mark {
    font-size: 12px;
    border: 1px solid var(--line);
    padding: 0 5px;
    margin-left: 6px;
    white-space: nowrap;
  }
  td {
    position: relative;
    padding-left: 30px;
    height: 40px;
    min-width: 30px;
    font-size: 13px;
  }
  svg {
    position: absolute;
    left: 4px;
    top: 0;
    width: 20px;
    height: 100%;
  }
  i {
    display: none;
  }
  @media (max-width: 700px) {
    thead,
    td:not(.on) {
      display: none;
    }
    tbody tr,
    tbody th,
    td {
      display: block;
    }
    tbody tr {
      padding: 4px 0;
    }
    td {
      height: auto;
    }
    i {
      display: inline;
      font-style: normal;
      margin-right: 4px;
      color: var(--muted);
    }
  }
  line {
    stroke: var(--line);
    stroke-width: 2;
  }
  circle {
    fill: var(--ember);
  }
</style>
