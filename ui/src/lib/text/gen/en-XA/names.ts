// Made by scripts/texts.sh from texts/*.json. Not to be edited: run it again.
const language = {
  en: 'Éñğľííšĥ',
  'en-XA': 'Éñğľííšĥ ŵííţĥ ɱááŕķš, ƒóóŕ ţŕýííñğ ţĥéé þááğééš',
}
const lane = {
  ground: 'Ğŕóóúúñđ',
  middle: 'Ṁííđđľéé',
  reach: 'Ŕééááçĥ',
}
const pattern = {
  squat: 'Šɋúúááţ',
  lunge: 'Ľúúñğéé',
  lateral: 'Ľááţééŕááľ',
  hinge: 'Ĥííñğéé',
  bridge: 'Ɓŕííđğéé',
  'push-level': 'Þúúšĥ',
  'push-overhead': 'Þúúšĥ óóṽééŕĥééáđ',
  pull: 'Þúúľľ',
  'trunk-brace': 'Ţŕúúñķ, ƀŕááçííñğ',
  'trunk-turn': 'Ţŕúúñķ, ţúúŕñííñğ',
  carry: 'Çááŕŕý',
  'whole-body': 'Ŵĥóóľéé ƀóóđý',
  mobility: 'Ṁóóƀííľííţý',
}
const hold = {
  none: 'ñóó ľóóáđ',
  goblet: 'ááţ ţĥéé çĥééšţ',
  hugged: 'ĥúúğğééđ',
  'rack-one': 'ááţ óóñéé šĥóóúúľđéŕ',
  'rack-two': 'ááţ ƀóóţĥ šĥóóúúľđééŕš',
  'suitcase-one': 'ááţ óóñéé šíđé',
  'suitcase-two': 'ááţ ƀóóţĥ šííđééš',
  'hung-one': 'ĥúúñğ ííñ ƒŕóóñţ',
  'hung-two': 'ĥúúñğ ííñ ƒŕóóñţ, ţŵóó',
  'row-one': 'ííñ óóñéé ĥáñđ',
  'row-two': 'ííñ ƀóóţĥ ĥááñđš',
  'press-one': 'ííñ óóñéé ĥáñđ',
  'press-two': 'ííñ ƀóóţĥ ĥááñđš',
  swing: 'ííñ ƀóóţĥ ĥááñđš',
  horns: 'ƀý ţĥéé ĥóóŕñš',
  hips: 'óóñ þááđđééđ ĥííþš',
  back: 'óóñ ţĥéé ƀááçķ',
  'swing-one': 'šŵúúñğ ííñ óóñéé ĥááñđ',
  'bag-grip': 'ğŕííþþééđ ƀý ţĥéé çľóóţĥ',
  'by-heads': 'ĥééľđ ƀý ííţš ééñđš',
  'bar-back': 'áá ƀááŕ óóñ ţĥéé ƀááçķ',
  'bar-hung': 'áá ƀááŕ ĥúúñğ ííñ ƒŕóóñţ',
}
const implementKind = {
  kettlebell: 'Ķééţţľééƀééľľ',
  dumbbell: 'Đúúɱƀƀééľľ, šííñğľéé',
  'dumbbell-pair': 'Đúúɱƀƀééľľš, þááííŕ',
  barbell: 'Ɓááŕ ŵííţĥ ííţš þľááţééš',
  band: 'Ɓááñđ',
  bench: 'Ɓééñçĥ',
  box: 'Ɓóóẋ',
  table: 'Ţááƀľéé',
}
const use = {
  grip: 'Á ĥááñđ çľóóšééš ŕóóúúñđ ííţ',
  hug: 'Ĥééľđ ááğááííñšţ ţĥéé ƀóóđý',
  pack: 'Óñľý þááçķééđ ííñ áá çóóñţááííñééŕ',
}
const sides = {
  both: 'ƀóóţĥ ááţ óóñçéé',
  split: 'ĥááľƒ ááñđ ĥááľƒ',
  rounds: 'áá šííđéé ééááçĥ ŕóúñđ',
  alternate: 'ţúúŕñ ƀý ţúúŕñ',
}
const side = {
  left: 'Ľééƒţ',
  right: 'Ŕííğĥţ',
  both: 'Ɓóóţĥ šííđééš',
}
const anchor: Record<string, string> = {
  seat: 'áá šééáţ',
  step: 'áá šţééþ',
  bench: 'áá ƀééñçĥ',
  edge: 'áá ŕááííšééđ éđğé',
  'foot-rest': 'áá ƒóóóóţ ŕéšţ',
  table: 'áá çĥééçķééđ ţááƀľéé',
  band: 'áá ƀááñđ',
}
const pain = {
  none: 'ñóóţĥííñğ',
  burn: 'ɱúúšçľéé ƀúúŕñ (ééẋþééçţééđ)',
  joint: 'ĵóóííñţ þááíñ',
}
const verdict = {
  'form-lost': 'Ƒóóŕɱ ľóóšţ',
  heavy: 'Ţóóóó ĥééáṽý',
  'far-too-light': 'Ƒááŕ ţóóóó ľííğĥţ',
  light: 'Ľííğĥţ',
  right: 'Ŕííğĥţ',
}
const advice = {
  keep: 'Šááɱéé ľóóáđ',
  'keep-limit': 'Áţ ţĥéé ľííɱííţ: ĥóóľđ',
  'more-reps': 'Ṁóóŕéé ŕééþééţííţíóñš',
  'next-load': 'Ţááķéé ţĥéé ñééẋţ ľóóáđ',
  bridge: 'Ţóóŵááŕđš ţĥéé ñééẋţ ľóóááđ',
  'next-rung': 'Óñéé ŕúúñğ úúþ',
  'fewer-reps': 'Ƒééŵééŕ ŕééþééţííţííóñš',
  'less-load': 'Ľííğĥţééŕ, óóŕ ƒééŵééŕ',
  lighter: 'Ľííğĥţééŕ ááƒţééŕ ţĥéé ƀŕééááķ',
  'start-again': 'Ƒŕóóɱ ţĥéé šţááŕţ ááğááííñ',
  'as-before': 'Áš ƀééƒóóŕéé',
  'rung-down': 'Óñéé ŕúúñğ đóóŵñ',
  'stop-move': 'Çĥááñğéé ţĥííš ɱóóṽéé',
  'off-the-plan': 'Óƒƒ ţĥéé þľááñ: ŕééƒééŕ',
}
const beam = {
  push: 'þúúšĥ',
  pull: 'þúúľľ',
  front: 'ƒŕóóñţ óóƒ ţĥííğĥ',
  back: 'ƀááçķ óóƒ ţĥííğĥ',
  'two-legs': 'ţŵóó ľééğš',
  'one-leg': 'óóñéé ľéğ',
  straight: 'šţŕááííğĥţ',
  sideways: 'šííđéé, ţúúŕñííñğ',
}
const blockKind = {
  prep: 'Þŕééþ',
  teach: 'Ţééááçĥííñğ',
  work: 'Ŵóóŕķ',
  finisher: 'Ƒííñííšĥééŕ',
  close: 'Çľóóšéé',
}
const scheme = {
  circuit: 'Çííŕçúúííţ',
  sets: 'Šţŕááííğĥţ šééţš',
  superset: 'Šúúþééŕšééţ',
  chain: 'Çĥááííñ',
  interval: 'Éṽééŕý ííñţééŕṽááľ',
  window: 'Ŵííñđóóŵ',
  ladder: 'Ľááđđééŕ',
  drop: 'Đŕóóþ šééţ',
  called: 'Çááľľééđ',
}
const layout = {
  together: 'ţóóğééţĥééŕ',
  waves: 'ííñ ŵááṽééš',
}
const doseKind = {
  count: 'ŕééþééţííţííóñš',
  seconds: 'šééçóóñđš',
  units: 'úúñííţš',
  'to-failure': 'úúñţííľ ƒééŵ ááŕéé ľéƒţ',
}
const callWord = {
  right: 'ŕííğĥţ',
  left: 'ľééƒţ',
  forward: 'ƒóóŕŵááŕđ',
  back: 'ƀááçķ',
  across: 'ááçŕóóšš',
}
const handDo = {
  'pick-up': 'Þííçķ úúþ',
  keep: 'Ķééééþ',
  regrip: 'Ĥóóľđ ííţ óóţĥééŕŵííšé',
  'put-down': 'Þúúţ ííţ đóóŵñ',
}
const deed = {
  done: 'Đóóñéé ŵííţĥ ţĥéé šééţ',
  round: 'Ŕóóúúñđš đóóñéé',
  stopped: 'Šţóóþþééđ ééááŕľý',
  again: 'Ɓááçķ ííñ',
  swapped: 'Đóóééš šóóɱééţĥííñğ ééľšé',
}
const endedBy = {
  skip: 'Šķííþþééđ',
  next: 'Éñđééđ ééááŕľý',
  end: 'Ţĥéé çľáášš ééñđééđ',
}
const pace = {
  'per-rep': 'Šééçóóñđš áá ŕééþééţííţíóñ',
  'change-over': 'Çĥááñğéé-óóṽééŕš',
  teach: 'Ţééááçĥííñğ',
}
const stretchKind = {
  'lead-in': 'Ğééţ ŕééááđý',
  prep: 'Þŕééþ',
  learn: 'Ľééááŕñ',
  work: 'Ŵóóŕķ',
  'change-sides': 'Çĥááñğéé šííđééš',
  'hand-over': 'Ĥááñđ óóṽééŕ',
  rest: 'Ŕééšţ',
  'round-rest': 'Ɓééţŵééééñ ŕóóúúñđš',
  pause: 'Þááúúšé',
  close: 'Çľóóšéé',
}
const changeOver: Record<string, string> = {
  implement: 'ţááķéé ííţ úþ',
  packing: 'þááçķ',
  hold: 'ááñóóţĥééŕ ĥóóľđ',
  floor: 'đóóŵñ óóŕ úúþ',
  kneel: 'ķñééééľ óóŕ šţááñđ',
  walk: 'ţĥéé ŵááý ţĥééŕéé',
  strap: 'šţŕááþ óóŕ þááđ',
}
const versionKind = {
  propose: 'þŕóóþóóšééđ',
  edit: 'ééđííţéđ',
  undo: 'úúñđóóñé',
  redo: 'ŕééđóóñé',
  restore: 'ƀŕóóúúğĥţ ƀááçķ',
}
const editKind = {
  'set-lead-in': 'ľééááđ-íñ',
  'set-scheme': 'áá ƀľóóçķ’š šçĥééɱéé óóŕ ţííɱééš',
  'set-kind': 'ŵĥááţ áá ƀľóóçķ ííš ƒóóŕ',
  'set-layout': 'ĥóóŵ þééóóþľéé šţááñđ ţóó áá ƀľóóçķ',
  'set-after': 'ţĥéé þááúúšéé ááƒţééŕ áá ƀľóçķ',
  'add-block': 'áá ƀľóóçķ ááđđééđ',
  'remove-block': 'áá ƀľóóçķ ŕééɱóóṽééđ',
  'move-block': 'ţĥéé óóŕđééŕ óóƒ ƀľóóçķš',
  'set-own': 'ţííɱééš óóƒ áá šľóóţ’š óóŵñ',
  'set-waves': 'ŵááṽééš',
  'set-new': 'ñééŵ ţóó ţĥéé ğŕóóúúþ',
  'set-pin': 'ķééþţ ŵĥééñ þŕóóþóóšééđ ááñééŵ',
  'set-entry': 'áá ɱóóṽéé óóŕ ľóáđ',
  'add-slot': 'áá šľóóţ ááđđééđ',
  'remove-slot': 'áá šľóóţ ŕééɱóóṽéđ',
  'move-slot': 'ţĥéé óóŕđééŕ',
  replace: 'ţĥéé ŵĥóóľéé',
  'clear-entry': 'ááñ óóŵñ ééñţŕý ţááķééñ ƀááçķ',
}
const differs = {
  block: 'Ɓľóóçķ',
  kind: 'Ŵĥááţ áá ƀľóóçķ ííš ƒóóŕ',
  layout: 'Ľááýóóúţ',
  scheme: 'Šçĥééɱéé',
  sets: 'Šééţš',
  between: 'Ƒŕóóɱ šľóóţ ţóó šľóóţ',
  sides: 'Šííđééš',
  'side-change': 'Çĥááñğéé óóƒ šííđééš',
  every: 'Éṽééŕý',
  window: 'Ŵííñđóóŵ',
  rungs: 'Ŕúúñğš',
  change: 'Çĥááñğéé',
  called: 'Çááľľééđ ƒóóŕ',
  seed: 'Đŕááŵ',
  after: 'Þááúúšéé ááƒţéŕ',
  'own-work': 'Ŵóóŕķ óóƒ ííţš óóŵñ',
  'own-rest': 'Ŕééšţ óóƒ ííţš óóŵñ',
  'own-sets': 'Šééţš óóƒ ííţš óóŵñ',
  format: 'Çóóúúñţééđ',
  'lead-in': 'Ľééááđ-íñ',
  work: 'Ŵóóŕķ',
  rest: 'Ŕééšţ',
  rounds: 'Ŕóóúúñđš',
  'round-rest': 'Ɓééţŵééééñ ŕóóúúñđš',
  slot: 'Šľóóţ',
  order: 'Þľááçéé ííñ ţĥéé óóŕđéŕ',
  waves: 'Ŵááṽééš',
  new: 'Ñééŵ ţóó ţĥéé ğŕóóúúþ',
  pinned: 'Ķééþţ ŵĥééñ þŕóóþóóšééđ ááñééŵ',
  entry: 'Ṁóóṽéé ááñđ ľóóáđ',
}
const format = {
  timed: 'ƀý ţĥéé çľóóçķ',
  reps: 'ƀý ŕééþééţííţííóóñš',
}
const placeKind = {
  hall: 'ĥááľľ ķííţ',
  flat: 'çúúþƀóóááŕđ',
}
const joint = {
  ankle: 'ááñķľéé',
  knee: 'ķñéééé',
  hip: 'ĥííþ',
  'low-back': 'ľóóŵ ƀááçķ',
  'upper-back': 'úúþþééŕ ƀááçķ',
  shoulder: 'šĥóóúúľđééŕ',
  wrist: 'ŵŕííšţ',
  balance: 'ƀááľááñçéé',
  impact: 'ííɱþááçţ',
  grip: 'ğŕííþ',
  hamstring: 'ĥááɱšţŕííñğ',
  neck: 'ñééçķ',
  elbow: 'ééľƀóóŵ',
}
const theJoint: Record<string, string> = {
  ankle: 'ţĥéé ááñķľéé',
  knee: 'ţĥéé ķñéééé',
  hip: 'ţĥéé ĥííþ',
  'low-back': 'ţĥéé ľóóŵ ƀááçķ',
  'upper-back': 'ţĥéé úúþþééŕ ƀááçķ',
  shoulder: 'ţĥéé šĥóóúúľđééŕ',
  wrist: 'ţĥéé ŵŕííšţ',
  balance: 'ţĥéé ƀááľááñçéé',
  impact: 'ţĥéé ííɱþááçţ',
  grip: 'ţĥéé ğŕííþ',
  hamstring: 'ţĥéé ĥááɱšţŕííñğ',
  neck: 'ţĥéé ñééçķ',
  elbow: 'ţĥéé ééľƀóóŵ',
}
const limit: Record<string, string> = {
  'no-lying-on-back': 'Ñóó ľýííñğ óóñ ţĥéé ƀááçķ',
  'no-lying-on-front': 'Ñóó ľýííñğ óóñ ţĥéé ƒŕóóñţ',
  'no-floor': 'Ñóóţ đóóŵñ ţóó ţĥéé ƒľóóóóŕ',
  'no-overhead': 'Ñóóţĥííñğ óóṽééŕĥééáđ',
  'no-impact': 'Ñóó ĵúúɱþš óóŕ ííɱþááçţ',
  'no-breath-holding': 'Ñóó ĥóóľđííñğ óóƒ ţĥéé ƀŕééááţĥ',
  'no-balance-risk': 'Ñóó ŕííšķ ţóó ţĥéé ƀááľááñçé',
  'no-head-below-heart': 'Ĥééááđ ñééṽééŕ ƀééľóóŵ ţĥéé ĥééáŕţ',
  'no-loaded-back-bending': 'Ñóó ľóóááđééđ ƀééñđííñğ óóŕ ţúúŕñííñğ óóƒ ţĥéé ƀáçķ',
  'no-long-holds': 'Ñóó ľóóñğ ĥóóľđš',
  'no-loaded-end-range': 'Ñóó ľóóááđ ááţ ţĥéé ééñđ óóƒ ţĥéé ŕáñğé',
  pregnancy: 'Þŕééğñááñçý',
  'blood-pressure': 'Ĥííğĥ ƀľóóóóđ þŕééššúúŕéé',
  'brittle-bones': 'Ɓŕííţţľéé ƀóóñééš',
  hypermobile: 'Ĥýþééŕɱóóƀííľéé',
}
const limitMild = (joint: string): string => `Ğóó ééáášý óñ ${(theJoint[joint] ?? joint)}`
const limitSpare = (joint: string): string => `Šþááŕéé ${(theJoint[joint] ?? joint)}`
const familyPlace: Record<string, string> = {
  squat: 'Óñ ţĥéé ŵóóŕķííñğ ľééğ',
  hinge: 'Áţ ţĥéé ĥííþ',
  bridge: 'Áţ ţĥéé ĥííþ',
  push: 'Óñ ţĥéé ááŕɱš',
  pull: 'Óñ ţĥéé ááŕɱš',
}
const unusedBecause: Record<string, string> = {
  'too-few': 'ţóóóó ƒééŵ ƒóóŕ ééṽééŕýƀóóđý óóƒ áá ľáñé',
  'too-heavy': 'ţóóóó ĥééááṽý ƒóóŕ ŵĥááţ ííš ŵááñţééđ ĥéŕé',
  'no-move': 'ñóó ɱóóṽéé ĥééŕéé ĥóóľđš íţ',
  nearer: 'ááñóóţĥééŕ ŵééííğĥţ ííš ñééááŕééŕ ţóó ŵĥááţ ííš ŵáñţéđ',
}
const region: Record<string, string> = {
  'front-thigh': 'ƒŕóóñţ óóƒ ţĥéé ţĥííğĥ',
  'back-thigh': 'ƀááçķ óóƒ ţĥéé ţĥííğĥ',
  glutes: 'ğľúúţééš',
  'inner-thigh': 'ííññééŕ ţĥííğĥ',
  'side-hip': 'šííđéé óóƒ ţĥéé ĥíþ',
  calf: 'çááľƒ',
  chest: 'çĥééšţ',
  'upper-back': 'úúþþééŕ ƀááçķ',
  shoulder: 'šĥóóúúľđééŕ',
  arm: 'ááŕɱ',
  trunk: 'ţŕúúñķ',
}
const partName: Record<string, string> = {
  squat: 'šɋúúááţ',
  curl: 'çúúŕľ',
  press: 'þŕééšš',
  clean: 'çľééááñ',
  pull: 'þúúľľ',
  row: 'ŕóóŵ',
  'squat-press': 'šɋúúááţ ŵííţĥ áá þŕééšš',
  walk: 'šííđéé ŵááľķ',
  pulse: 'þúúľšéé',
  jump: 'ĵúúɱþ',
  swing: 'šŵííñğ',
  'push-up': 'þúúšĥ-úúþ',
  hinge: 'ĥííñğéé',
  stage: 'šţááğéé',
}
const thePart: Record<string, string> = {
  squat: 'ţĥéé šɋúúááţ',
  curl: 'ţĥéé çúúŕľ',
  press: 'ţĥéé þŕééšš',
  clean: 'ţĥéé çľééááñ',
  pull: 'ţĥéé þúúľľ',
  row: 'ţĥéé ŕóóŵ',
  'squat-press': 'ţĥéé šɋúúááţ ŵííţĥ áá þŕééšš',
  walk: 'ţĥéé šííđéé ŵááľķ',
  pulse: 'ţĥéé þúúľšéé',
  jump: 'ţĥéé ĵúúɱþ',
  swing: 'ţĥéé šŵííñğ',
  'push-up': 'ţĥéé þúúšĥ-úúþ',
  hinge: 'ţĥéé ĥííñğéé',
  stage: 'ţĥéé šţááğéé',
}
const direction = {
  front: 'ƒŕóóñţ',
  'front-right': 'ƒŕóóñţ ŕííğĥţ',
  right: 'ŕííğĥţ',
  'back-right': 'ƀááçķ ŕííğĥţ',
  back: 'ƀááçķ',
  'back-left': 'ƀááçķ ľééƒţ',
  left: 'ľééƒţ',
  'front-left': 'ƒŕóóñţ ľééƒţ',
}
const plane = {
  'front-to-back': 'ƒŕóóñţ ţóó ƀááçķ',
  sideways: 'šííđééŵááýš',
  turning: 'ţúúŕñííñğ',
}
const role = {
  main: 'ɱááííñ ɱóóṽé',
  accessory: 'ááççééššóóŕý',
  isolation: 'ííšóóľááţíóñ',
  finisher: 'ƒííñííšĥééŕ',
  prep: 'þŕééþ',
  skill: 'šķííľľ, ľééááŕñééđ ƒííŕšţ',
}
const room: Record<string, string> = {
  wall: 'áá ŵááľľ',
  post: 'áá þóóšţ',
  mat: 'áá ɱááţ',
  'smooth-floor': 'áá šɱóóóóţĥ ƒľóóóŕ',
  'low-foot-hold': 'áá ľóóŵ ĥóóľđ ƒóóŕ ţĥéé ƒéééţ',
}
const view = {
  side: 'ƒŕóóɱ ţĥéé šííđéé',
  diagonal: 'ƒŕóóɱ ţĥéé đííááğóóñáľ',
  back: 'ƒŕóóɱ ƀééĥííñđ',
}
const shoes = {
  any: 'ááñý',
  flat: 'ƒľááţ',
  socks: 'šóóçķš',
  off: 'óóƒƒ',
}
const loadClass = {
  none: 'ñóó ľóóáđ',
  light: 'ľííğĥţ',
  'light-medium': 'ľííğĥţ ţóó ɱééđííúúɱ',
  medium: 'ɱééđííúɱ',
  'medium-heavy': 'ɱééđííúúɱ ţóó ĥééáṽý',
  heavy: 'ĥééááṽý',
}
const gate = {
  'half-body-25': 'Ɓééĥííñđ áá ğááţéé: 25 ğóóƀľééţ šɋúúááţš ííñ ƒóóŕɱ ŵííţĥ ĥááľƒ óóƒ ƀóóđý ɱáášš, ááľľ ƒííṽéé ĵóóííñţ šçŕééééñš, ƀŕááçííñğ ľééááŕñééđ, ááñđ áá ğóóááľ ţĥááţ çááľľš ƒóóŕ ííţ. Ñééṽééŕ þŕóóþóšéđ.',
}
const asksLevel: Record<string, string> = {
  '0': 'ñóóţĥííñğ',
  '1': 'áá ľííţţľéé',
  '2': 'çľééááŕľý',
  '3': 'ɱúúçĥ',
}
const household: Record<string, string> = {
  water: 'Ŵááţééŕ',
  milk: 'Ṁííľķ',
  oil: 'Çóóóóķííñğ óóíľ',
  sugar: 'Šúúğááŕ',
  rice: 'Đŕý ŕííçéé',
  flour: 'Ƒľóóúúŕ',
  salt: 'Šááľţ',
  sand: 'Đŕý šááñđ',
  gravel: 'Ğŕááṽééľ',
  paint: 'Ŵááţééŕ-ƀáášééđ þááííñţ ííñ ííţš ţíñ',
  tin: 'Ţííñ',
  bag: 'Ɓááğ óóŕ ƀóóẋ',
  jar: 'Ğľáášš ĵááŕ',
  bottle: 'Þľáášţííç ƀóóţţľéé',
  can: 'Çááñ óóŕ ĵééŕŕýçááñ',
  none: 'Ñóó ṽééššééľ óóƒ ííţš óóŵñ',
  hardback: 'Ĥááŕđƀááçķ ƀóóóóķ',
}
const source = {
  published: 'þúúƀľííšĥééđ',
  model: 'ɱóóđééľ',
  'common-practice': 'çóóɱɱóóñ þŕááçţííçéé',
  house: 'ĥóóúúšéé ŕúľé',
  arithmetic: 'ááŕííţĥɱééţííç',
  typed: 'ááš ýóóúú áášķéđ',
}
const check: Record<string, string> = {
  tipping: 'ţĥéé ţááƀľéé: ííţ ɱúúšţ ñóóţ ţííþ',
  anchor: 'ţĥéé ááñçĥóóŕ: ííţ ɱúúšţ ĥóóľđ ţŵííçéé ţĥéé þúúľľ',
  'support-rating': 'ŵĥááţ ţĥéé šúúþþóóŕţ ɱááý çááŕŕý: áášķ, óóŕ ŕééááđ ííţš ľááƀééľ',
  'bench-height': 'ţĥéé ĥééííğĥţ ááğááííñšţ ţĥéé ķñééé',
  'smooth-floor': 'ţĥéé ƒľóóóóŕ: šɱóóóóţĥ, đŕý, ñóóţĥííñğ ííñ ţĥéé ŵááý',
  grip: 'ţĥéé ğŕííþ: áá ĥááñđ ɱúúšţ çľóóšéé ŕóóúúñđ ííţ; ţŕý ííţ ľóóŵ ƒííŕšţ',
  closure: 'ţĥéé çľóóšúúŕéé: šĥúúţ, ááñđ ííţ šţááýš šĥúúţ ŵĥééñ šĥááķééñ',
  straps: 'ţĥéé šţŕááþš: ĥííğĥ ááñđ ţííğĥţ',
  padding: 'áá þááđ ƀééţŵééééñ ľóóááđ ááñđ ĥíþš',
  weigh: 'ŵééííğĥ ííţ óóñçéé þááçķééđ: ľááƀééľš ááñđ ţááƀľééš ááŕéé ééšţíɱáţéš',
}
const checkShort: Record<string, string> = {
  tipping: 'ţĥéé ţááƀľéé',
  anchor: 'ţĥéé ááñçĥóóŕ',
  'support-rating': 'ŵĥááţ ţĥéé šúúþþóóŕţ ɱááý çááŕŕý',
  'bench-height': 'ţĥéé ĥééííğĥţ ááğááííñšţ ţĥéé ķñééé',
  'smooth-floor': 'ţĥéé ƒľóóóóŕ',
  grip: 'ţĥéé ğŕííþ',
  closure: 'ţĥéé çľóóšúúŕéé',
  straps: 'ţĥéé šţŕááþš',
  padding: 'áá þááđ ƀééţŵééééñ ľóóááđ ááñđ ĥíþš',
  weigh: 'ŵééííğĥ ííţ óóñçéé þááçķéđ',
}
const changed: Record<string, string> = {
  pattern: 'ţĥéé þááţţééŕñ ííţšééľƒ',
  sides: 'óóñéé šííđéé ááţ á ţíɱé',
  iron: 'ííŕóóñ ííñ ţĥéé ĥááñđ',
  ankle: 'ááñķľéé',
  knee: 'ķñéééé',
  hip: 'ĥííþ',
  'low-back': 'ľóóŵ ƀááçķ',
  'upper-back': 'úúþþééŕ ƀááçķ',
  shoulder: 'šĥóóúúľđééŕ',
  wrist: 'ŵŕííšţ',
  balance: 'ƀááľááñçéé',
  impact: 'ííɱþááçţ',
  grip: 'ğŕííþ',
  hamstring: 'ĥááɱšţŕííñğ',
  neck: 'ñééçķ',
  elbow: 'ééľƀóóŵ',
}
const holding = {
  'one-hand': 'óóñéé ĥááñđ',
  'two-hands': 'ţŵóó ééɋúúááľ ĥááñđš',
  goblet: 'ááţ ţĥéé çĥééšţ',
  back: 'óóñ ţĥéé ƀááçķ',
  hips: 'óóñ ţĥéé ĥííþš',
}
const way = {
  implement: 'ááñ ííɱþľééɱééñţ',
  object: 'ááñ óóƀĵééçţ ááš ííţ íš',
  made: 'áá ɱááđéé-úúþ ľóáđ',
  two: 'ţŵóó ííñšţééááđ óóƒ óñé',
  'one-sided': 'óóñéé šííđéé ááţ á ţíɱé',
  tempo: 'ţééɱþóó ááñđ þááúúšé',
  lever: 'ááñóóţĥééŕ ŕúúñğ: ľééṽééŕ, ŕááñğéé óóŕ šúúþþóŕţ',
  move: 'ááñóóţĥééŕ ɱóóṽéé óóƒ ţĥéé þááţţéŕñ',
}
const repair = {
  'more-reps': 'ɱóóŕéé ŕééþééţííţíóñš',
  'fewer-reps': 'ƒééŵééŕ ŕééþééţííţííóñš',
  slower: 'šľóóŵééŕ ľóóŵééŕííñğ',
  pause: 'áá þááúšé',
}
const bridgeBy = {
  load: 'ţĥéé ľóóááđ ííţšééľƒ',
  reps: 'ɱóóŕéé ŕééþééţííţíóñš',
  blend: 'óóñéé óóŕ ţŵóó šééţš ŵííţĥ ţĥéé ľóóááđ ţóó çóɱé',
  tempo: 'šľóóŵééŕ',
  variant: 'áá ṽááŕííááñţ ƀééţŵééñ',
  made: 'ɱááđéé úþ',
  uneven: 'ááñ úúñééṽééñ þáíŕ',
}
const benchVerdict = {
  fits: 'ƒííţš',
  raise: 'ŕááííšéé ƒééééţ ááñđ ĥííþš ţóóğéţĥéŕ',
  'too-high': 'ţóóóó ĥííğĥ: áá ľóóŵééŕ ƀééñçĥ, áá šţééþ óóŕ ţĥéé ƒľóóŕ',
  'too-low': 'ţóóóó ľóóŵ: ŕááííšéé ííţ, óóŕ ţĥé ƒľóóŕ',
}
const patternRoom = {
  yes: 'ŕóóóóɱ ƒóóŕ íţ',
  flawed: 'óóñľý ŵííţĥ áá çááúúţííóñ',
  nothing: 'ñóóţĥííñğ ĥééŕéé ƒóóŕ ííţ',
}
const leftOut = {
  uncarried: 'ğľáášš, ĥóóţ óóŕ šĥááŕþ',
  loose: 'ľóóóóšéé: ííţ ñééééđš áá çóóñţááííñééŕ ţĥáţ çľóšéš',
  hard: 'ñóóţ šóóƒţ',
  'no-grip': 'áá ĥááñđ đóóééš ñóóţ çľóóšéé ŕóóúñđ íţ',
}
const rowDoes = {
  new: 'ñééŵ',
  changed: 'çĥááñğééđ',
  same: 'ááš ííţ íš',
}
const rowKind = {
  implement: 'ííɱþľééɱééñţ',
  object: 'óóƀĵééçţ',
  container: 'çóóñţááííñéŕ',
}
const scaleFault = {
  none: 'ñóóţĥííñğ',
  drift: 'ííţ çŕééééþš',
  swinging: 'ííţ šŵííñğš óóñ',
  lost: 'ţĥéé ľííñķ ííš çúúţ',
}
const massKnownBy = {
  gross: 'ííţš ɱáášš ŵííţĥ þááçķááğííñğ',
  net: 'ţĥéé ñééţ ɱáášš óóñ ţĥéé ľááƀééľ',
  volume: 'ŵĥááţ ííš ííñ ííţ, ƀý ṽóóľúúɱé',
  kind: 'ŵĥááţ ííţ ííš',
  weighed: 'óóƒƒ ţĥéé šçááľéé',
}
const trait = {
  soft: 'šóóƒţ',
  loose: 'ľóóóóšé',
  glass: 'ğľáášš',
  hot: 'ĥóóţ',
  sharp: 'šĥááŕþ',
  'hard-edged': 'ĥááŕđ-ééđğééđ',
}
const legs = {
  'four-leg': 'ƒóóúúŕ ƒííẋééđ ľééğš',
  glass: 'ğľáášš',
  folding: 'ƒóóľđííñğ',
  extending: 'ééẋţééñđííñğ',
  'one-column': 'óóñéé çóóľúɱñ',
  trestle: 'ţŕééšţľéé',
  'loose-top': 'ľóóóóšéé ţóþ',
}
const wear = {
  front: 'ííñ ƒŕóóñţ',
  hand: 'ííñ ţĥéé ĥááñđ',
  hips: 'óóñ ţĥéé ĥííþš',
  back: 'óóñ ţĥéé ƀááçķ',
}
const weekday: Record<string, string> = {
  '1': 'Ṁóóñ',
  '2': 'Ţúúé',
  '3': 'Ŵééđ',
  '4': 'Ţĥúú',
  '5': 'Ƒŕíí',
  '6': 'Šááţ',
  '7': 'Šúúñ',
}
const month: Record<string, string> = {
  '1': 'Ĵááñ',
  '2': 'Ƒééƀ',
  '3': 'Ṁááŕ',
  '4': 'Áþŕ',
  '5': 'Ṁááý',
  '6': 'Ĵúúñ',
  '7': 'Ĵúúľ',
  '8': 'Áúúğ',
  '9': 'Šééþ',
  '10': 'Óçţ',
  '11': 'Ñóóṽ',
  '12': 'Đééç',
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
