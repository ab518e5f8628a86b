<script lang="ts">
  // What is wrong with a file, line by line.
  import type { Schemas } from '../api/client'
  import { loads } from '../text/gen/loads'

  interface Props {
    faults: Schemas['FileMistake'][]
    more: number
    /** Whether lines are cells in columns. */
    columns?: boolean
  }
  let { faults, more, columns = false }: Props = $props()
</script>

<p class="ember">{loads.files.wrong(faults.length + more, more, faults.length)}</p>
<table class="sheet stack" aria-label={loads.files.what}>
  <thead>
    <tr
      ><th scope="col">{loads.files.line}</th>{#if columns}<th scope="col">{loads.files.column}</th>{/if}<th scope="col"
        >{loads.files.what}</th
      ><th scope="col">{loads.files.got}</th></tr
    >
  </thead>
  <tbody>
    {#each faults as f, i (i)}
      <tr
        ><td data-label={loads.files.line}>{f.line || '–'}</td>{#if columns}<td data-label={loads.files.column}
            >{f.column || '–'} {f.field ?? ''}</td
          >{/if}<td data-label={loads.files.what}>{columns ? '' : `${f.field ?? ''} `}{f.message}</td><td
          data-label={loads.files.got}>{f.value ?? ''}</td
        ></tr
      >
    {/each}
  </tbody>
</table>
