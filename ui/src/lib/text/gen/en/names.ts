// Made by scripts/texts.sh from texts/*.json. Not to be edited: run it again.
const language = {
  en: 'English',
  'en-XA': 'English with marks, for trying the pages',
}
const lane = {
  ground: 'Ground',
  middle: 'Middle',
  reach: 'Reach',
}
const pattern = {
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
const hold = {
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
const implementKind = {
  kettlebell: 'Kettlebell',
  dumbbell: 'Dumbbell, single',
  'dumbbell-pair': 'Dumbbells, pair',
  barbell: 'Bar with its plates',
  band: 'Band',
  bench: 'Bench',
  box: 'Box',
  table: 'Table',
}
const use = {
  grip: 'A hand closes round it',
  hug: 'Held against the body',
  pack: 'Only packed in a container',
}
const sides = {
  both: 'both at once',
  split: 'half and half',
  rounds: 'a side each round',
  alternate: 'turn by turn',
}
const side = {
  left: 'Left',
  right: 'Right',
  both: 'Both sides',
}
const anchor: Record<string, string> = {
  seat: 'a seat',
  step: 'a step',
  bench: 'a bench',
  edge: 'a raised edge',
  'foot-rest': 'a foot rest',
  table: 'a checked table',
  band: 'a band',
}
const pain = {
  none: 'nothing',
  burn: 'muscle burn (expected)',
  joint: 'joint pain',
}
const verdict = {
  'form-lost': 'Form lost',
  heavy: 'Too heavy',
  'far-too-light': 'Far too light',
  light: 'Light',
  right: 'Right',
}
const advice = {
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
const beam = {
  push: 'push',
  pull: 'pull',
  front: 'front of thigh',
  back: 'back of thigh',
  'two-legs': 'two legs',
  'one-leg': 'one leg',
  straight: 'straight',
  sideways: 'side, turning',
}
const blockKind = {
  prep: 'Prep',
  teach: 'Teaching',
  work: 'Work',
  finisher: 'Finisher',
  close: 'Close',
}
const scheme = {
  circuit: 'Circuit',
  sets: 'Straight sets',
  superset: 'Superset',
  chain: 'Chain',
  interval: 'Every interval',
  window: 'Window',
  ladder: 'Ladder',
  drop: 'Drop set',
  called: 'Called',
}
const layout = {
  together: 'together',
  waves: 'in waves',
}
const doseKind = {
  count: 'repetitions',
  seconds: 'seconds',
  units: 'units',
  'to-failure': 'until few are left',
}
const callWord = {
  right: 'right',
  left: 'left',
  forward: 'forward',
  back: 'back',
  across: 'across',
}
const handDo = {
  'pick-up': 'Pick up',
  keep: 'Keep',
  regrip: 'Hold it otherwise',
  'put-down': 'Put it down',
}
const deed = {
  done: 'Done with the set',
  round: 'Rounds done',
  stopped: 'Stopped early',
  again: 'Back in',
  swapped: 'Does something else',
}
const endedBy = {
  skip: 'Skipped',
  next: 'Ended early',
  end: 'The class ended',
}
const pace = {
  'per-rep': 'Seconds a repetition',
  'change-over': 'Change-overs',
  teach: 'Teaching',
}
const stretchKind = {
  'lead-in': 'Get ready',
  prep: 'Prep',
  learn: 'Learn',
  work: 'Work',
  'change-sides': 'Change sides',
  'hand-over': 'Hand over',
  rest: 'Rest',
  'round-rest': 'Between rounds',
  pause: 'Pause',
  close: 'Close',
}
const changeOver: Record<string, string> = {
  implement: 'take it up',
  packing: 'pack',
  hold: 'another hold',
  floor: 'down or up',
  kneel: 'kneel or stand',
  walk: 'the way there',
  strap: 'strap or pad',
}
const versionKind = {
  propose: 'proposed',
  edit: 'edited',
  undo: 'undone',
  redo: 'redone',
  restore: 'brought back',
}
const editKind = {
  'set-lead-in': 'lead-in',
  'set-scheme': 'a block’s scheme or times',
  'set-kind': 'what a block is for',
  'set-layout': 'how people stand to a block',
  'set-after': 'the pause after a block',
  'add-block': 'a block added',
  'remove-block': 'a block removed',
  'move-block': 'the order of blocks',
  'set-own': 'times of a slot’s own',
  'set-waves': 'waves',
  'set-new': 'new to the group',
  'set-pin': 'kept when proposed anew',
  'set-entry': 'a move or load',
  'add-slot': 'a slot added',
  'remove-slot': 'a slot removed',
  'move-slot': 'the order',
  replace: 'the whole',
  'clear-entry': 'an own entry taken back',
}
const differs = {
  block: 'Block',
  kind: 'What a block is for',
  layout: 'Layout',
  scheme: 'Scheme',
  sets: 'Sets',
  between: 'From slot to slot',
  sides: 'Sides',
  'side-change': 'Change of sides',
  every: 'Every',
  window: 'Window',
  rungs: 'Rungs',
  change: 'Change',
  called: 'Called for',
  seed: 'Draw',
  after: 'Pause after',
  'own-work': 'Work of its own',
  'own-rest': 'Rest of its own',
  'own-sets': 'Sets of its own',
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
  pinned: 'Kept when proposed anew',
  entry: 'Move and load',
}
const format = {
  timed: 'by the clock',
  reps: 'by repetitions',
}
const placeKind = {
  hall: 'hall kit',
  flat: 'cupboard',
}
const joint = {
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
const theJoint: Record<string, string> = {
  ankle: 'the ankle',
  knee: 'the knee',
  hip: 'the hip',
  'low-back': 'the low back',
  'upper-back': 'the upper back',
  shoulder: 'the shoulder',
  wrist: 'the wrist',
  balance: 'the balance',
  impact: 'the impact',
  grip: 'the grip',
  hamstring: 'the hamstring',
  neck: 'the neck',
  elbow: 'the elbow',
}
const limit: Record<string, string> = {
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
const limitMild = (joint: string): string => `Go easy on ${(theJoint[joint] ?? joint)}`
const limitSpare = (joint: string): string => `Spare ${(theJoint[joint] ?? joint)}`
const familyPlace: Record<string, string> = {
  squat: 'On the working leg',
  hinge: 'At the hip',
  bridge: 'At the hip',
  push: 'On the arms',
  pull: 'On the arms',
}
const unusedBecause: Record<string, string> = {
  'too-few': 'too few for everybody of a lane',
  'too-heavy': 'too heavy for what is wanted here',
  'no-move': 'no move here holds it',
  nearer: 'another weight is nearer to what is wanted',
}
const region: Record<string, string> = {
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
const partName: Record<string, string> = {
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
  swing: 'swing',
  'push-up': 'push-up',
  hinge: 'hinge',
  stage: 'stage',
}
const thePart: Record<string, string> = {
  squat: 'the squat',
  curl: 'the curl',
  press: 'the press',
  clean: 'the clean',
  pull: 'the pull',
  row: 'the row',
  'squat-press': 'the squat with a press',
  walk: 'the side walk',
  pulse: 'the pulse',
  jump: 'the jump',
  swing: 'the swing',
  'push-up': 'the push-up',
  hinge: 'the hinge',
  stage: 'the stage',
}
const direction = {
  front: 'front',
  'front-right': 'front right',
  right: 'right',
  'back-right': 'back right',
  back: 'back',
  'back-left': 'back left',
  left: 'left',
  'front-left': 'front left',
}
const plane = {
  'front-to-back': 'front to back',
  sideways: 'sideways',
  turning: 'turning',
}
const role = {
  main: 'main move',
  accessory: 'accessory',
  isolation: 'isolation',
  finisher: 'finisher',
  prep: 'prep',
  skill: 'skill, learned first',
}
const room: Record<string, string> = {
  wall: 'a wall',
  post: 'a post',
  mat: 'a mat',
  'smooth-floor': 'a smooth floor',
  'low-foot-hold': 'a low hold for the feet',
}
const view = {
  side: 'from the side',
  diagonal: 'from the diagonal',
  back: 'from behind',
}
const shoes = {
  any: 'any',
  flat: 'flat',
  socks: 'socks',
  off: 'off',
}
const loadClass = {
  none: 'no load',
  light: 'light',
  'light-medium': 'light to medium',
  medium: 'medium',
  'medium-heavy': 'medium to heavy',
  heavy: 'heavy',
}
const gate = {
  'half-body-25': 'Behind a gate: 25 goblet squats in form with half of body mass, all five joint screens, bracing learned, and a goal that calls for it. Never proposed.',
}
const asksLevel: Record<string, string> = {
  '0': 'nothing',
  '1': 'a little',
  '2': 'clearly',
  '3': 'much',
}
const household: Record<string, string> = {
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
const source = {
  published: 'published',
  model: 'model',
  'common-practice': 'common practice',
  house: 'house rule',
  arithmetic: 'arithmetic',
  typed: 'as you asked',
}
const check: Record<string, string> = {
  tipping: 'the table: it must not tip',
  anchor: 'the anchor: it must hold twice the pull',
  'support-rating': 'what the support may carry: ask, or read its label',
  'bench-height': 'the height against the knee',
  'smooth-floor': 'the floor: smooth, dry, nothing in the way',
  grip: 'the grip: a hand must close round it; try it low first',
  closure: 'the closure: shut, and it stays shut when shaken',
  straps: 'the straps: high and tight',
  padding: 'a pad between load and hips',
  weigh: 'weigh it once packed: labels and tables are estimates',
}
const checkShort: Record<string, string> = {
  tipping: 'the table',
  anchor: 'the anchor',
  'support-rating': 'what the support may carry',
  'bench-height': 'the height against the knee',
  'smooth-floor': 'the floor',
  grip: 'the grip',
  closure: 'the closure',
  straps: 'the straps',
  padding: 'a pad between load and hips',
  weigh: 'weigh it once packed',
}
const changed: Record<string, string> = {
  pattern: 'the pattern itself',
  sides: 'one side at a time',
  iron: 'iron in the hand',
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
const holding = {
  'one-hand': 'one hand',
  'two-hands': 'two equal hands',
  goblet: 'at the chest',
  back: 'on the back',
  hips: 'on the hips',
}
const way = {
  implement: 'an implement',
  object: 'an object as it is',
  made: 'a made-up load',
  two: 'two instead of one',
  'one-sided': 'one side at a time',
  tempo: 'tempo and pause',
  lever: 'another rung: lever, range or support',
  move: 'another move of the pattern',
}
const repair = {
  'more-reps': 'more repetitions',
  'fewer-reps': 'fewer repetitions',
  slower: 'slower lowering',
  pause: 'a pause',
}
const bridgeBy = {
  load: 'the load itself',
  reps: 'more repetitions',
  blend: 'one or two sets with the load to come',
  tempo: 'slower',
  variant: 'a variant between',
  made: 'made up',
  uneven: 'an uneven pair',
}
const benchVerdict = {
  fits: 'fits',
  raise: 'raise feet and hips together',
  'too-high': 'too high: a lower bench, a step or the floor',
  'too-low': 'too low: raise it, or the floor',
}
const patternRoom = {
  yes: 'room for it',
  flawed: 'only with a caution',
  nothing: 'nothing here for it',
}
const leftOut = {
  uncarried: 'glass, hot or sharp',
  loose: 'loose: it needs a container that closes',
  hard: 'not soft',
  'no-grip': 'a hand does not close round it',
}
const rowDoes = {
  new: 'new',
  changed: 'changed',
  same: 'as it is',
}
const rowKind = {
  implement: 'implement',
  object: 'object',
  container: 'container',
}
const scaleFault = {
  none: 'nothing',
  drift: 'it creeps',
  swinging: 'it swings on',
  lost: 'the link is cut',
}
const massKnownBy = {
  gross: 'its mass with packaging',
  net: 'the net mass on the label',
  volume: 'what is in it, by volume',
  kind: 'what it is',
  weighed: 'off the scale',
}
const trait = {
  soft: 'soft',
  loose: 'loose',
  glass: 'glass',
  hot: 'hot',
  sharp: 'sharp',
  'hard-edged': 'hard-edged',
}
const legs = {
  'four-leg': 'four fixed legs',
  glass: 'glass',
  folding: 'folding',
  extending: 'extending',
  'one-column': 'one column',
  trestle: 'trestle',
  'loose-top': 'loose top',
}
const wear = {
  front: 'in front',
  hand: 'in the hand',
  hips: 'on the hips',
  back: 'on the back',
}
const weekday: Record<string, string> = {
  '1': 'Mon',
  '2': 'Tue',
  '3': 'Wed',
  '4': 'Thu',
  '5': 'Fri',
  '6': 'Sat',
  '7': 'Sun',
}
const month: Record<string, string> = {
  '1': 'Jan',
  '2': 'Feb',
  '3': 'Mar',
  '4': 'Apr',
  '5': 'May',
  '6': 'Jun',
  '7': 'Jul',
  '8': 'Aug',
  '9': 'Sep',
  '10': 'Oct',
  '11': 'Nov',
  '12': 'Dec',
}

export const names = {
  language,
  lane,
  pattern,
  hold,
  implementKind,
  use,
  sides,
  side,
  anchor,
  pain,
  verdict,
  advice,
  beam,
  blockKind,
  scheme,
  layout,
  doseKind,
  callWord,
  handDo,
  deed,
  endedBy,
  pace,
  stretchKind,
  changeOver,
  versionKind,
  editKind,
  differs,
  format,
  placeKind,
  joint,
  theJoint,
  limit,
  limitMild,
  limitSpare,
  familyPlace,
  unusedBecause,
  region,
  partName,
  thePart,
  direction,
  plane,
  role,
  room,
  view,
  shoes,
  loadClass,
  gate,
  asksLevel,
  household,
  source,
  check,
  checkShort,
  changed,
  holding,
  way,
  repair,
  bridgeBy,
  benchVerdict,
  patternRoom,
  leftOut,
  rowDoes,
  rowKind,
  scaleFault,
  massKnownBy,
  trait,
  legs,
  wear,
  weekday,
  month,
}
