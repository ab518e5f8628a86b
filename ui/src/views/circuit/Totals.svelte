<script lang="ts">
  // How much a class comes to for each party, at both ends of its ranges.
  import type { Circuit } from '../../lib/api/client'
  import { counted, range } from '../../lib/state/blocks'
  import { partyName } from '../../lib/state/parties'
  import { circuit as t } from '../../lib/text/gen/circuit'
  import { lookup, nameOf } from '../../lib/text/names'

  let { circuit }: { circuit: Circuit } = $props()
  const rows = $derived(counted(circuit))
</script>

{#if rows.length > 0}
  <h2 class="small">{t.totals.title}</h2>
  <table class="sheet stack" id="totals" aria-label={t.totals.title}>
    <thead>
      <tr>
        <th scope="col">{t.totals.who}</th>
        <th scope="col" class="num">{t.totals.count}</th>
        <th scope="col" class="num">{t.totals.left}</th>
        <th scope="col" class="num">{t.totals.right}</th>
        <th scope="col" class="num">{t.totals.leftLeg}</th>
        <th scope="col" class="num">{t.totals.rightLeg}</th>
        <th scope="col">{t.totals.parts}</th>
      </tr>
    </thead>
    <tbody>
      {#each rows as r (r.party)}
        <tr>
          <th scope="row">{partyName(circuit.occurrence, r.party)}</th>
          <td class="num" data-label={t.totals.count}>{range(r.count.low, r.count.high)}</td>
          <td class="num" data-label={t.totals.left}>{range(r.count.leftLow, r.count.leftHigh)}</td>
          <td class="num" data-label={t.totals.right}>{range(r.count.rightLow, r.count.rightHigh)}</td>
          <td class="num" data-label={t.totals.leftLeg}>{range(r.leftLegLow, r.leftLegHigh)}</td>
          <td class="num" data-label={t.totals.rightLeg}>{range(r.rightLegLow, r.rightLegHigh)}</td>
          <td data-label={t.totals.parts}
            >{r.parts.map((p) => t.totals.part(range(p.low, p.high), lookup(nameOf.partName, p.move))).join(', ') ||
              '–'}</td
          >
        </tr>
      {/each}
    </tbody>
  </table>
{/if}
