<script lang="ts">
  // A file that is looked at first: the server says what it would bring, and only
  // then can it be brought in.
  import { Button } from 'carbon-components-svelte'
  import { textOf, type Problem as ProblemType } from '../api/client'
  import { common } from '../text/gen/common'
  import Problem from './Problem.svelte'

  interface Told {
    /** What it would bring, or brought. */
    say?: string
    problem?: ProblemType
  }
  interface Props {
    id: string
    label: string
    /** Both get the file's text, to be sent as it stands. */
    look: (text: string, name: string) => Promise<Told>
    bring: (text: string) => Promise<Told>
  }
  let { id, label, look, bring }: Props = $props()
  let text = ''
  let picked = $state('')
  let would = $state<string>()
  let did = $state<string>()
  let problem = $state<ProblemType>()

  async function choose(e: Event & { currentTarget: HTMLInputElement }): Promise<void> {
    would = did = problem = undefined
    const input = e.currentTarget
    const f = input.files?.[0]
    if (!f) return
    picked = f.name
    const read = await textOf(f)
    input.value = '' // so that the same file can be chosen again
    if (read === null) {
      problem = { status: 400, detail: common.file.noText }
      return
    }
    text = read
    const a = await look(text, picked)
    would = a.say
    problem = a.problem
  }
  async function take(): Promise<void> {
    const a = await bring(text)
    would = undefined
    did = a.say
    problem = a.problem
  }
</script>

<label class="file"
  >{label} <input id={`${id}-file`} type="file" accept="application/json,.json" onchange={choose} /></label
>
{#if picked}<p class="muted">{picked}</p>{/if}
{#if problem}<Problem {problem} />{/if}
<div role="status">
  {#if would}
    <p id={`${id}-would`}>{would}</p>
    <Button size="small" kind="tertiary" id={`${id}-bring`} on:click={() => void take()}>{common.file.bring}</Button>
  {:else if did}
    <p id={`${id}-did`}>{did}</p>
  {/if}
</div>

<style>
  .file {
    display: block;
    margin: 8px 0;
  }
</style>
