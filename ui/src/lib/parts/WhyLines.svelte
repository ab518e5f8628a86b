<script lang="ts">
  import type { Why } from '../api/client'
  import { nameOf } from '../text/names'
  import { whyText, type Names } from '../text/why'
  import Self from './WhyLines.svelte'

  let { parts, names }: { parts: Why[]; names: Names } = $props()
</script>

{#if parts.length > 0}
  <ul>
    {#each parts as part, i (i)}
      <li>
        {whyText(part, names)} <small>({nameOf.source[part.source]})</small>
        <Self parts={part.parts ?? []} {names} />
      </li>
    {/each}
  </ul>
{/if}
