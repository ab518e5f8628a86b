<script lang="ts">
  import { isActive, route } from '../nav'
  import { whenNewer } from '../api/client'
  import { look, studio } from '../state/studio.svelte'
  import { common } from '../text/gen/common'
  import { keys as keysTexts } from '../text/gen/keys'
  import { words as wordsTexts } from '../text/gen/words'
  import { studio as studioTexts } from '../text/gen/studio'

  let { onkeys }: { onkeys: () => void } = $props()
  let newer = $state(false)
  let open = $state(false)
  let words = $state(false)
  whenNewer(() => (newer = true))

  // The class a person is working on stays one click away in its three views.
  let occurrence = $state(sessionStorage.getItem('class') ?? '')
  $effect(() => {
    const id = (route.params as { occurrence?: string }).occurrence
    if (id) {
      occurrence = id
      sessionStorage.setItem('class', id)
    }
  })
  const links = $derived([
    { href: '/', text: common.nav.today, here: isActive('/') },
    {
      href: '/people',
      text: common.nav.people,
      here: isActive('/people') || isActive('/people/:person') || isActive('/people/:person/health'),
    },
    { href: '/kit', text: common.nav.kit, here: isActive('/kit') || isActive('/kit/:tab') },
    { href: '/moves', text: common.nav.moves, here: isActive('/moves') || isActive('/moves/:move') },
    ...(occurrence
      ? [
          { href: `/circuit/${occurrence}`, text: common.nav.circuit, here: isActive('/circuit/:occurrence') },
          { href: `/run/${occurrence}`, text: common.nav.run, here: false },
          { href: `/log/${occurrence}`, text: common.nav.log, here: isActive('/log/:occurrence') },
        ]
      : []),
  ])
</script>

<header class="rail">
  <svg class="mark" viewBox="0 0 32 32" aria-hidden="true">
    <path d="M5 9h22v3c-4 0-7 2-8 6v1h4v4H9v-4h4v-1c-1-3-4-4-8-5z" />
  </svg>
  <nav aria-label={common.nav.label}>
    {#each links as l (l.href)}
      <a href={l.href} aria-current={l.here ? 'page' : undefined}>{l.text}</a>
    {/each}
  </nav>
  <div class="settings">
    {#if newer}
      <p class="newer" role="status">{common.newer}</p>
      <button type="button" id="reload" onclick={() => location.reload()}>{common.reload}</button>
    {/if}
    <button type="button" class="wide" id="studio" onclick={() => (open = true)}>{studioTexts.open}</button>
    <button type="button" class="wide" onclick={onkeys}>{keysTexts.open}</button>
    <button type="button" class="wide" id="words-open" onclick={() => (words = true)}>{wordsTexts.open}</button>
    <button type="button" aria-pressed={look.dark} onclick={() => look.set(!look.dark)}>
      {look.dark ? common.light : common.dark}
    </button>
    <label>
      <span class="sr">{common.unitLabel}</span>
      <select
        id="unit"
        value={studio.unit}
        onchange={(e) => void studio.setUnit(e.currentTarget.value === 'lb' ? 'lb' : 'kg')}
      >
        {#each ['kg', 'lb'] as u (u)}<option value={u}>{u}</option>{/each}
      </select>
    </label>
  </div>
</header>

{#if open}
  {#await import('./StudioForm.svelte') then { default: StudioForm }}<StudioForm
      onclose={() => (open = false)}
    />{/await}
{/if}
{#if words}
  {#await import('./WordsSheet.svelte') then { default: WordsSheet }}<WordsSheet
      onclose={() => (words = false)}
    />{/await}
{/if}
