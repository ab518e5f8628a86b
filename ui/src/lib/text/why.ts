// Reasons as text. The core sends codes and terms; the sentences and units are
// made here.
import type { Schemas, Term, Why } from '../api/client'
import { anchor, beam, lane, pattern, t } from './catalogue'
import { household } from './names'
import * as f from './format'

type Code = Schemas['Why']['code']

/** What a reason needs to know to speak of things by name. */
export interface Names {
  unit: f.MassUnit
  move: (id: string) => string
  item: (id: string) => string
}

class Terms {
  constructor(
    private readonly w: Why,
    private readonly names: Names,
  ) {}
  private find(name: string): Term | undefined {
    return this.w.terms?.find((x) => x.name === name)
  }
  n(name: string): number {
    return this.find(name)?.value ?? 0
  }
  id(name: string): string {
    return this.find(name)?.text ?? ''
  }
  has(name: string): boolean {
    return this.find(name) !== undefined
  }
  mass(name: string): string {
    return f.mass(this.n(name), this.names.unit)
  }
  length(name: string): string {
    return f.length(this.n(name), this.names.unit)
  }
  s(name: string): string {
    return f.seconds(this.n(name))
  }
  pct(name: string): string {
    return f.percent(this.n(name))
  }
  volume(name: string): string {
    return f.volume(this.n(name))
  }
  /** A thing of the household table. */
  household(name: string): string {
    return (household[this.id(name)] ?? this.id(name)).toLowerCase()
  }
  share(name: string): string {
    return f.share(this.n(name))
  }
  move(name: string): string {
    return this.names.move(this.id(name))
  }
  item(name: string): string {
    return this.names.item(this.id(name))
  }
  pattern(name: string): string {
    return (pattern[this.id(name)] ?? this.id(name)).toLowerCase()
  }
  lane(name = 'lane'): string {
    return lane[this.id(name) as keyof typeof lane] ?? ''
  }
  /** All spans of a sum: "prep 405 s + …". */
  sum(skip: string[]): string {
    return (this.w.terms ?? [])
      .filter((x) => x.kind === 'spanMs' && !skip.includes(x.name))
      .map((x) => `${x.name.replace('-', ' ')} ${f.seconds(x.value ?? 0)}`)
      .join(' + ')
  }
  patterns(): string {
    return (this.w.terms ?? []).map((x) => (pattern[x.text ?? ''] ?? '').toLowerCase()).join(', ')
  }
}

const texts: Record<Code, (x: Terms) => string> = {
  'resistance-sum': (x) =>
    `On the working limb: ${x.share('limbShare')} × (${x.share('bodyShare')} × ${x.mass('body')} body + ${x.share('coupling')} × ${x.mass('external')} load) = ${x.mass('perLimb')}`,
  'gate-half-body': (x) => `Half of ${x.mass('body')} is ${x.mass('needed')}, ${x.n('reps')} times in form`,
  'bridge-now': (x) =>
    `From ${x.mass('from')} to ${x.mass('to')} is ${x.pct('iron')} in iron, ${x.pct('resistance')} in resistance: allowed, and two sessions running were over ${x.n('high')}`,
  'bridge-ready': (x) =>
    `From ${x.mass('from')} to ${x.mass('to')} is ${x.pct('iron')} in iron, ${x.pct('resistance')} in resistance: allowed once two sessions running are over ${x.n('high')}`,
  'bridge-needed': (x) =>
    `From ${x.mass('from')} to ${x.mass('to')} is ${x.pct('iron')} in iron, ${x.pct('resistance')} in resistance: too far for one step`,
  'bridge-limits': (x) =>
    `One step may be ${x.pct('resistance')} in resistance and ${x.pct('iron')} in iron, one step of a usual rack`,
  'bridge-iron-alone': (x) =>
    `Presses, rows, overhead, fast moves and one-hand holds go by iron alone, at most ${x.pct('most')}`,
  'bridge-predicted': (x) =>
    `${x.n('reps')} with ${x.mass('from')} predict ${x.n('low')} with ${x.mass('to')}, ${x.n('reserve')} kept in reserve in both`,
  'gross-from-net': (x) =>
    `${x.mass('net')} net in its ${x.household('package')} is ${x.share('factor')} times that: ${x.mass('gross')}, somewhere from ${x.mass('low')} to ${x.mass('high')}`,
  'mass-from-volume': (x) =>
    `${x.volume('volume')} of ${x.household('substance')} at density ${x.share('density')} and ${x.mass('empty')} of vessel: ${x.mass('gross')}, somewhere from ${x.mass('low')} to ${x.mass('high')}`,
  'mass-of-kind': (x) =>
    `A ${x.household('kind')} is usually ${x.mass('gross')}, somewhere from ${x.mass('low')} to ${x.mass('high')}`,
  'tips-table': (x) =>
    `A pull of ${x.mass('pull')} acts ${x.length('out')} outside the legs; the table, ${x.mass('table')}, holds against it ${x.length('in')} inside them; twice the pull is asked for`,
  'anchor-holds': (x) =>
    `At this lean ${x.mass('body')} of body pulls with ${x.mass('pull')} at the ankles; the anchor holds ${x.mass('anchor')}; twice the pull is asked for`,
  'load-start': (x) =>
    `${x.lane()} starts from ${x.share('laneShare')} of the body a lane is computed for (${x.mass('body')}, ${x.length('stature')}; nobody is named): ${x.mass('reference')}; this move takes ${x.share('moveShare')} of it = ${x.mass('wanted')}`,
  'load-ceiling': (x) => `Without a benchmark no more than ${x.mass('ceiling')}`,
  'load-chosen': (x) =>
    `Wanted ${x.mass('wanted')}, here ${x.mass('chosen')}: ${x.pct('iron')} in iron, ${x.pct('resistance')} in resistance`,
  'load-body': () => 'No load: the body is the load',
  'load-none': () => 'This move carries no load',
  'load-ground-one-leg': () => 'One-leg moves at Ground carry nothing',
  'never-up-ground': () => 'Ground: a load is never rounded up',
  'never-up-move': () => 'Overhead, over the face or ballistic: a load is never rounded up',
  'repair-more-reps': (x) => `Too light: ${x.n('reps')} repetitions, within the range, make up for it`,
  'repair-fewer-reps': (x) => `Too heavy: ${x.n('reps')} repetitions, within the range, are as hard`,
  'repair-slower': (x) => `Too light still: slower lowering, ${x.id('tempo')}`,
  'repair-pause': () => 'Too light still: a pause at the turn',
  'substitute-resistance': (x) =>
    `Wanted ${x.mass('wanted')} on the working limb, as ${x.move('move')} with ${x.mass('load')} asks; here ${x.mass('reached')}: ${x.pct('resistance')} in resistance, ${x.pct('iron')} in iron`,
  'substitute-iron': (x) =>
    `Wanted ${x.mass('wanted')}, here ${x.mass('reached')}: this move goes by the load alone, ${x.pct('iron')}`,
  'substitute-short': (x) => `By repetitions alone ${x.pct('left')} of the effort is still missing`,
  'reps-by-clock': (x) =>
    `${x.s('work')} of work at ${x.s('perRep')} a repetition: ${x.n('perSide')}${x.id('sides') === 'both' ? '' : ' a side'}, ${x.s('slack')} left over`,
  'time-by-reps': (x) =>
    `${x.n('reps')} repetitions at ${x.s('perRep')}${x.id('sides') === 'split' ? ' and the change of sides' : ''} = ${x.s('work')}`,
  'time-total': (x) => `${x.sum(['total', 'class'])} = ${f.clock(x.n('total'))} of ${f.clock(x.n('class'))}`,
  'change-over': (x) =>
    `Change-over of ${x.lane() || 'a lane'}: ${x.sum(['sum']) || 'nothing changes'} = ${x.s('sum')}`,
  'rest-planned': (x) => `The planned rest of ${x.s('rest')} is enough for every change-over`,
  'rest-grown': (x) => `The change-over is longer than the planned ${x.s('planned')}: the rest grows to ${x.s('rest')}`,
  'note-left-out': (x) => `No ${x.pattern('pattern')}: nothing left for it`,
  'note-replaced': (x) => `${x.pattern('by')} stands in for ${x.pattern('pattern')}`,
  'note-home-swap': (x) =>
    `${x.move('to')} in place of ${x.move('from')}, which this cupboard does not serve${x.has('resistance') ? ` (${x.pct('resistance')} in resistance)` : ''}`,
  'relax-bans': () => 'Leave less out',
  'relax-minutes': (x) => `Give it ${x.n('minutes')} minutes`,
  'relax-places': (x) => `Leave out ${x.patterns()}`,
  'flag-too-long': (x) => `The class is ${x.s('over')} too long`,
  'flag-no-pattern': (x) => `No ${x.pattern('pattern')} in it`,
  'flag-uneven': (x) =>
    `${beam[x.id('left')] ?? ''} ${x.n('leftN')}, ${beam[x.id('right')] ?? ''} ${x.n('rightN')}: uneven`,
  'flag-legs-twice': () => 'Two leg moves in a row',
  'flag-weak-link': (x) => `Loads the same weak link as the slot before: ${x.id('link').replace('-', ' ')}`,
  'flag-short': (x) =>
    `${x.has('pattern') ? `${x.pattern('pattern')}: ` : ''}${x.item('item')}: ${t.circuit.tooMany(x.n('used'), x.n('present'))}`,
  'flag-no-rep': (x) => `${x.lane()}: not one repetition fits the time`,
  'flag-rounded-up': (x) => `${x.lane()}: ${x.mass('load')} is above the ${x.mass('wanted')} that is proposed here`,
  'flag-heavy': (x) => `${x.lane()}: ${x.mass('load')} for a wanted ${x.mass('wanted')} is ${x.pct('iron')}`,
  'flag-sides': (x) => `${x.lane()}: the sides do not suit this move`,
  'flag-anchor': (x) => `${x.lane()}: needs ${anchor[x.id('need')] ?? x.id('need')}, which is not there`,
  'need-circuit': () => 'A circuit',
  'need-lane': (x) => `${x.lane()} has no version in this circuit yet: propose anew`,
  'need-kit-gone': (x) => `${x.pattern('pattern')}, ${x.lane()}: its load has been put away`,
  'verdict-form-lost': (x) => `${x.n('inForm')} of ${x.n('done')} in form, ${x.n('planned')} planned`,
  'verdict-heavy': (x) => `${x.n('inForm')} in form of ${x.n('planned')} planned: more than two short`,
  'verdict-far-too-light': (x) =>
    `${x.n('inForm')} in form of ${x.n('planned')} planned: half as many again, or five left`,
  'verdict-light': (x) => `${x.n('inForm')} in form of ${x.n('planned')} planned: two over, or four left`,
  'verdict-right': (x) => `${x.n('inForm')} in form of ${x.n('planned')} planned: right`,
  'verdict-at-limit': (x) => `${x.n('inForm')} in form of ${x.n('planned')} planned: right, and at the limit`,
  'advice-keep': () => 'Same load, same repetitions',
  'advice-keep-limit': () => 'Hold here until there is something in reserve',
  'advice-watch': () => 'Going up takes two light sessions running: this was the first',
  'advice-next-load': (x) =>
    `From ${x.mass('from')} to ${x.mass('to')}: ${x.pct('iron')} in iron, ${x.pct('resistance')} in resistance: one step`,
  'advice-more-reps': (x) =>
    `From ${x.mass('from')} to ${x.mass('to')} is ${x.pct('iron')} in iron, ${x.pct('resistance')} in resistance: too far at once, so repetitions first`,
  'advice-reps-only': () => 'No heavier load and no harder rung here: more repetitions, or slower',
  'advice-next-rung': (x) => `No heavier load here: try ${x.move('variant')}`,
  'advice-less-load': () => 'The next lighter load, or fewer repetitions',
  'advice-rung-down': (x) => `Form went twice running${x.has('variant') ? `: try ${x.move('variant')}` : ''}`,
  'advice-stop-move': () => 'Joint pain: stop that move now, change it, note it',
  'advice-off-plan': () => 'Joint pain again: off the plan, and refer',
}

export function whyText(w: Why, names: Names): string {
  return texts[w.code](new Terms(w, names))
}
