// What stands in the fields of a form, by their ids, and kept for the browser's tab.
import { tick } from 'svelte'

export type Draft = Record<string, string | boolean>
type Field = HTMLInputElement | HTMLSelectElement | HTMLTextAreaElement

const all = (form: HTMLElement) =>
  [...form.querySelectorAll<Field>('input[id], select[id], textarea[id]')].filter((f) => f.type !== 'file')

export function fields(form: HTMLElement): Draft {
  return Object.fromEntries(
    all(form).map((f) => [f.id, f.type === 'checkbox' ? (f as HTMLInputElement).checked : f.value]),
  )
}

/** Types a draft into a form. What one field makes appear is filled in after it. */
export async function fill(form: HTMLElement, draft: Draft): Promise<void> {
  const filled = new Set<string>()
  for (let more = true; more;) {
    more = false
    for (const f of all(form)) {
      const value = draft[f.id]
      if (value === undefined || filled.has(f.id)) continue
      filled.add(f.id)
      more = true
      if (typeof value === 'boolean') {
        if ((f as HTMLInputElement).checked !== value) f.click()
      } else if (f.value !== value) {
        f.value = value
        f.dispatchEvent(new Event('input', { bubbles: true }))
        f.dispatchEvent(new Event('change', { bubbles: true }))
      }
    }
    await tick()
  }
}

export function readDraft(key: string): Draft | undefined {
  try {
    const kept = sessionStorage.getItem(`draft ${key}`)
    return kept ? (JSON.parse(kept) as Draft) : undefined
  } catch {
    return undefined
  }
}

export function keepDraft(key: string, draft: Draft): void {
  try {
    sessionStorage.setItem(`draft ${key}`, JSON.stringify(draft))
  } catch {
    // A tab that keeps nothing: the draft lives as long as the form.
  }
}

export function clearDraft(key: string): void {
  try {
    sessionStorage.removeItem(`draft ${key}`)
  } catch {
    // nothing was kept
  }
}
