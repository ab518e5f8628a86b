<script lang="ts">
  import Scroll from '../parts/Scroll.svelte'
  import type { Circuit } from '../api/client'
  import { studio } from '../state/studio.svelte'
  import { circuit as t } from '../text/gen/circuit'
  import { nameOf } from '../text/names'

  let { circuit }: { circuit: Circuit } = $props()
  const items = $derived(circuit.items)
  const names = $derived(new Map(items.map((i) => [i.id, studio.itemName(i)])))
  const rows = $derived(circuit.plan.pressure)
  const shown = 12 // squares drawn before numbers alone must do
</script>

<Scroll label={t.pressure}>
  <table class="pressure">
    <caption class="small">{t.pressure}</caption>
    <thead>
      <tr>
        <td></td>
        {#each circuit.plan.slots as s (s.id)}<th scope="col">{nameOf.pattern[s.pattern]}</th>{/each}
      </tr>
    </thead>
    <tbody>
      {#each rows as r (r.item)}
        <tr>
          <th scope="row">{names.get(r.item) ?? '?'}</th>
          {#each r.used as n, i (i)}
            <td class:full={n > 0 && n >= r.present} class:short={n > r.present} class:idle={n === 0}>
              {#if r.present <= shown}
                <svg width={Math.max(r.present, n) * 11} height="11" aria-hidden="true">
                  {#each { length: Math.max(r.present, n) }, k (k)}
                    <rect
                      class={k < n ? (k >= r.present ? 'none' : 'used') : 'free'}
                      x={k * 11 + 0.5}
                      y="0.5"
                      width="9"
                      height="9"
                    />
                  {/each}
                </svg>
              {/if}
              <span>{n}/{r.present}</span>
            </td>
          {/each}
        </tr>
      {/each}
    </tbody>
  </table>
</Scroll>
