// What else is told of a set, in words.
import type { Schemas } from '../../lib/api/client'
import { studio } from '../../lib/state/studio.svelte'
import { mass } from '../../lib/text/format'
import { log as t } from '../../lib/text/gen/log'

type Told = Pick<Schemas['OvertakenLine'], 'left' | 'right' | 'rounds' | 'stopped' | 'lighterG' | 'parts'>

export function toldText(l: Told): string[] {
  return [
    l.left === undefined || l.right === undefined ? '' : t.told.sides(l.left, l.right),
    l.rounds === undefined ? '' : t.told.rounds(l.rounds),
    l.stopped ? t.stopped : '',
    l.lighterG === undefined ? '' : t.told.lighter(mass(l.lighterG, studio.unit)),
    ...(l.parts ?? []).map((p) => t.told.part(p.move, p.done)),
  ].filter(Boolean)
}
