import { onDestroy, tick } from 'svelte'

/** Called while a dialog is made: gives the keys back to what opened it when it goes. */
export function returnFocus(): void {
  const opener = document.activeElement
  onDestroy(() => {
    void tick().then(() => {
      if (opener instanceof HTMLElement && opener.isConnected) opener.focus()
      else document.querySelector<HTMLElement>('main button')?.focus()
    })
  })
}
