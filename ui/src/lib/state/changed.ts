// Lays what an edit changed over the circuit that is shown. What is the same stays the
// very same object, so that only what is other is drawn anew.
import type { Circuit, Schemas } from '../api/client'

export function changed(c: Circuit, by: Schemas['Change']): Circuit {
  const { order, slotIds, slots, ...plan } = by.plan
  const fresh = new Map([...c.plan.slots, ...slots].map((s) => [s.id, s]))
  return {
    ...c,
    tag: by.tag,
    version: by.version,
    canUndo: by.canUndo,
    canRedo: by.canRedo,
    document: by.document,
    occurrence: by.occurrence ?? c.occurrence,
    items: by.items ?? c.items,
    notes: by.notes ?? c.notes,
    decided: by.decided ?? c.decided,
    plan: {
      ...c.plan,
      ...plan,
      order: order ?? c.plan.order,
      slots: slotIds.flatMap((id) => fresh.get(id) ?? []),
    },
  }
}
