// How the server's values are called on screen. The texts of the views are in
// catalogue.ts.
import type { Lane } from '../api/client'

export const lane: Record<Lane, string> = { ground: 'Ground', middle: 'Middle', reach: 'Reach' }

export const pattern: Record<string, string> = {
  squat: 'Squat',
  lunge: 'Lunge',
  lateral: 'Lateral',
  hinge: 'Hinge',
  bridge: 'Bridge',
  'push-level': 'Push',
  'push-overhead': 'Push overhead',
  pull: 'Pull',
  'trunk-brace': 'Trunk, bracing',
  'trunk-turn': 'Trunk, turning',
  carry: 'Carry',
  'whole-body': 'Whole body',
  mobility: 'Mobility',
}

export const hold: Record<string, string> = {
  none: 'no load',
  goblet: 'at the chest',
  hugged: 'hugged',
  'rack-one': 'at one shoulder',
  'rack-two': 'at both shoulders',
  'suitcase-one': 'at one side',
  'suitcase-two': 'at both sides',
  'hung-one': 'hung in front',
  'hung-two': 'hung in front, two',
  'row-one': 'in one hand',
  'row-two': 'in both hands',
  'press-one': 'in one hand',
  'press-two': 'in both hands',
  swing: 'in both hands',
  horns: 'by the horns',
  hips: 'on padded hips',
  back: 'on the back',
  'swing-one': 'swung in one hand',
  'bag-grip': 'gripped by the cloth',
  'by-heads': 'held by its ends',
  'bar-back': 'a bar on the back',
  'bar-hung': 'a bar hung in front',
}

export const kind: Record<string, string> = {
  kettlebell: 'Kettlebell',
  dumbbell: 'Dumbbell, single',
  'dumbbell-pair': 'Dumbbells, pair',
  band: 'Band',
  bench: 'Bench',
  box: 'Box',
  table: 'Table',
}

export const use: Record<string, string> = {
  grip: 'A hand closes round it',
  hug: 'Held against the body',
  pack: 'Only packed in a container',
}

export const sides: Record<string, string> = {
  both: 'both at once',
  split: 'half and half',
  rounds: 'a side each round',
  alternate: 'turn by turn',
}

export const side: Record<string, string> = { left: 'Left', right: 'Right', both: 'Both sides' }

export const anchor: Record<string, string> = {
  seat: 'a seat',
  step: 'a step',
  bench: 'a bench',
  edge: 'a raised edge',
  'foot-rest': 'a foot rest',
  table: 'a checked table',
  band: 'a band',
}

export const pain: Record<string, string> = {
  none: 'nothing',
  burn: 'muscle burn (expected)',
  joint: 'joint pain',
}

export const verdict: Record<string, string> = {
  'form-lost': 'Form lost',
  heavy: 'Too heavy',
  'far-too-light': 'Far too light',
  light: 'Light',
  right: 'Right',
}

export const advice: Record<string, string> = {
  keep: 'Same load',
  'keep-limit': 'At the limit: hold',
  'more-reps': 'More repetitions',
  'next-load': 'Take the next load',
  bridge: 'Towards the next load',
  'next-rung': 'One rung up',
  'fewer-reps': 'Fewer repetitions',
  'less-load': 'Lighter, or fewer',
  lighter: 'Lighter after the break',
  'start-again': 'From the start again',
  'as-before': 'As before',
  'rung-down': 'One rung down',
  'stop-move': 'Change this move',
  'off-the-plan': 'Off the plan: refer',
}

export const beam: Record<string, string> = {
  push: 'push',
  pull: 'pull',
  front: 'front of thigh',
  back: 'back of thigh',
  'two-legs': 'two legs',
  'one-leg': 'one leg',
  straight: 'straight',
  sideways: 'side, turning',
}

export const blockKind: Record<string, string> = {
  'lead-in': 'Get ready',
  prep: 'Prep',
  learn: 'Learn',
  work: 'Work',
  'change-sides': 'Change sides',
  'hand-over': 'Hand over',
  rest: 'Rest',
  'round-rest': 'Between rounds',
  close: 'Close',
}

export const versionKind: Record<string, string> = {
  propose: 'proposed',
  edit: 'edited',
  undo: 'undone',
  redo: 'redone',
  restore: 'brought back',
}

export const editKind: Record<string, string> = {
  'set-format': 'how it is counted',
  'set-lead-in': 'lead-in',
  'set-work': 'work',
  'set-rest': 'rest',
  'set-rounds': 'rounds',
  'set-round-rest': 'rest between rounds',
  'set-waves': 'waves',
  'set-new': 'new to the group',
  'set-entry': 'a move or load',
  'add-slot': 'a slot added',
  'remove-slot': 'a slot removed',
  'move-slot': 'the order',
  replace: 'the whole',
}

export const differs: Record<string, string> = {
  format: 'Counted',
  'lead-in': 'Lead-in',
  work: 'Work',
  rest: 'Rest',
  rounds: 'Rounds',
  'round-rest': 'Between rounds',
  slot: 'Slot',
  order: 'Place in the order',
  waves: 'Waves',
  new: 'New to the group',
  entry: 'Move and load',
}

export const joint: Record<string, string> = {
  ankle: 'ankle',
  knee: 'knee',
  hip: 'hip',
  'low-back': 'low back',
  'upper-back': 'upper back',
  shoulder: 'shoulder',
  wrist: 'wrist',
  balance: 'balance',
  impact: 'impact',
  grip: 'grip',
  hamstring: 'hamstring',
  neck: 'neck',
  elbow: 'elbow',
}

/** The joints and regions that a log can name. */
export const painJoints = [
  'ankle',
  'knee',
  'hip',
  'low-back',
  'neck',
  'shoulder',
  'elbow',
  'wrist',
  'hamstring',
] as const

/** A joint inside a sentence: "pain in the knee". */
export const atJoint = (id: string): string => `the ${joint[id] ?? id}`

const limitName: Record<string, string> = {
  'no-lying-on-back': 'No lying on the back',
  'no-lying-on-front': 'No lying on the front',
  'no-floor': 'Not down to the floor',
  'no-overhead': 'Nothing overhead',
  'no-impact': 'No jumps or impact',
  'no-breath-holding': 'No holding of the breath',
  'no-balance-risk': 'No risk to the balance',
  'no-head-below-heart': 'Head never below the heart',
  'no-loaded-back-bending': 'No loaded bending or turning of the back',
  'no-long-holds': 'No long holds',
  'no-loaded-end-range': 'No load at the end of the range',
  pregnancy: 'Pregnancy',
  'blood-pressure': 'High blood pressure',
  'brittle-bones': 'Brittle bones',
  hypermobile: 'Hypermobile',
}

/** What a class must be spared, by name; nothing for what is no limit. */
export function limit(id: string): string | undefined {
  const [, part, how] = /^(.+)-(mild|spare)$/.exec(id) ?? []
  if (part) return how === 'mild' ? `Go easy on the ${joint[part] ?? part}` : `Spare the ${joint[part] ?? part}`
  return limitName[id]
}

/** Where the resistance of a family is felt. */
export const placeOfFamily: Record<string, string> = {
  squat: 'On the working leg',
  hinge: 'At the hip',
  bridge: 'At the hip',
  push: 'On the arms',
  pull: 'On the arms',
}

/** Why a weight of the place is not used. */
export const unusedBecause: Record<string, string> = {
  'too-few': 'too few for everybody of a lane',
  'too-heavy': 'too heavy for what is wanted here',
  'no-move': 'no move here holds it',
  nearer: 'another weight is nearer to what is wanted',
}

export const region: Record<string, string> = {
  'front-thigh': 'front of the thigh',
  'back-thigh': 'back of the thigh',
  glutes: 'glutes',
  'inner-thigh': 'inner thigh',
  'side-hip': 'side of the hip',
  calf: 'calf',
  chest: 'chest',
  'upper-back': 'upper back',
  shoulder: 'shoulder',
  arm: 'arm',
  trunk: 'trunk',
}

export const partName: Record<string, string> = {
  squat: 'squat',
  curl: 'curl',
  press: 'press',
  clean: 'clean',
  pull: 'pull',
  row: 'row',
  'squat-press': 'squat with a press',
  walk: 'side walk',
  pulse: 'pulse',
  jump: 'jump',
}

export const direction: Record<string, string> = {
  front: 'front',
  'front-right': 'front right',
  right: 'right',
  'back-right': 'back right',
  back: 'back',
  'back-left': 'back left',
  left: 'left',
  'front-left': 'front left',
}

export const plane: Record<string, string> = {
  'front-to-back': 'front to back',
  sideways: 'sideways',
  turning: 'turning',
}

export const role: Record<string, string> = {
  main: 'main move',
  accessory: 'accessory',
  isolation: 'isolation',
  finisher: 'finisher',
  prep: 'prep',
  skill: 'skill, learned first',
}

export const room: Record<string, string> = {
  wall: 'a wall',
  post: 'a post',
  mat: 'a mat',
  'smooth-floor': 'a smooth floor',
  'low-foot-hold': 'a low hold for the feet',
}

export const view: Record<string, string> = {
  side: 'from the side',
  diagonal: 'from the diagonal',
  back: 'from behind',
}

export const shoes: Record<string, string> = { any: 'any', flat: 'flat', socks: 'socks', off: 'off' }

export const loadClass: Record<string, string> = {
  none: 'no load',
  light: 'light',
  'light-medium': 'light to medium',
  medium: 'medium',
  'medium-heavy': 'medium to heavy',
  heavy: 'heavy',
}

/** What household things are made of, packed in, and are. */
export const household: Record<string, string> = {
  water: 'Water',
  milk: 'Milk',
  oil: 'Cooking oil',
  sugar: 'Sugar',
  rice: 'Dry rice',
  flour: 'Flour',
  salt: 'Salt',
  sand: 'Dry sand',
  gravel: 'Gravel',
  paint: 'Water-based paint in its tin',
  tin: 'Tin',
  bag: 'Bag or box',
  jar: 'Glass jar',
  bottle: 'Plastic bottle',
  can: 'Can or jerrycan',
  none: 'No vessel of its own',
  hardback: 'Hardback book',
}

export const source: Record<string, string> = {
  published: 'published',
  model: 'model',
  'common-practice': 'common practice',
  house: 'house rule',
  arithmetic: 'arithmetic',
  typed: 'as you asked',
}
