<script lang="ts">
  // The whole class as a ribbon: what is past, where it is, what comes.
  import type { Stretch } from './clock'

  interface Props {
    stretches: Stretch[]
    totalMs: number
    position: number
    now: Stretch | undefined
  }
  const { stretches, totalMs, position, now }: Props = $props()
</script>

<svg viewBox={`0 0 ${totalMs} 100`} preserveAspectRatio="none" aria-hidden="true">
  {#each stretches as b (b.fromMs)}
    <rect
      class={b.kind}
      class:past={b.untilMs <= position}
      class:now={b === now}
      x={b.fromMs}
      y="0"
      width={Math.max(b.untilMs - b.fromMs - 4000, 1000)}
      height="100"
    />
  {/each}
  <rect class="at" x={position - 2500} y="0" width="5000" height="100" />
</svg>

<style>
  svg {
    width: 100%;
    height: 14px;
    flex: none;
  }
  rect {
    fill: #39424f;
  }
  .work {
    fill: #56616f;
  }
  .past {
    fill: #262d37;
  }
  .now {
    fill: var(--go);
  }
  .at {
    fill: var(--call);
  }
</style>
