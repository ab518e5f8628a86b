// Geometry of the score: seconds to pixels, and nothing else.
import { scaleLinear } from 'd3-scale'
import type { Plan } from '../api/client'

export interface Block {
  x: number
  width: number
  fromMs: number
  untilMs: number
  kind: Plan['order']['blocks'][number]['kind']
  round: number
}

/** The whole class on a width: each block's x and width are its seconds. */
export function strip(plan: Plan, width: number): Block[] {
  const end = Math.max(plan.totalMs, plan.classMs, 1)
  const x = scaleLinear([0, end], [0, width])
  return plan.order.blocks.map((b) => ({
    x: x(b.fromMs),
    width: x(b.untilMs) - x(b.fromMs),
    fromMs: b.fromMs,
    untilMs: b.untilMs,
    kind: b.kind,
    round: b.round ?? 0,
  }))
}

/** The strip as one outline a kind: a class has some sixty blocks, and every edit moves most. */
export function outlines(blocks: Block[]): { kind: Block['kind']; d: string }[] {
  const by = new Map<Block['kind'], string>()
  for (const b of blocks) by.set(b.kind, `${by.get(b.kind) ?? ''}M${b.x} 0h${b.width}v22h${-b.width}z`)
  return [...by].map(([kind, d]) => ({ kind, d }))
}

export interface Stave {
  width: number
  slots: { id: string; x: number; width: number; restX: number; restWidth: number; fromMs: number; untilMs: number }[]
}

/** The first round: as wide as the room, or wider so that the shortest slot stays readable. */
export function stave(plan: Plan, room: number, readable: number): Stave {
  const first = plan.order.blocks.filter((b) => b.round === 1 && b.kind !== 'round-rest')
  const start = first[0]?.fromMs ?? 0
  const end = first.at(-1)?.untilMs ?? 1
  const spans = plan.slots.map((s) => {
    const mine = first.filter((b) => b.slot === s.id && b.kind !== 'rest')
    return { id: s.id, fromMs: mine[0]?.fromMs ?? start, untilMs: mine.at(-1)?.untilMs ?? start }
  })
  const shortest = Math.min(...spans.map((s) => s.untilMs - s.fromMs), end - start)
  const width = Math.max(room, (readable * (end - start)) / Math.max(shortest, 1))
  const x = scaleLinear([start, end], [0, width])
  return {
    width,
    slots: spans.map((s, i) => {
      const next = spans[i + 1]
      return {
        ...s,
        x: x(s.fromMs),
        width: x(s.untilMs) - x(s.fromMs),
        restX: x(s.untilMs),
        restWidth: next ? x(next.fromMs) - x(s.untilMs) : 0,
      }
    }),
  }
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
