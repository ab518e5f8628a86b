<script lang="ts">
  import { Router } from 'sv-router'
  import './lib/nav'
  import { route } from './lib/nav'
  import Problem from './lib/parts/Problem.svelte'
  import Rail from './lib/parts/Rail.svelte'
  import { studio } from './lib/state/studio.svelte'
  import { t } from './lib/text/catalogue'

  void studio.load()
  // In class the screen belongs to the clock.
  const bare = $derived(route.pathname.startsWith('/run/'))
</script>

<a class="skip" href="#work">{t.skip}</a>
<div class="house" class:bare>
  {#if !bare}<Rail />{/if}
  <div class="room">
    {#if studio.problem}<Problem problem={studio.problem} />{/if}
    {#if studio.ready}<Router />{:else}<p class="page" role="status">{t.loading}</p>{/if}
  </div>
</div>
