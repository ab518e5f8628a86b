// The one place that knows the router.
import { createRouter } from 'sv-router'
export { searchParams } from 'sv-router'

// The router's functions are free of `this`, although its types do not say so.
// eslint-disable-next-line @typescript-eslint/unbound-method
export const { p, navigate, isActive, route } = createRouter({
  '/': () => import('../views/today/Today.svelte'),
  '/people': () => import('../views/people/People.svelte'),
  '/people/:person': () => import('../views/people/PersonView.svelte'),
  '/people/:person/health': () => import('../views/people/HealthView.svelte'),
  '/kit': () => import('../views/kit/Kit.svelte'),
  '/kit/:tab': () => import('../views/kit/Kit.svelte'),
  '/moves': () => import('../views/moves/Moves.svelte'),
  '/moves/:move': () => import('../views/moves/Moves.svelte'),
  '/circuit/:occurrence': () => import('../views/circuit/CircuitView.svelte'),
  '/stations/:occurrence': () => import('../views/circuit/StationSheet.svelte'),
  '/who/:occurrence': () => import('../views/circuit/WhoSheet.svelte'),
  '/run/:occurrence': () => import('../views/run/RunView.svelte'),
  '/log/:occurrence': () => import('../views/log/LogView.svelte'),
  '*': () => import('../views/NotFound.svelte'),
})
