// Geometry of the score: seconds to pixels, and nothing else.
import { scaleLinear } from 'd3-scale'
import type { Circuit, Plan } from '../api/client'

export interface Piece {
  x: number
  width: number
  fromMs: number
  untilMs: number
  kind: Plan['order']['stretches'][number]['kind']
  round: number
  block: string
}

/** The whole class on a width: each stretch's x and width are its seconds. */
export function strip(plan: Plan, width: number): Piece[] {
  const end = Math.max(plan.totalMs, plan.classMs, 1)
  const x = scaleLinear([0, end], [0, width])
  return plan.order.stretches.map((b) => ({
    x: x(b.fromMs),
    width: x(b.untilMs) - x(b.fromMs),
    fromMs: b.fromMs,
    untilMs: b.untilMs,
    kind: b.kind,
    round: b.round ?? 0,
    block: b.block ?? '',
  }))
}

/** The strip as one outline a kind: a class has some sixty stretches, and every edit moves most. */
export function outlines(pieces: Piece[]): { kind: Piece['kind']; d: string }[] {
  const by = new Map<Piece['kind'], string>()
  for (const b of pieces) by.set(b.kind, `${by.get(b.kind) ?? ''}M${b.x} 0h${b.width}v22h${-b.width}z`)
  return [...by].map(([kind, d]) => ({ kind, d }))
}

export interface PlacedSlot {
  id: string
  /** Its number among the slots of all blocks. */
  at: number
  x: number
  width: number
  restWidth: number
}

export interface Section {
  id: string
  x: number
  width: number
  slots: PlacedSlot[]
}

/** What stands between two sections, and how wide one is that times itself or is empty. */
const apart = 16
const narrow = 40
const empty = 120

/**
 * The blocks side by side, of each one round or one set of every slot: within a block a
 * slot is as wide as its seconds. The room is filled; where the shortest slot of a block
 * could not be read the block is wider.
 */
export function sections(circuit: Circuit, room: number, readable: number): Section[] {
  const { document, plan } = circuit
  let first = 0
  const blocks = document.blocks.map((b) => {
    const slots = plan.slots.slice(first, first + b.slots.length)
    const at = first
    first += b.slots.length
    const long = slots.reduce((sum, s, i) => sum + s.slotMs + (i + 1 < slots.length ? s.restMs : 0), 0)
    const shortest = Math.max(1, Math.min(...slots.map((s) => s.slotMs)))
    const least = slots.length === 0 ? (b.auto ? narrow : empty) : (readable * long) / shortest
    return { id: b.id, slots, at, long, least: slots.length > 0 && long === 0 ? readable * slots.length : least }
  })
  const taken = apart * Math.max(0, blocks.length - 1)
  const fixed = blocks.filter((b) => b.slots.length === 0).reduce((sum, b) => sum + b.least, 0)
  const loose = blocks.filter((b) => b.slots.length > 0).reduce((sum, b) => sum + b.least, 0)
  const grow = loose > 0 ? Math.max(1, (room - taken - fixed) / loose) : 1
  let x = 0
  return blocks.map((b) => {
    const width = b.slots.length > 0 ? b.least * grow : b.least
    const px = width / Math.max(b.long, 1)
    let at = x
    const slots = b.slots.map((s, i) => {
      const last = i + 1 === b.slots.length
      const placed = {
        id: s.id,
        at: b.at + i,
        x: at,
        width: b.long > 0 ? s.slotMs * px : width / b.slots.length,
        restWidth: last ? 0 : s.restMs * px,
      }
      at += placed.width + placed.restWidth
      return placed
    })
    const section = { id: b.id, x, width, slots }
    x += width + apart
    return section
  })
}

/** A word longer than a line, in parts: at its own hyphens, else with new ones. */
function parts(word: string, width: number): string[] {
  if (word.length <= width) return [word]
  return word.split(/(?<=-)(?=.)/).flatMap((part) => {
    const letters = [...part]
    const out: string[] = []
    while (letters.length > Math.max(width, 3)) out.push(`${letters.splice(0, Math.max(width, 3) - 1).join('')}-`)
    return [...out, letters.join('')]
  })
}

/** Breaks a name into at most so many lines of so many characters. */
export function lines(text: string, width: number, most: number): string[] {
  const out: string[] = []
  let line = ''
  // Of one line there is no second half: what does not fit is cut there.
  for (const word of most === 1 ? text.split(' ') : text.split(' ').flatMap((w) => parts(w, width))) {
    if (line !== '' && `${line} ${word}`.length > width) {
      out.push(line)
      line = word
    } else {
      line = `${line} ${word}`.trim()
    }
  }
  out.push(line)
  const cut = (l: string) => (l.length > width + 1 ? `${l.slice(0, Math.max(width - 1, 1))}…` : l)
  if (out.length > most) out[most - 1] = `${out[most - 1]} …`
  return out.slice(0, most).map(cut)
}
