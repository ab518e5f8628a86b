// Made by scripts/texts.sh from texts/*.json. Not to be edited: run it again.
import * as f from '../../format'
import { names } from './names'

export const today = {
  title: 'Ţóóđááý',
  next: 'Ñééẋţ çľáášš',
  later: 'Ľááţééŕ',
  past: 'Ľááţééľý',
  none: 'Ñóó çľáášš ííš þľááññééđ. Áđđ óóñéé: áá ñááɱéé, áá đááý, áá ţííɱéé, ɱííñúúţééš, áá þľááçéé, ĥóŵ ɱáñý þéóþľé.',
  add: 'Áđđ áá çľáášš',
  edit: 'Çĥááñğéé ţĥéé çľáášš',
  needs: 'Šţííľľ úúñđóóñéé',
  ready: 'Ŕééááđý: ƒííţš ííţš ɱííñúúţééš, ááñđ ţĥéé ķííţ ííš ţĥééŕé.',
  decided: 'Đééçííđééđ ƀý ţĥéé ľóóğ:',
  times: (what: keyof typeof names.advice, n: number): string => (f.plural('en-XA', n) === 'one' ? f.within(names.advice[what]) : `${f.within(names.advice[what])} (${f.number(n)})`),
  makeCircuit: 'Ṁááķéé ííţš çííŕçúúíţ',
  openCircuit: 'Óþééñ ţĥéé çííŕçúúííţ',
  run: 'Ŕúúñ ţĥííš çľáášš',
  running: 'Ğóó ţóó ţĥéé ŕúúññííñğ çľáášš',
  log: 'Ŵŕííţéé ţĥéé ľóóğ',
  logged: (n: number): string => (n === 0 ? 'ñóóţĥííñğ ľóóğğééđ' : f.plural('en-XA', n) === 'one' ? `${f.number(n)} ľííñéé ľóóğğééđ` : `${f.number(n)} ľííñééš ľóóğğééđ`),
  noPlace: 'Ƒííŕšţ ááđđ áá þľááçéé ííñ Ķííţ.',
  form: {
    name: 'Ñááɱéé',
    date: 'Đááý',
    time: 'Ţííɱéé',
    minutes: 'Ṁííñúúţééš (5 ţó 240)',
    place: 'Þľááçéé',
    all: 'Ĥóóŵ ɱááñý çóóɱéé',
    split: 'Ɓý ľááñéé: Ğŕóóúúñđ ííš ţĥéé ééáášííééŕ ṽééŕšííóóñ óóƒ ééááçĥ ɱóóṽéé, Ŕééááçĥ ţĥéé ĥááŕđééŕ óóñéé. Ŵĥóóééṽééŕ ýóóúú đó ñóţ ķñóŵ ýéţ íš áţ Ṁíđđľé.',
    people: (lane: keyof typeof names.lane): string => `Þééóóþľéé íñ ${names.lane[lane]}`,
    bodies: 'Ɓóóđííééš ţĥéé ľááñééš ááŕéé çóóɱþúúţéđ ƒóŕ',
    body: (lane: keyof typeof names.lane): string => `${names.lane[lane]}: ƀóóđý ɱáášš`,
    stature: (lane: keyof typeof names.lane): string => `${names.lane[lane]}: šţááţúúŕéé`,
  },
}
