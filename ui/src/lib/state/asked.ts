// What is typed of the blocks that a session is asked to be made of, and how it is sent.
import type { Schemas } from '../api/client'

type Input = Schemas['BlockInput']

export interface AskedBlock {
  kind: NonNullable<Input['kind']>
  scheme: NonNullable<Input['scheme']> | ''
  rounds: number | null
  layout: NonNullable<Input['layout']> | ''
  dose: string
  pins: { move: string; load: string; dose: string }[]
}

/** What was left empty is not sent: it is the program's to choose. */
export const asInput = (b: AskedBlock): Input => ({
  kind: b.kind,
  ...(b.scheme ? { scheme: b.scheme } : {}),
  ...(b.rounds ? { rounds: b.rounds } : {}),
  ...(b.layout ? { layout: b.layout } : {}),
  ...(b.dose.trim() ? { dose: b.dose.trim() } : {}),
  pins: b.pins
    .filter((p) => p.move)
    .map((p) => ({
      move: p.move,
      ...(p.load.trim() ? { load: p.load.trim() } : {}),
      ...(p.dose.trim() ? { dose: p.dose.trim() } : {}),
    })),
})
