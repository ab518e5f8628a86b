<script lang="ts">
  import { Modal } from 'carbon-components-svelte'
  import type { Snippet } from 'svelte'
  import type { Problem as ProblemType } from '../api/client'
  import { common } from '../text/gen/common'
  import { returnFocus } from './opener'
  import Problem from './Problem.svelte'

  interface Props {
    title: string
    /** The field that has the keys first. */
    focus: string
    problem: ProblemType | undefined
    /** Whether the problem is shown beside a field already. */
    beside: boolean
    onsave: () => Promise<void>
    onclose: () => void
    children: Snippet
  }
  let { title, focus, problem, beside, onsave, onclose, children }: Props = $props()
  returnFocus()
</script>

<Modal
  open
  modalHeading={title}
  primaryButtonText={common.save}
  secondaryButtonText={common.cancel}
  selectorPrimaryFocus={focus}
  hasForm
  iconDescription={common.closeDialog}
  on:click:button--secondary={onclose}
  on:close={onclose}
  on:submit={() => void onsave()}
>
  {#if problem && !beside}<Problem {problem} />{/if}
  {@render children()}
</Modal>
