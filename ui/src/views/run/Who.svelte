<script lang="ts">
  // Who of a lane stopped early: somebody by name, or somebody of it.
  import { Modal } from 'carbon-components-svelte'
  import { returnFocus } from '../../lib/parts/opener'
  import { common } from '../../lib/text/gen/common'
  import { run as t } from '../../lib/text/gen/run'
  import type { LiveRun } from './live.svelte'

  interface Props {
    live: LiveRun
    lane: string
    slot: string
    onclose: () => void
  }
  const { live, lane, slot, onclose }: Props = $props()
  returnFocus()
  function stopped(who: string): void {
    live.did('stopped', who, slot)
    onclose()
  }
</script>

<Modal
  open
  passiveModal
  selectorPrimaryFocus="#who-0"
  modalHeading={t.party.whoStopped}
  iconDescription={common.closeDialog}
  on:close={onclose}
>
  <ul class="plain">
    {#each live.others(lane) as p, i (p.id)}
      <li class="choice">
        <button type="button" id={`who-${i}`} onclick={() => stopped(p.id)}><b>{p.name ?? common.dropIn}</b></button>
      </li>
    {/each}
    <li class="choice">
      <button type="button" id="who-lane" onclick={() => stopped(lane)}
        ><b>{t.party.all(lane as 'ground' | 'middle' | 'reach')}</b></button
      >
    </li>
  </ul>
</Modal>
