<script lang="ts">
  import type { Plan } from '../api/client'
  import { nameOf } from '../text/names'

  let { beams }: { beams: Plan['balance'] } = $props()
  const half = 92
  // A beam tips by two degrees for each slot of difference, at most eight.
  const tip = (l: number, r: number) => Math.max(-8, Math.min(8, (r - l) * 2))
</script>

<div class="beams">
  {#each beams as b (b.left)}
    <svg
      viewBox="0 0 208 66"
      role="img"
      aria-label={`${nameOf.beam[b.left]} ${b.leftN}, ${nameOf.beam[b.right]} ${b.rightN}`}
      class:uneven={b.uneven}
    >
      <g transform={`rotate(${tip(b.leftN, b.rightN)} 104 30)`}>
        <line class="beam" x1={104 - half} x2={104 + half} y1="30" y2="30" />
        {#each { length: b.leftN }, i (i)}<rect class="weight" x={14 + i * 13} y="18" width="11" height="11" />{/each}
        {#each { length: b.rightN }, i (i)}<rect class="weight" x={183 - i * 13} y="18" width="11" height="11" />{/each}
      </g>
      <path class="foot" d="M104 31l-8 14h16z" />
      <text x="12" y="61">{nameOf.beam[b.left]} {b.leftN}</text>
      <text x="196" y="61" text-anchor="end">{nameOf.beam[b.right]} {b.rightN}</text>
    </svg>
  {/each}
</div>
