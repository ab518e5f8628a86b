<script lang="ts">
  // What a place has, written down as on paper: a line a thing. The server reads it while it
  // is typed or pasted, and says what it would do.
  import { TextArea } from 'carbon-components-svelte'
  import { api, ask, asking, type Place, type Problem as ProblemType, type Schemas } from '../../lib/api/client'
  import Problem from '../../lib/parts/Problem.svelte'
  import { studio } from '../../lib/state/studio.svelte'
  import { kit as t } from '../../lib/text/gen/kit'
  import Preview from './Preview.svelte'

  let { place, onbrought }: { place: Place; onbrought: () => void } = $props()
  let text = $state('')
  let seen = $state.raw<Schemas['PlacesPreview']>()
  let problem = $state<ProblemType>()

  // A moment after the last key.
  $effect(() => {
    const body = { text, place: place.id }
    if (text.trim() === '') {
      seen = problem = undefined
      return
    }
    let giveUp = (): void => clearTimeout(later)
    const later = setTimeout(() => {
      giveUp = asking(
        (signal) => api.POST('/api/places-file/preview', { body, signal }),
        (a) => {
          problem = a.problem
          seen = a.data
        },
      )
    }, 250)
    return () => giveUp()
  })
  async function bring(): Promise<void> {
    const body = { text, place: place.id, hash: seen?.hash ?? '' }
    const a = await ask(api.POST('/api/places-file/import', { body }))
    problem = a.problem
    if (!a.data) return
    text = ''
    onbrought()
  }
</script>

<details id="lines" open={place.implements.length + place.objects.length + place.containers.length === 0}>
  <summary>{t.lines.title}</summary>
  <TextArea
    id="kit-lines"
    labelText={t.lines.label}
    helperText={studio.unit === 'lb' ? t.lines.hintPound : t.lines.hint}
    rows={4}
    bind:value={text}
  />
  {#if problem}<Problem {problem} />{/if}
  <div role="status" id="lines-seen">
    {#if seen}<Preview {seen} onbring={bring} />{/if}
  </div>
</details>

<style>
  details {
    margin: 8px 0 16px;
  }
  summary {
    cursor: pointer;
    padding: 4px 0;
  }
</style>
