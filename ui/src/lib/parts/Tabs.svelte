<script lang="ts">
  // A list of tabs: one stop of the tab key, arrows and Home and End go from one to the
  // other. The panel is the page's own, by its id.
  interface Props {
    label: string
    tabs: { id: string; text: string }[]
    selected: string
    panel: string
    onselect: (id: string) => void
    grow?: boolean
  }
  let { label, tabs, selected, panel, onselect, grow = false }: Props = $props()

  function key(e: KeyboardEvent): void {
    const at = tabs.findIndex((x) => x.id === selected)
    const to = { ArrowRight: at + 1, ArrowLeft: at - 1, Home: 0, End: tabs.length - 1 }[e.key]
    const next = to === undefined ? undefined : tabs[(to + tabs.length) % tabs.length]
    if (!next) return
    e.preventDefault()
    onselect(next.id)
    document.getElementById(`tab-${next.id}`)?.focus()
  }
</script>

<div class="tabs" class:grow role="tablist" aria-label={label}>
  {#each tabs as x (x.id)}
    <button
      role="tab"
      type="button"
      id={`tab-${x.id}`}
      aria-selected={selected === x.id}
      aria-controls={panel}
      tabindex={selected === x.id ? 0 : -1}
      onkeydown={key}
      onclick={() => onselect(x.id)}>{x.text}</button
    >
  {/each}
</div>
