<script lang="ts">
  import type { Why } from '../api/client'
  import { source, t } from '../text/catalogue'
  import { whyText, type Names } from '../text/why'
  import Self from './WhyLines.svelte'

  let { why, names, label }: { why: Why; names: Names; label: string } = $props()
</script>

<details class="why">
  <summary aria-label={`${t.why}: ${label}`}>{t.why}</summary>
  <div class="sum">
    <p>{whyText(why, names)} <small>({source[why.source]})</small></p>
    <Self parts={why.parts ?? []} {names} />
  </div>
</details>
