// Reasons as text. The core sends codes and terms; the sentences and units are
// made here.
import type { Schemas, Term, Why } from '../api/client'
import { anchor, beam, hold, lane, limit, pattern, t } from './catalogue'
import { atJoint, household, placeOfFamily, unusedBecause } from './names'
import * as f from './format'

type Code = Schemas['Why']['code']

/** What a reason needs to know to speak of things by name. */
export interface Names {
  unit: f.MassUnit
  move: (id: string) => string
  item: (id: string) => string
  /** A participant's name, by id. */
  who?: (id: string) => string
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
  /** "Knee" of a ban: a pattern, a limit or a move. */
  ban(name: string): string {
    const id = this.id(name)
    return (pattern[id] ?? limit(id) ?? this.names.move(id)).toLowerCase()
  }
  joints(): string {
    const list = (this.w.terms ?? []).filter((x) => x.name === 'joint').map((x) => atJoint(x.text ?? ''))
    return list.length > 0 ? list.join(' and ') : 'a joint'
  }
  lane(name = 'lane'): string {
    const id = this.id(name)
    return lane[id as keyof typeof lane] ?? (id === '' ? '' : (this.names.who?.(id) ?? ''))
  }
  /** All spans of a sum: "prep 405 s + …". */
  sum(skip: string[]): string {
    return (this.w.terms ?? [])
      .filter((x) => x.kind === 'spanMs' && !skip.includes(x.name))
      .map((x) => `${x.name.replace('-', ' ')} ${f.seconds(x.value ?? 0)}`)
      .join(' + ')
  }
}

const texts: Record<Code, (x: Terms) => string> = {
  'resistance-sum': (x) =>
    `${placeOfFamily[x.id('family')] ?? ''}: ${x.share('limbShare')} × (${x.share('bodyShare')} × ${x.mass('body')} body + ${x.share('coupling')} × ${x.mass('external')} load) = ${x.mass('perLimb')}`,
  'gate-half-body': (x) => `Half of ${x.mass('body')} is ${x.mass('needed')}, ${x.n('reps')} times in form`,
  'bridge-now': (x) =>
    `From ${x.mass('from')} to ${x.mass('to')} is ${x.pct('iron')} in iron, ${x.pct('resistance')} in resistance: allowed, ready, and at least ${x.n('least')} repetitions are to be expected there`,
  'bridge-ready': (x) =>
    `From ${x.mass('from')} to ${x.mass('to')} is ${x.pct('iron')} in iron, ${x.pct('resistance')} in resistance: allowed once two sessions running are over ${x.n('high')} and ${x.n('least')} repetitions are to be expected there`,
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
  'never-up-ground': (x) => `Ground, or new: at most ${x.pct('most')} over what is wanted`,
  'never-up-move': () => 'Overhead, over the face or swung: never over what is wanted',
  'repair-more-reps': (x) => `Too light: ${x.n('reps')} repetitions, within the range, make up for it`,
  'repair-fewer-reps': (x) => `Too heavy: ${x.n('reps')} repetitions, within the range, are as hard`,
  'repair-slower': (x) => `Too light still: slower lowering, ${x.id('tempo')}`,
  'repair-pause': () => 'Too light still: a pause at the turn',
  'substitute-resistance': (x) =>
    `${x.move('move')} with ${x.mass('load')} asks ${x.mass('wanted')}; here ${x.mass('reached')}: ${x.pct('resistance')} in resistance, ${x.pct('iron')} in iron`,
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
  'flag-too-long': (x) => `The class is ${x.s('over')} too long`,
  'flag-no-pattern': (x) => `No ${x.pattern('pattern')} in it`,
  'flag-uneven': (x) =>
    `${beam[x.id('left')] ?? ''} ${x.n('leftN')}, ${beam[x.id('right')] ?? ''} ${x.n('rightN')}: uneven`,
  'flag-legs-twice': () => 'Two leg moves in a row',
  'flag-weak-link': (x) => `Loads the same weak link as the slot before: ${x.id('link').replace('-', ' ')}`,
  'flag-short': (x) =>
    `${x.has('pattern') ? `${x.pattern('pattern')}: ` : ''}${x.item('item')}: ${t.circuit.tooMany(x.n('used'), x.n('present'))}`,
  'flag-no-rep': () => 'Not one repetition fits the time',
  'flag-sides': () => 'The sides do not suit this move',
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
  'advice-keep': (x) => `Right: the same load, ${t.circuit.repsOf(x.n('reps'))}`,
  'advice-keep-limit': () => 'At the limit: hold here until something is left in reserve',
  'advice-next-load': (x) =>
    `Ready for it: from ${x.mass('from')} to ${x.mass('to')}, ${t.circuit.repsOf(x.n('reps'))} to begin with, one set fewer the first time`,
  'advice-reps-only': (x) =>
    `Light: ${t.circuit.repsOf(x.n('reps'))}; over ${x.n('over')} twice running the next step is taken`,
  'advice-next-rung': (x) => `Light twice running, and no heavier load here: ${x.move('variant')}`,
  'advice-less-load': (x) =>
    `${x.n('to') > 0 ? `Down to ${x.mass('to')}` : 'The same without a load'}, ${t.circuit.repsOf(x.n('reps'))}`,
  'advice-rung-down': (x) => `Form went twice running: ${x.move('variant')}`,
  'advice-stop-move': (x) => `Pain in ${x.joints()}: that move is stopped and an easier one stands beside it`,
  'advice-off-plan': (x) =>
    `Pain in ${x.joints()}, ${x.n('times')} times: ${x.move('variant')} is out, and moves that ask more of it; refer. Overrule it by hand`,
  'bridge-not-reached': (x) =>
    `From ${x.mass('from')} to ${x.mass('to')} (${x.pct('iron')} in iron, ${x.pct('resistance')} in resistance) cannot be crossed with what is here: get something from ${x.mass('betweenFrom')} to ${x.mass('betweenTo')}, or a light pair`,
  'bridge-swung': (x) => `Swings and get-ups go by iron, at most ${x.pct('iron')} or ${x.mass('most')} at once`,
  'bridge-at-next': (x) =>
    `${x.n('last')} in form with ${x.mass('from')} predict ${x.n('reps')} with ${x.mass('to')}, ${x.n('reserve')} kept in reserve`,
  'substitute-uncompared': (x) =>
    `No comparison with ${x.move('move')} and ${x.mass('load')}: the two are not measured alike; in iron ${x.pct('iron')}`,
  'load-asked': (x) => `As asked: ${x.move('move')} with ${x.mass('wanted')}`,
  'load-lowered': (x) => `Lowered to ${x.mass('wanted')}: this body already asks that much`,
  'load-first-time': (x) => `The first time overhead or swung: at most ${x.mass('most')}`,
  'load-first-sessions': () => 'The first sessions at Ground: this move without a load',
  'load-for-reps': (x) => `For ${x.n('reps')} repetitions rather than ${x.n('usual')}: ${x.mass('wanted')}`,
  'fault-banned': (x) => `${x.ban('ban')} was to be left out`,
  'fault-limit': (x) => `against a limit of this class: ${x.ban('limit')}`,
  'fault-gate': (x) =>
    `${x.move('variant')} stands behind a gate: 25 goblet squats in form with ${x.mass('needed')}, and the screens`,
  'fault-lane': (x) => `not for ${x.lane()}`,
  'fault-chosen': () => 'only where it is chosen on purpose: never proposed',
  'fault-by-log': () => 'only once the log shows its mark',
  'fault-learn-first': (x) => `learn ${x.move('first')} first`,
  'fault-first-sessions': (x) => `not in the first ${x.n('sessions')} sessions`,
  'fault-hold': (x) => `it cannot be held so: ${hold[x.id('hold')] ?? x.id('hold')}`,
  'fault-on-back': (x) => `${x.mass('load')} is too much on the back when bending; at most ${x.mass('most')}`,
  'fault-ceiling': (x) => `${x.mass('load')} is over the ceiling of ${x.mass('ceiling')}, until the log shows more`,
  'fault-first-load': (x) => `${x.mass('load')} is too much for the first time; at most ${x.mass('most')}`,
  'fault-ground-one-leg': () => 'one-leg moves at Ground carry nothing',
  'fault-over': (x) => `${x.mass('load')} where ${x.mass('wanted')} is proposed: ${x.pct('iron')}`,
  'fault-body': (x) =>
    `a body of ${x.mass('body')} makes ${x.mass('asks')} of it, where at most ${x.mass('most')} is right`,
  'fault-no-support': (x) => `needs ${anchor[x.id('need')] ?? x.id('need')}, which is not there`,
  'fault-height': (x) =>
    `${x.item('item')} is ${x.length('height')} high; ${x.length('from')} to ${x.length('to')} fits these bodies`,
  'fault-table': (x) => `${x.item('item')} does not hold ${x.mass('body')} hanging or leaning on it`,
  'fault-band': (x) => `${x.item('item')} is not measured: drills only`,
  'fault-rating': (x) => `${x.item('item')} may carry ${x.mass('rated')}; this puts ${x.mass('on')} on it`,
  'fault-pattern': (x) => `${x.pattern('of')} in a place for ${x.pattern('pattern')}`,
  'ask-rating': (x) => `ask what ${x.item('item')} may carry: this puts ${x.mass('on')} on it`,
  'ask-height': (x) => `measure ${x.item('item')}: ${x.length('from')} to ${x.length('to')} fits these bodies`,
  'ask-raise': (x) => `${x.item('item')} is too high: raise feet and hips ${x.length('height')} together`,
  'ask-raise-seat': (x) => `${x.item('item')} is too low: raise it by ${x.length('height')}`,
  'flag-short-effort': (x) => `by load and repetitions ${x.pct('left')} of the effort is missing`,
  'flag-far-too-light': (x) => `far too light: ${x.pct('short')} short of what is wanted`,
  'flag-under-dose': (x) => `${x.n('reps')} repetitions; the move wants ${x.n('low')} at least`,
  'flag-long-set': (x) => `${x.s('side')} a side without a break; ${x.s('most')} is enough`,
  'flag-repacked': (x) => `${x.item('item')} is packed anew within the round`,
  'flag-apart': (x) => `Lanes end ${x.s('apart')} apart; ${x.s('most')} is enough`,
  'note-beside': (x) => `${x.move('move')} hurt ${x.joints()} last time: ${x.move('to')} asks less of it`,
  'note-not-used': (x) => `${x.item('item')} is not used: ${unusedBecause[x.id('reason')] ?? x.id('reason')}`,
  'note-later': (x) => `${x.pattern('pattern')} comes after the first sessions`,
  'note-dropped': (x) => `No ${x.pattern('pattern')}: the minutes do not hold it`,
  'note-ends-early': (x) => `It ends ${f.clock(x.n('left'))} early: ${x.n('rounds')} rounds are enough at a time`,
  'note-packed-once': (x) => `${x.item('item')} is packed once, as ${x.mass('load')}, and used so throughout`,
  'advice-one-step': (x) => `Light, but only one lever a session changes: ${t.circuit.repsOf(x.n('reps'))}`,
  'advice-bridge': (x) =>
    `Light; the step to ${x.mass('to')} is bridged: ${x.has('blendSets') ? `${x.n('blendSets')} set with it for ${x.n('blendReps')}, the others ` : ''}${t.circuit.repsOf(x.n('reps'))}`,
  'advice-fewer-reps': (x) => `Too heavy: the same load, ${t.circuit.repsOf(x.n('reps'))}`,
  'advice-lighter': (x) =>
    `${x.n('weeks')} weeks away: ${x.n('to') > 0 ? `down to ${x.mass('to')}` : 'without a load'}`,
  'advice-start-again': (x) => `${x.n('weeks')} weeks away: from the start again`,
  'advice-as-before': () => 'Light by repetitions because the load was known to be too light: as before',
}

/** Codes whose first term says whose cell they speak of, before the reason. */
const ofLane = /^(fault|ask|flag)-/

export function whyText(w: Why, names: Names): string {
  const x = new Terms(w, names)
  const text = texts[w.code](x)
  const lane = ofLane.test(w.code) && w.code !== 'fault-lane' ? x.lane() : ''
  const said = lane ? `${lane}: ${text}` : text
  return said.charAt(0).toUpperCase() + said.slice(1)
}
