<script lang="ts">
  // Who does what, by person and by piece of kit: on screen and on one sheet of paper.
  import { api, asking, type Circuit, type Schemas } from '../../lib/api/client'
  import Scroll from '../../lib/parts/Scroll.svelte'
  import { blockOf, byClock, doseText } from '../../lib/state/blocks'
  import { itemName, shortName } from '../../lib/state/floor'
  import { cellFor, doers } from '../../lib/state/people'
  import { studio } from '../../lib/state/studio.svelte'
  import { circuit as t } from '../../lib/text/gen/circuit'
  import { nameOf } from '../../lib/text/names'

  let { circuit }: { circuit: Circuit } = $props()
  const slots = $derived(
    circuit.plan.slots.filter((s) => ['work', 'finisher'].includes(blockOf(circuit.document, s.id)?.kind ?? '')),
  )
  const who = $derived(doers(circuit))
  let r = $state.raw<Schemas['Rehearsal']>()
  $effect(() => {
    void circuit.version
    const params = { path: { circuit: circuit.id } }
    return asking(
      (signal) => api.GET('/api/circuits/{circuit}/rehearsal', { params, signal }),
      (a) => (r = a.data),
    )
  })
  /** Who has a thing in a slot, wave by wave where there are several. */
  function users(item: string, slot: string): { wave: number; who: string[] }[] {
    const of = (r?.hands ?? []).filter((h) => h.slot === slot || (!h.slot && h.turn === 1))
    return of
      .map((h) => ({
        wave: h.slot && of.length > 1 ? (h.wave ?? 0) : 0,
        who: h.holds
          .filter((x) => x.slot === slot && x.items.some((i) => i.item === item))
          .map((x) => shortName(circuit.occurrence, r!.guests[x.guest]!)),
      }))
      .filter((x) => x.who.length > 0)
  }
</script>

{#if circuit.occurrence.people.length === 0}<p class="muted">{t.who.none}</p>{/if}
<h2>{t.who.byPerson}</h2>
<Scroll label={t.who.byPerson}>
  <table class="who" id="by-person">
    <thead>
      <tr>
        <th scope="col">{t.who.person}</th>
        {#each slots as s (s.id)}<th scope="col">{nameOf.pattern[s.pattern]}</th>{/each}
      </tr>
    </thead>
    <tbody>
      {#each who as w (w.party)}
        <tr class:person={w.party !== w.lane}>
          <th scope="row"
            >{w.name}{#if w.party !== w.lane}<small class="lane">{nameOf.lane[w.lane]}</small>{/if}</th
          >
          {#each slots as s (s.id)}
            {@const x = cellFor(circuit, s.id, w)}
            <td class:own={x?.own}>
              {#if x}
                <span class="load">{studio.loadText(x.cell.entry.load, x.cell.loadG, circuit.items)}</span>
                <span>{studio.move(x.cell.entry.variant)}</span>
                <small
                  >{doseText(
                    x.cell,
                    byClock(blockOf(circuit.document, s.id)),
                  )}{#if x.cell.twoSides && x.cell.entry.first}, {t.who.first(
                      nameOf.side[x.cell.entry.first],
                    )}{/if}</small
                >
              {/if}
            </td>
          {/each}
        </tr>
      {/each}
    </tbody>
  </table>
</Scroll>
<p class="muted">{t.who.ownHelp}</p>
<h2>{t.who.byThing}</h2>
{#if r && r.kit.length === 0}<p>{t.rehearsal.noKit}</p>{/if}
{#if r && r.kit.length > 0}
  <Scroll label={t.who.byThing}>
    <table class="who" id="by-thing">
      <thead>
        <tr>
          <th scope="col">{t.who.thing}</th>
          {#each slots as s (s.id)}<th scope="col">{nameOf.pattern[s.pattern]}</th>{/each}
        </tr>
      </thead>
      <tbody>
        {#each r.kit as k (k.item)}
          <tr>
            <th scope="row">{itemName(circuit.items, k.item)}<small>{t.who.there(k.n)}</small></th>
            {#each slots as s (s.id)}
              <td>
                {#each users(k.item, s.id) as u (u.wave)}
                  <span>{u.wave > 0 ? `${t.who.turn(u.wave)}: ` : ''}{u.who.join(', ')}</span>
                {/each}
              </td>
            {/each}
          </tr>
        {/each}
      </tbody>
    </table>
  </Scroll>
{/if}

<style>
  .who {
    border-collapse: collapse;
    font-size: 13px;
  }
  .who th,
  .who td {
    border-bottom: 1px solid var(--line);
    padding: 4px 10px 4px 0;
    text-align: left;
    vertical-align: top;
    min-width: 92px;
  }
  .who span,
  .who small {
    display: block;
  }
  .who small {
    color: var(--muted);
    font-size: 12px;
    font-weight: 400;
  }
  .load {
    font-variant-numeric: tabular-nums;
    font-size: 15px;
  }
  .own .load,
  .own span {
    font-weight: 600;
  }
  h2 {
    font-size: 15px;
    margin: 8px 0 2px;
  }
  /* One sheet of paper for a hall of people, in small print: their lane's row says what those
     do who have nothing of their own there, theirs only the load. */
  @media print {
    .who {
      table-layout: fixed;
      width: calc(100% - 1px);
    }
    .who th,
    .who td {
      min-width: 0;
      padding: 1pt 3pt;
      font-size: 7.5pt !important;
      line-height: 1.12;
    }
    .who td span,
    .who small {
      display: inline;
      font-size: 7.5pt !important;
      line-height: 1.12;
      color: inherit;
    }
    .load::after {
      content: ' ·';
    }
    th small::before {
      content: ' ';
    }
    .who .person small.lane,
    .who .person td:not(.own) > :not(.load),
    .who .person td:not(.own) .load::after {
      display: none;
      content: none;
    }
    h2 {
      font-size: 9pt !important;
      margin: 2pt 0 0;
    }
    p.muted {
      display: none;
    }
  }
</style>
