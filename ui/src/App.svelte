<script lang="ts">
  import { Router } from 'sv-router'
  import './lib/nav'
  import { route } from './lib/nav'
  import { keepKeys } from './lib/parts/keys'
  import Problem from './lib/parts/Problem.svelte'
  import Rail from './lib/parts/Rail.svelte'
  import { outbox } from './lib/state/outbox.svelte'
  import { studio } from './lib/state/studio.svelte'
  import { common } from './lib/text/gen/common'

  void studio.load()
  outbox.start()
  // In class the screen belongs to the clock.
  const bare = $derived(route.pathname.startsWith('/run/'))

  // Where a new page leaves nothing under the keys, they go to its heading.
  let first = true
  $effect(() => {
    void route.pathname
    if (first) {
      first = false
      return
    }
    return keepKeys()
  })

  let keys = $state(false)
  function question(e: KeyboardEvent): void {
    const typing = e.target instanceof HTMLElement && /^(INPUT|TEXTAREA|SELECT)$/.test(e.target.tagName)
    if (e.key === '?' && !typing && !e.ctrlKey && !e.metaKey) keys = true
  }
</script>

<svelte:window onkeydown={question} />

<a class="skip" href="#work">{common.skip}</a>
<div class="house" class:bare>
  {#if !bare}<Rail onkeys={() => (keys = true)} />{/if}
  <div class="room">
    {#if studio.problem}<Problem problem={studio.problem} />{/if}
    {#if outbox.refused}
      <section class="refused" aria-labelledby="refused">
        <p class="ember">
          <span id="refused">{common.refused}</span>
          <button type="button" class="link" onclick={() => (outbox.refused = undefined)}>{common.close}</button>
        </p>
        <Problem problem={outbox.refused} />
      </section>
    {/if}
    {#if studio.ready}<Router />{:else}<p class="page" role="status">{common.loading}</p>{/if}
  </div>
</div>
{#if keys}
  {#await import('./lib/parts/Keys.svelte') then { default: Keys }}<Keys onclose={() => (keys = false)} />{/await}
{/if}
