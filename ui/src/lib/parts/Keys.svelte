<script lang="ts">
  import { Modal } from 'carbon-components-svelte'
  import { common } from '../text/gen/common'
  import { keys as t } from '../text/gen/keys'
  import { returnFocus } from './opener'

  let { onclose }: { onclose: () => void } = $props()
  returnFocus()

  const { cap, does } = t
  const groups: [string, [string, string][]][] = [
    [
      t.groups.everywhere,
      [
        ['?', does.sheet],
        [cap.tab, does.tab],
        [cap.press, does.press],
        [cap.esc, does.esc],
      ],
    ],
    [
      t.groups.circuit,
      [
        [cap.arrows, does.arrows],
        [cap.enter, does.enter],
        [cap.undo, does.undo],
        [cap.redo, does.redo],
      ],
    ],
    [
      t.groups.run,
      [
        [cap.space, does.space],
        ['→', does.right],
        ['←', does.left],
        ['+', does.plus],
        ['M', does.m],
      ],
    ],
    [
      t.groups.log,
      [
        [cap.letters, does.letters],
        [cap.digits, does.digits],
        [cap.esc, does.back],
      ],
    ],
  ]
</script>

<Modal open passiveModal modalHeading={t.title} iconDescription={common.closeDialog} on:close={onclose}>
  <div class="keys-sheet">
    {#each groups as [name, keys] (name)}
      <section>
        <h3>{name}</h3>
        <dl>
          {#each keys as [key, what] (key)}
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
