const lost = () => {
  const at = document.activeElement
  return !at || at === document.body || (at as Partial<HTMLButtonElement>).disabled === true
}

/**
 * Gives the keys to the page's heading, or to what is found, where a change leaves them
 * on nothing: looks for two seconds, since the change may still be on its way. Gives a
 * function that stops looking.
 */
export function keepKeys(find: () => HTMLElement | null = () => null): () => void {
  let looks = 0
  const look = setInterval(() => {
    if (++looks > 40) clearInterval(look)
    if (!lost()) return
    const to = find() ?? document.querySelector<HTMLElement>('main h1')
    if (!to) return
    if (to.tabIndex < 0) to.tabIndex = -1
    to.focus({ preventScroll: true })
    clearInterval(look)
  }, 50)
  return () => clearInterval(look)
}
