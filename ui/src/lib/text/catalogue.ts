// Every text of the interface. Views hold none of their own.
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
  keep: 'Same again',
  'keep-limit': 'At the limit: hold',
  watch: 'Light: watch next time',
  'next-load': 'Take the next load',
  'more-reps': 'More repetitions first',
  'next-rung': 'One rung up',
  'less-load': 'Lighter, or fewer',
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

export const source: Record<string, string> = {
  published: 'published',
  model: 'model',
  'common-practice': 'common practice',
  house: 'house rule, editable',
  arithmetic: 'arithmetic',
  typed: 'as you asked',
}

export const count = (n: number, one: string, many: string): string => `${n} ${n === 1 ? one : many}`

/** What a studio's file brings, as the server counts it. */
type Brought = Record<
  'moves' | 'places' | 'items' | 'classes' | 'people' | 'circuits' | 'runs' | 'lines' | 'kept',
  number
>

function brought(n: Brought): string {
  const parts = [
    [n.moves, 'own move', 'own moves'],
    [n.places, 'place', 'places'],
    [n.items, 'thing', 'things'],
    [n.classes, 'class', 'classes'],
    [n.people, 'person', 'people'],
    [n.circuits, 'circuit', 'circuits'],
    [n.runs, 'run', 'runs'],
    [n.lines, 'line of a log', 'lines of logs'],
  ] as const
  const fresh = parts.filter(([k]) => k > 0).map(([k, one, many]) => count(k, one, many))
  const kept = n.kept > 0 ? `; ${count(n.kept, 'thing is', 'things are')} there already and stay as they are` : ''
  return (fresh.length > 0 ? fresh.join(', ') : 'nothing new') + kept
}

export const t = {
  name: 'Nimble Anvil',
  skip: 'Skip to the work',
  nav: { today: 'Today', kit: 'Kit', moves: 'Moves', circuit: 'Circuit', run: 'Run', log: 'Log', label: 'Views' },
  dark: 'Dark',
  light: 'Light',
  unitLabel: 'Show masses in',
  why: 'why',
  close: 'Close',
  cancel: 'Cancel',
  save: 'Save',
  loading: 'Reading …',
  newer: 'The program was updated.',
  reload: 'Reload',
  notFound: 'There is nothing at this address.',
  notFoundMend: 'Go to Today',
  lost: 'The server does not answer. What you see is safe; it is tried again by itself.',
  refused: 'The server did not take something that was done while it was away.',
  requestId: (id: string) => `Request ${id}`,
  people: (n: number) => count(n, 'person', 'people'),
  minutes: (n: number) => `${n} min`,
  body: 'body',
  bag: 'packed',

  file: { noJson: 'This file is no JSON.', bring: 'Bring it in' },

  own: {
    open: 'Make it your own',
    title: (name: string) => `A move of your own, from: ${name}`,
    what: 'Body shape, holds, shares and stop signs stay those of the copied move. Its load is computed as for that one.',
    name: 'Its name',
    tempo: 'Tempo, as 2-0-2-0',
    reps: 'Repetitions, as 8-12',
    purpose: 'What it is for, in a line',
    cues: 'Cues in teaching order, one a line',
    setup: 'Set-up, one step a line',
    fault: 'Usual fault',
    sign: 'Its sign',
    mend: 'The mend',
    ladder: 'It is the next rung of this ladder',
    lever: 'The one lever that changes',
    before: 'from',
    after: 'to',
    file: 'Moves of your own in a file',
    out: 'Save them as moves.json',
    in: 'Bring in a file',
    would: (name: string, added: number, changed: number, same: number) =>
      `${name} would add ${count(added, 'move', 'moves')} and change ${changed}; ${same} ${same === 1 ? 'is' : 'are'} the same already. Nothing has been changed yet.`,
    nothing: (name: string) => `${name} would change nothing: all of it is here already.`,
    did: (added: number, changed: number) => `Added ${added}, changed ${changed}.`,
  },

  studio: {
    open: 'Studio',
    title: 'Studio',
    name: 'Name',
    zone: 'Time zone of new classes, as Europe/Berlin',
    file: 'All of it in one file',
    fileWhat: 'Places, kit, classes, circuits with their history, runs and logs, as open JSON.',
    out: 'Save it as studio.json',
    in: 'Bring in a file',
    would: (name: string, n: Brought) => `${name} would bring ${brought(n)}. Nothing has been changed yet.`,
    did: (n: Brought) => `Brought in: ${brought(n)}.`,
  },

  keys: {
    title: 'Keys',
    open: 'Keys (?)',
    groups: [
      {
        name: 'Everywhere',
        keys: [
          ['?', 'this sheet'],
          ['Tab', 'to the next field or button'],
          ['Enter, Space', 'press it; open a why'],
          ['Esc', 'close a dialog'],
        ],
      },
      {
        name: 'Circuit',
        keys: [
          ['← → ↑ ↓', 'from box to box in the score'],
          ['Enter', 'the box, its reasons, what could stand instead'],
          ['Ctrl Z', 'undo'],
          ['Ctrl Y', 'redo'],
        ],
      },
      {
        name: 'Run',
        keys: [
          ['Space', 'start, hold, go on'],
          ['→', 'skip'],
          ['←', 'back'],
          ['+', '15 seconds more'],
          ['M', 'sound on or off'],
        ],
      },
    ],
  },

  today: {
    title: 'Today',
    next: 'Next class',
    later: 'Later',
    past: 'Lately',
    none: 'No class is planned. Add one: a name, a day, a time, minutes, a place, how many people.',
    add: 'Add a class',
    edit: 'Change the class',
    needs: 'Still undone',
    ready: 'Ready: fits its minutes, and the kit is there.',
    makeCircuit: 'Make its circuit',
    openCircuit: 'Open the circuit',
    run: 'Run this class',
    log: 'Write the log',
    logged: (n: number) => (n === 0 ? 'nothing logged' : count(n, 'line logged', 'lines logged')),
    noPlace: 'First add a place in Kit.',
    form: {
      name: 'Name',
      date: 'Day',
      time: 'Time',
      minutes: 'Minutes (5 to 240)',
      place: 'Place',
      people: (l: string) => `People in ${l}`,
      bodies: 'Bodies the lanes are computed for',
      body: (l: string) => `${l}: body mass`,
      stature: (l: string) => `${l}: stature`,
    },
  },

  kit: {
    title: 'Kit',
    place: 'Place',
    hall: 'hall kit',
    flat: 'cupboard',
    addPlace: 'Add a place',
    placeKind: 'What it is',
    placeUnit: 'A bare number means',
    implements: 'Implements',
    objects: 'Objects',
    containers: 'Containers',
    addImplement: 'Add an implement',
    addObject: 'Add an object',
    addContainer: 'Add a container',
    edit: 'Edit',
    retire: 'Retire',
    retireWhat: (n: string) => `Retire ${n}`,
    editWhat: (n: string) => `Edit ${n}`,
    name: 'Name',
    kind: 'Kind',
    mass: 'Mass of one',
    gross: 'Mass of one, with packaging',
    height: 'Height',
    count: 'How many',
    pairs: 'pairs',
    use: 'How it can be held',
    max: 'Most it may weigh packed',
    own: 'Own mass',
    checked: 'Checked: four fixed legs, heavy, does not tip',
    unchecked: 'not checked: nobody hangs or leans on it',
    assumed: (u: string) => `Read with the place's unit: ${u}`,
    read: (s: string) => `Read as ${s}`,
    hint: { kg: 'such as 16, 16.5 kg or 35 lb', lb: 'such as 35, 17.6 lb or 1 lb 8 oz' },
    lengthHint: { kg: 'such as 45 cm or 450 mm', lb: 'such as 18 in' },
    empty: 'Nothing here yet. For example: a 16 kg bell, three of them; or a pair of 20 lb dumbbells.',
    emptyFlat: 'Nothing here yet. For example: tins of 455 g, twenty of them, and a rucksack that may weigh 15 kg.',
    emptyPound: 'Nothing here yet. For example: a 35 lb bell, three of them; or a pair of 20 lb dumbbells.',
    emptyFlatPound: 'Nothing here yet. For example: tins of 1 lb, twenty of them, and a rucksack that may weigh 33 lb.',
    caution: 'Bags stay closed and within their limit; nothing loose, glass or hot overhead or over the face.',
  },

  moves: {
    title: 'Moves',
    find: 'Find a move',
    found: (n: number, all: number) => (n === all ? `${n} moves` : `${n} of ${all} moves`),
    none: 'No move is like that. Take a filter away.',
    all: 'all',
    pattern: 'Pattern',
    plane: 'Plane',
    lane: 'Mark of the lane',
    place: 'Kit at hand',
    anywhere: 'anywhere',
    spare: 'Spare a joint',
    noJoint: 'no joint',
    also: (names: string[]) => `also: ${names.join(', ')}`,
    setup: 'Set-up',
    cue: 'Say',
    waiting: (n: number) => `${count(n, 'cue waits', 'cues wait')} behind it`,
    fault: 'Usual fault',
    sign: (s: string) => `Its sign: ${s}.`,
    mend: (s: string) => `The mend: ${s}`,
    ladder: 'Ladder',
    ladderHelp: 'Hardest on top. A filled mark is the one lever that changes from the rung below.',
    lever: (name: string, before: string, after: string) => `${name}: ${before} → ${after}`,
    rung: 'Rung',
    noLadder: 'Not on a ladder.',
    easier: 'Easier',
    harder: 'Harder',
    up: 'Up when',
    down: 'Down when',
    dose: 'Dose',
    perRep: (s: string) => `${s} a rep`,
    reps: (low: number, high: number, sides: boolean) => `${low} to ${high}${sides ? ' a side' : ''}`,
    asks: 'Asks of',
    asksLevel: ['nothing', 'a little', 'clearly', 'much'],
    shares: 'Works',
    share: (n: number) => `${Math.round(n * 100)} %`,
    ends: 'Ends the rep or the set',
    burn: 'Muscle burn is expected; joint pain is not, and is asked about apart.',
    needs: 'Needs',
    space: (l: string, w: string) => `${l} × ${w} clear floor`,
    show: 'Show it',
    shoes: 'Shoes',
    learn: 'Learn first',
    parts: 'Parts, each called',
    part: (n: number, to: number, name: string) => `${to > n ? `${n} to ${to}` : n} × ${partName[name] ?? name}`,
    partCount: (name: string, side: string, all: string, sides: boolean) =>
      sides ? `${partName[name] ?? name}: ${side} a side, ${all} in all` : `${partName[name] ?? name}: ${all}`,
    range: (low: number, high: number) => (low === high ? `${low}` : `${low} to ${high}`),
    aSet: 'In a set',
    weakest: (part: string, light: string[]) =>
      `The ${partName[part] ?? part} sets the load; it is light for the ${light.map((x) => partName[x] ?? x).join(' and the ')}, whose repetitions count as its dose.`,
    stages: 'Called, up and down again',
    footwork: (date: string, s: string) => `Calls of ${date}, one every ${s}`,
    gate: {
      'half-body-25':
        'Behind a gate: 25 goblet squats in form with half of body mass, all five joint screens, bracing learned, and a goal that calls for it. Never proposed.',
    } as Record<string, string>,
    cautions: 'Cautions',
    stop: 'Stop',
    stopAlways:
      'Chest pain, fainting, sudden severe headache, breathlessness that does not settle: end, call for help. Joint pain: stop that move now. Form, grip or balance going: stop the set. The hall’s rules and licensed practice come first.',
    cannot: 'What cannot be had',
    nearest: 'Nearest:',
    start: 'Start',
    end: 'End',
    close: 'Back to the list',
    words: 'Words of the trade',
    card: 'All about this move',
    gated: 'gate',
    freshCue: 'New today',
    cuesWait: (n: number) =>
      n === 0 ? 'Nothing else waits.' : `${count(n, 'other new cue waits', 'other new cues wait')} for later sessions`,
    allTaught: 'Every cue of these moves has been given.',
    style: 'House style',
    styleWhat:
      'Where good teachers differ, the house decides once. It changes cues, set-ups and what is proposed; never a load, a share or a stop sign. A move may be an exception: on its card.',
    exceptions: 'Where this move differs from the house',
    asHouse: (name: string) => `as the house: ${name}`,
    pick: 'Choose a move on the left.',
  },

  circuit: {
    title: 'Circuit',
    propose: 'Propose',
    proposeAnew: 'Propose anew',
    intro: 'Say how long, how it is counted, who comes, and what to leave out. The proposal keeps within the kit.',
    format: 'Counted',
    timed: 'by the clock',
    reps: 'by repetitions',
    bans: 'Leave out',
    nothingFits: 'Nothing fits. Any one of these would help:',
    notes: 'About this proposal',
    of: (total: string, cls: string) => `${total} of ${cls}`,
    spare: (s: string) => `${s} spare`,
    over: (s: string) => `${s} too long`,
    undo: 'Undo',
    redo: 'Redo',
    saved: 'Saved',
    saving: 'Saving …',
    unsaved: 'Not saved yet; trying again',
    conflict: 'Another window changed this circuit meanwhile. Its newest version is shown; nothing was overwritten.',
    beside: (v: number) => `Your edits are kept as version ${v}, beside it.`,
    compare: 'Compare',
    wholeClass: 'Whole class',
    round: (n: number) => `Round ${n}`,
    changeOver: 'rest s',
    balance: 'Balance',
    pressure: 'Kit pressure: in use at once, of what is there',
    flags: 'Worth a look',
    noFlags: 'Nothing stands out.',
    work: 'Work, s',
    rest: 'Rest, s',
    rounds: 'Rounds',
    roundRest: 'Between rounds, s',
    waves: (n: number) => `${n} waves`,
    wavesLabel: 'Waves',
    newMove: 'New to the group',
    slot: (n: number, of: number) => `Slot ${n} of ${of}`,
    earlier: 'Move earlier',
    later: 'Move later',
    remove: 'Remove',
    addSlot: 'Add a slot',
    load: 'Load',
    instead: 'Instead of it',
    repsSide: 'Repetitions a side',
    repsBoth: 'Repetitions',
    tempo: 'Tempo',
    sides: 'Sides',
    watch: 'Watch for',
    stop: 'Stop signs',
    whyLoad: 'why this load',
    whyTime: 'why so many',
    whyRest: 'why this rest',
    stopAlways:
      'Chest pain, fainting, sudden severe headache, breathlessness that does not settle: end, call for help. Local rules and licensed practice come first.',
    missing: 'missing',
    caution: 'above what is proposed here',
    tooMany: (used: number, present: number) => `${used} wanted at once, ${present} there`,
    aSide: (n: number) => `${n} a side`,
    pick: 'Choose a box in the score to see its reasons and what could stand instead.',
    hallTab: 'In class',
    homeTab: 'Take-home',
    historyTab: 'History',
    homePlace: 'Flat',
    homeLane: 'Lane',
    homeNone: 'No flat yet: add one in Kit.',
    homeWanted: 'Wanted',
    homeMade: 'From this cupboard',
    homeMove: 'Move',
    homeReps: 'Repetitions',
    pack: (n: number, object: string, container: string) => `${container} with ${n} × ${object}`,
    proposalRest: 'Work and rest are proposals (house rules); change them as you like.',
    close: 'Close this panel',
    versions: 'Versions',
    version: (v: number) => `Version ${v}`,
    newest: 'the newest',
    sideOf: (v: number) => `beside: made from version ${v}`,
    bringBack: 'Bring it back',
    older: 'Older versions',
    differs: (v: number) => `What differs: version ${v}, then the newest`,
    same: 'Nothing differs from the newest version.',
    pickVersion: 'Choose a version to look at it, compare it with the newest, and bring it back.',
    absent: 'not there',
    yes: 'yes',
    no: 'no',
  },

  run: {
    title: 'Run',
    now: 'Now',
    next: 'Next',
    ready: 'Ready to start',
    ended: 'The class has ended',
    start: 'Start',
    hold: 'Hold',
    resume: 'Go on',
    skip: 'Skip',
    back: 'Back',
    add: '15 s more',
    end: 'End',
    sound: 'Sound on',
    soundOff: 'Sound off',
    silent: 'Silent until you tap anywhere',
    held: 'On hold',
    waiting: (s: string) => `${s} added`,
    roundOf: (n: number, of: number) => `Round ${n} of ${of}`,
    left: (c: string, end: string) => `${c} left · ends ${end}`,
    switchIn: (s: number) => `Switch sides in ${s}`,
    switchNow: (s: string) => `Change to the ${s.toLowerCase()} side`,
    wave: (n: number, of: number) => `Wave ${n} of ${of}`,
    leave: 'Leave Run',
    toLog: 'Write the log',
    prepWith: (names: string) => `Prep: ${names}`,
    learn: (name: string) => `Learn: ${name}`,
    closeNow: 'Close: easy breathing, shake out, drink',
    keys: 'Keys',
    key: { space: 'Space', sound: 'M' },
    lost: (n: number) =>
      n === 0
        ? 'No connection: the clock goes on, presses are kept here'
        : `No connection: the clock goes on, ${count(n, 'press is', 'presses are')} kept here until the server answers`,
    awake: 'Screen kept awake',
    stop: 'Pain in a joint, form gone, dizzy: stop that move.',
    announce: (kind: string, name: string) => `${kind}: ${name}`,
    again: 'Run again',
  },

  log: {
    title: 'Log',
    intro: 'Starts from the plan: change only what was different. Repetitions are a side for one-sided moves.',
    allAsPlanned: 'The rest went as planned',
    addPerson: 'Add a person',
    personName: 'Name',
    personLane: 'Lane',
    lane: (l: string) => `${l} lane`,
    move: 'Move',
    planned: 'Planned',
    done: 'Done',
    inForm: 'In form',
    reserve: 'Left in reserve',
    pain: 'Felt',
    next: 'Next time',
    unsaved: 'plan',
    onItsWay: 'kept here until the server answers',
    noCircuit: 'This class has no circuit to log against.',
    of: (what: string, who: string, field: string) => `${what}, ${who}: ${field}`,
    painRule:
      'Joint pain is not muscle burn: stop that move, change it, note it. Again next time: off the plan, refer.',
  },
}
