<script lang="ts">
  // A dialog with a form. What is typed in it is kept for as long as the page's tab lives:
  // it stands there again when the dialog is opened anew, after Back and after a reload.
  // Closing it with something typed is asked about once.
  import { Modal } from 'carbon-components-svelte'
  import { onMount, tick, type Snippet } from 'svelte'
  import type { Problem as ProblemType } from '../api/client'
  import { common } from '../text/gen/common'
  import { clearDraft, fields, fill, keepDraft, readDraft } from './draft'
  import { returnFocus } from './opener'
  import Problem from './Problem.svelte'

  interface Props {
    title: string
    /** What is edited, by its id, where titles are alike: its draft is its own. */
    of?: string
    /** The field that has the keys first. */
    focus: string
    problem: ProblemType | undefined
    /** Whether the problem is shown beside a field already. */
    beside: boolean
    onsave: () => Promise<void>
    onclose: () => void
    children: Snippet
  }
  let { title, of = '', focus, problem, beside, onsave, onclose, children }: Props = $props()
  returnFocus()
  let open = $state(true)
  let asking = $state(false)
  let typed = $state(false)
  let restored = $state(false)
  let body = $state<HTMLElement>()
  const key = (() => `${location.pathname}${location.search} ${title} ${of}`)()

  onMount(() => {
    const draft = readDraft(key)
    if (!draft || !body) return
    void fill(body, draft).then(() => (typed = restored = true))
  })
  function note(): void {
    typed = true
    if (body) keepDraft(key, fields(body))
  }
  function close(): void {
    if (typed && !asking) {
      asking = open = true
      void tick().then(() => document.getElementById('keep-typing')?.focus())
      return
    }
    onclose()
  }
  function discard(): void {
    clearDraft(key)
    onclose()
  }
  async function save(): Promise<void> {
    const kept = readDraft(key)
    clearDraft(key)
    await onsave()
    // Refused: the form is still there, and so is what was typed.
    if (body?.isConnected && kept) keepDraft(key, kept)
  }
  // What was refused is where the keys go.
  $effect(() => {
    if (problem?.errors?.length)
      void tick().then(() => body?.querySelector<HTMLElement>('[aria-invalid="true"], [data-invalid] input')?.focus())
  })
</script>

<Modal
  bind:open
  modalHeading={title}
  primaryButtonText={common.save}
  secondaryButtonText={common.cancel}
  selectorPrimaryFocus={focus}
  hasForm
  iconDescription={common.closeDialog}
  on:click:button--secondary={close}
  on:close={close}
  on:submit={() => void save()}
>
  {#if asking}
    <div class="asking" role="alert">
      <p>{common.unsavedForm}</p>
      <button type="button" id="keep-typing" onclick={() => (asking = false)}>{common.keepTyping}</button>
      <button type="button" id="discard" onclick={discard}>{common.discard}</button>
    </div>
  {:else if restored}
    <p class="muted" role="status">
      {common.restored}
      <button type="button" class="link" id="discard" onclick={discard}>{common.discard}</button>
    </p>
  {/if}
  {#if problem && !beside}<Problem {problem} />{/if}
  <div bind:this={body} oninput={note} onchange={note}>
    {@render children()}
  </div>
</Modal>

<style>
  .asking {
    display: flex;
    flex-wrap: wrap;
    gap: 8px 12px;
    align-items: center;
    border-left: 3px solid var(--ember);
    padding: 4px 0 4px 10px;
    margin-bottom: 12px;
  }
  .asking button {
    font: inherit;
    color: var(--accent);
    background: none;
    border: 1px solid var(--accent);
    min-height: 32px;
    padding: 2px 12px;
    cursor: pointer;
  }
</style>
