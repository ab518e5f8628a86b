// Made by scripts/texts.sh from texts/*.json. Not to be edited: run it again.
import * as f from '../../format'
import { join as j } from './join'

export const studio = {
  open: 'Šţúúđííó',
  title: 'Šţúúđííó',
  name: 'Ñááɱéé',
  zone: 'Ţííɱéé žóóñéé óóƒ ñééŵ çľááššééš, ááš Éúúŕóóþéé/Ɓéŕľíñ',
  language: 'Ľááñğúúááğé',
  file: 'Áľľ óóƒ ííţ ííñ óóñéé ƒííľé',
  fileWhat: 'Þľááçééš, ķííţ, þééóóþľéé, çľááššééš, çííŕçúúííţš ŵííţĥ ţĥééííŕ ĥííšţóóŕý, ŕúúñš ááñđ ľóóğš, ááš óóþééñ ĴŠÓÑ.',
  out: 'Šááṽéé ííţ ááš šţúúđííóó.ĵšóóñ, ŵííţĥóóúúţ þééóóþľé\'š ĥéáľţĥ',
  outHealth: 'ŵííţĥ þééóóþľéé\'š ĥééááľţĥ ááñđ þááííñš',
  in: 'Ɓŕííñğ ííñ áá ƒííľé',
  would: (name: string, what: string): string => `${name} ŵóóúúľđ ƀŕííñğ ${what}. Ñóóţĥííñğ ĥááš ƀééééñ çĥááñğééđ ýééţ.`,
  did: (what: string): string => `Ɓŕóóúúğĥţ ííñ: ${what}.`,
  counts: {
    moves: (n: number): string => (f.plural('en-XA', n) === 'one' ? `${f.number(n)} óóŵñ ɱóóṽéé` : `${f.number(n)} óóŵñ ɱóóṽééš`),
    templates: (n: number): string => (f.plural('en-XA', n) === 'one' ? `${f.number(n)} ţééɱþľááţéé` : `${f.number(n)} ţééɱþľááţééš`),
    places: (n: number): string => (f.plural('en-XA', n) === 'one' ? `${f.number(n)} þľááçéé` : `${f.number(n)} þľááçééš`),
    items: (n: number): string => (f.plural('en-XA', n) === 'one' ? `${f.number(n)} ţĥííñğ` : `${f.number(n)} ţĥííñğš`),
    classes: (n: number): string => (f.plural('en-XA', n) === 'one' ? `${f.number(n)} çľáášš` : `${f.number(n)} çľááššééš`),
    people: (n: number): string => (f.plural('en-XA', n) === 'one' ? `${f.number(n)} þééŕšóóñ ííñ çľááššééš` : `${f.number(n)} þééóóþľéé ííñ çľááššéš`),
    persons: (n: number): string => (f.plural('en-XA', n) === 'one' ? `${f.number(n)} ñééŵ þééŕšóóñ` : `${f.number(n)} ñééŵ þééóóþľé`),
    records: (n: number): string => (f.plural('en-XA', n) === 'one' ? `${f.number(n)} ŕééçóóŕđ óóƒ þééóóþľé` : `${f.number(n)} ŕééçóóŕđš óóƒ þééóóþľé`),
    circuits: (n: number): string => (f.plural('en-XA', n) === 'one' ? `${f.number(n)} çííŕçúúííţ` : `${f.number(n)} çííŕçúúííţš`),
    runs: (n: number): string => (f.plural('en-XA', n) === 'one' ? `${f.number(n)} ŕúúñ` : `${f.number(n)} ŕúúñš`),
    lines: (n: number): string => (f.plural('en-XA', n) === 'one' ? `${f.number(n)} ľííñéé óóƒ áá ľóğ` : `${f.number(n)} ľííñééš óóƒ ľóóğš`),
  },
  nothingNew: 'ñóóţĥííñğ ñééŵ',
  brings: (what: string[], kept: number): string => `${f.list(j, what)}${(kept === 0 ? '' : f.plural('en-XA', kept) === 'one' ? `; ${f.number(kept)} ţĥííñğ ííš ţĥééŕéé ááľŕééááđý ááñđ šţááýš ááš ííţ íš` : `; ${f.number(kept)} ţĥííñğš ááŕéé ţĥééŕéé ááľŕééááđý ááñđ šţááý ááš ţĥééý ááŕé`)}`,
}
