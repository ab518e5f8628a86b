<script lang="ts">
  import type { Why } from '../api/client'
  import { common } from '../text/gen/common'
  import { nameOf } from '../text/names'
  import { whyText, type Names } from '../text/why'
  import Self from './WhyLines.svelte'

  interface Props {
    why: Why
    names: Names
    /** What is explained, for those who do not see where the word stands. */
    label: string
    /** What to show in place of the bare word. */
    text?: string
  }
  let { why, names, label, text = common.why }: Props = $props()
</script>

<details class="why">
  <summary aria-label={`${text}: ${label}`}>{text}</summary>
  <div class="sum">
    <p>{whyText(why, names)} <small>({nameOf.source[why.source]})</small></p>
    <Self parts={why.parts ?? []} {names} />
  </div>
</details>
