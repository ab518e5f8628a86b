<script lang="ts">
  // What was put away, places and things of any place, each a press from use.
  import { Button } from 'carbon-components-svelte'
  import { api, ask, type Place, type Problem as ProblemType, type Schemas } from '../../lib/api/client'
  import Problem from '../../lib/parts/Problem.svelte'
  import { itemsOf } from '../../lib/state/items'
  import { studio } from '../../lib/state/studio.svelte'
  import { kit as t } from '../../lib/text/gen/kit'
  import { nameOf } from '../../lib/text/names'

  let { onchange }: { onchange: () => void } = $props()
  let away = $state.raw<Place[]>([])
  let problem = $state<ProblemType>()

  async function read(e?: Event): Promise<void> {
    if (e && !(e.currentTarget as HTMLDetailsElement).open) return
    const a = await ask(api.GET('/api/put-away'))
    problem = a.problem
    away = a.data ?? away
  }
  async function back(place: string, body: Schemas['BringBackInput']): Promise<void> {
    const a = await ask(api.POST('/api/places/{place}/bring-back', { params: { path: { place } }, body }))
    problem = a.problem
    if (!a.data) return
    await read()
    onchange()
  }
  const sort = (kind: string) => (kind === 'object' || kind === 'container' ? kind : 'implement')
</script>

{#snippet row(name: string, what: string, where: string, press: () => void)}
  <tr>
    <th scope="row">{name}</th>
    <td>{what}</td>
    <td>{where}</td>
    <td><Button size="small" kind="ghost" on:click={press} aria-label={t.bringBackWhat(name)}>{t.bringBack}</Button></td
    >
  </tr>
{/snippet}

<details id="put-away" ontoggle={(e) => void read(e)}>
  <summary>{t.putAway}</summary>
  {#if problem}<Problem {problem} />{/if}
  {#if away.length > 0}<table class="sheet" aria-label={t.putAway}>
      <tbody>
        {#each away as p (p.id)}
          {#if p.retired}{@render row(p.name, nameOf.placeKind[p.kind], '', () => void back(p.id, {}))}{/if}
          {#each itemsOf(p) as i (i.id)}
            {@render row(
              studio.itemName(i),
              nameOf.rowKind[sort(i.kind)],
              p.name,
              () => void back(p.id, { item: sort(i.kind), id: i.id }),
            )}
          {/each}
        {/each}
      </tbody>
    </table>{:else}<p class="muted">–</p>{/if}
</details>
