<script lang="ts">
  // The frame of the forms of things: name and count, and what each sort has besides.
  import { TextInput } from 'carbon-components-svelte'
  import type { Snippet } from 'svelte'
  import NumberBox from '../../lib/parts/NumberBox.svelte'
  import FormModal from '../../lib/parts/FormModal.svelte'
  import { kit as t } from '../../lib/text/gen/kit'
  import type { Typed } from './typed.svelte'

  interface Props {
    title: string
    /** The thing that is edited. */
    of?: string | undefined
    typed: Typed
    name: string
    /** Without it there is one only. */
    count?: number | null
    /** Where 0 says that there is none. */
    maybe?: boolean
    onsave: () => Promise<void>
    onclose: () => void
    /** Beside the name, and below. */
    sort?: Snippet
    children: Snippet
  }
  let {
    title,
    of = '',
    typed,
    name = $bindable(),
    count = $bindable(),
    maybe = false,
    onsave,
    onclose,
    sort,
    children,
  }: Props = $props()
</script>

<FormModal
  {title}
  {of}
  focus="#item-name"
  problem={typed.problem}
  beside={(typed.problem?.errors?.length ?? 0) > 0}
  {onsave}
  {onclose}
>
  <div class="row top">
    <TextInput id="item-name" labelText={t.name} bind:value={name} {...typed.wrong('name')} />
    {@render sort?.()}
    {#if count !== undefined}
      <NumberBox
        id="item-count"
        labelText={maybe ? t.countOrNone : t.count}
        min={maybe ? 0 : 1}
        max={500}
        bind:value={count}
        {...typed.wrong('count')}
      />
    {/if}
  </div>
  {@render children()}
</FormModal>

<style>
  :global(.bx--modal .row.top ~ .row.top) {
    margin-top: 16px;
  }
</style>
