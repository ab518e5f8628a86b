<script lang="ts">
  import { Modal } from 'carbon-components-svelte'
  import { t } from '../text/catalogue'
  import { returnFocus } from './opener'

  let { onclose }: { onclose: () => void } = $props()
  returnFocus()
</script>

<Modal open passiveModal modalHeading={t.keys.title} on:close={onclose}>
  <div class="keys-sheet">
    {#each t.keys.groups as g (g.name)}
      <section>
        <h3>{g.name}</h3>
        <dl>
          {#each g.keys as [key, what] (key)}
            <div>
              <dt><kbd>{key}</kbd></dt>
              <dd>{what}</dd>
            </div>
          {/each}
        </dl>
      </section>
    {/each}
  </div>
</Modal>

<style>
  .keys-sheet {
    display: grid;
    grid-template-columns: repeat(auto-fit, minmax(200px, 1fr));
    gap: 8px 28px;
  }
  dl div {
    display: flex;
    gap: 12px;
    padding: 3px 0;
  }
  dt {
    min-width: 92px;
  }
  kbd {
    font: inherit;
    font-weight: 600;
    border: 1px solid var(--muted);
    border-radius: 3px;
    padding: 1px 6px;
  }
</style>
