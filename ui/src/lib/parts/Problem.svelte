<script lang="ts">
  import { InlineNotification } from 'carbon-components-svelte'
  import type { Problem } from '../api/client'
  import { common } from '../text/gen/common'

  let { problem }: { problem: Problem } = $props()
  const title = $derived(problem.status === 0 ? common.lost : problem.detail)
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
  subtitle={[fields, problem.requestId ? common.requestId(problem.requestId) : ''].filter(Boolean).join(' · ')}
/>
