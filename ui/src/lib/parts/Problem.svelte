<script lang="ts">
  import { InlineNotification } from 'carbon-components-svelte'
  import type { Problem } from '../api/client'
  import { t } from '../text/catalogue'

  let { problem }: { problem: Problem } = $props()
  const title = $derived(problem.status === 0 ? t.lost : problem.detail)
  const shown = 6
  const place = (location: string) => location.replace(/^body\.?/, '')
  const fields = $derived(
    (problem.errors ?? [])
      .slice(0, shown)
      .map((e) => [place(e.location), e.message].filter(Boolean).join(': '))
      .join('; '),
  )
</script>

<InlineNotification
  kind="error"
  lowContrast
  hideCloseButton
  {title}
  subtitle={[fields, problem.requestId ? t.requestId(problem.requestId) : ''].filter(Boolean).join(' · ')}
/>
