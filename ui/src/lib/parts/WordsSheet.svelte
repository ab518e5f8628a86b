<script lang="ts">
  // The words that the pages use, each with one meaning.
  import { Modal } from 'carbon-components-svelte'
  import { common } from '../text/gen/common'
  import { words as t } from '../text/gen/words'
  import { returnFocus } from './opener'

  let { onclose }: { onclose: () => void } = $props()
  returnFocus()
</script>

<Modal open passiveModal modalHeading={t.title} iconDescription={common.closeDialog} on:close={onclose}>
  <dl id="words-used">
    {#each Object.values(t.of) as w (w.term)}
      <dt>{w.term}</dt>
      <dd>{w.means}</dd>
    {/each}
  </dl>
  <p><a href="/moves">{t.trade}</a></p>
</Modal>

<style>
  dt {
    font-weight: 600;
  }
  dd {
    margin: 0 0 10px;
  }
</style>
