// Lays what an edit changed over the circuit that is shown. What is the same stays the
// very same object, so that only what is other is drawn anew.
import type { Circuit, Schemas, SlotPlan } from '../api/client'

export function changed(c: Circuit, by: Schemas['Change']): Circuit {
  const { order, blocks, totals, pressure, balance, flags, prep, teach, floors, slotIds, slots, ...plan } = by.plan
  const was = new Map(c.plan.slots.map((s) => [s.id, s]))
  const now = new Map(slots.map((s) => [s.id, slotChanged(was.get(s.id), s)]))
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
      blocks: blocks ?? c.plan.blocks,
      totals: totals ?? c.plan.totals,
      pressure: pressure ?? c.plan.pressure,
      balance: balance ?? c.plan.balance,
      flags: flags ?? c.plan.flags,
      prep: prep ?? c.plan.prep,
      teach: teach ?? c.plan.teach,
      floors: floors ?? c.plan.floors,
      slots: slotIds.flatMap((id) => now.get(id) ?? was.get(id) ?? []),
    },
  }
}

function slotChanged(was: SlotPlan | undefined, by: Schemas['SlotChange']): SlotPlan {
  const { parties, cells, ...slot } = by
  const now = new Map([...(was?.cells ?? []), ...cells].map((c) => [c.party, c]))
  return { ...slot, cells: parties.flatMap((p) => now.get(p) ?? []) }
}
