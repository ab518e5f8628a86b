<script lang="ts">
  // What was typed in a line of the log and does not stand there any more: on another
  // screen, or on this one before.
  import { api, ask, type Schemas } from '../../lib/api/client'
  import { studio } from '../../lib/state/studio.svelte'
  import { when } from '../../lib/text/dates'
  import { mass } from '../../lib/text/format'
  import { log as t } from '../../lib/text/gen/log'
  import { nameOf } from '../../lib/text/names'

  import { toldText } from './told'

  interface Props {
    occurrence: string
    subject: string
    slot: string
    count: number
    timeZone: string
    label: string
  }
  let { occurrence, subject, slot, count, timeZone, label }: Props = $props()
  let lines = $state.raw<Schemas['OvertakenLine'][]>()

  const told = (l: Schemas['OvertakenLine']): string =>
    toldText(l)
      .map((x) => `, ${x}`)
      .join('')

  async function read(open: boolean): Promise<void> {
    if (!open) return
    const path = { occurrence, subject, slot }
    lines = (await ask(api.GET('/api/occurrences/{occurrence}/log/{subject}/{slot}/overtaken', { params: { path } })))
      .data
  }
</script>

<details ontoggle={(e) => void read(e.currentTarget.open)}>
  <summary aria-label={`${t.earlier(count)}: ${label}`}>{t.earlier(count)}</summary>
  {#if lines}
    <ul>
      {#each lines as l, i (i)}
        <li>
          {t.was(when(l.writtenMs, timeZone), l.done, l.inForm, l.loadG > 0 ? mass(l.loadG, studio.unit) : '')}{told(
            l,
          )}{l.pain === 'none' ? '' : `, ${nameOf.pain[l.pain]}`}
        </li>
      {/each}
    </ul>
  {/if}
</details>
