<script lang="ts">
  // Something wide in its own scrolling room: where it is wider than the room, the keys
  // reach it.
  import type { Snippet } from 'svelte'

  interface Props {
    label: string
    children: Snippet
  }
  let { label, children }: Props = $props()
  let box = $state<HTMLElement>()
  let wide = $state(false)
  $effect(() => {
    if (!box) return
    const seen = box
    const look = new ResizeObserver(() => (wide = seen.scrollWidth > seen.clientWidth))
    look.observe(seen)
    for (const c of seen.children) look.observe(c)
    return () => look.disconnect()
  })
</script>

<!-- svelte-ignore a11y_no_noninteractive_tabindex -->
<div class="scroll" role="group" aria-label={label} tabindex={wide ? 0 : undefined} bind:this={box}>
  {@render children()}
</div>
