<script lang="ts">
  // Who does what by itself.
  import { circuit as t } from '../../lib/text/gen/circuit'
  import OneSheet from './OneSheet.svelte'
  import Who from './Who.svelte'
</script>

<OneSheet title={t.who.tab} print={t.who.print} small>
  {#snippet children(c)}<Who circuit={c} />{/snippet}
</OneSheet>
