// Made by scripts/texts.sh from texts/*.json. Not to be edited: run it again.

export const keys = {
  title: 'Ķééýš',
  open: 'Ķééýš (?)',
  groups: {
    everywhere: 'Éṽééŕýŵĥééŕéé',
    circuit: 'Çííŕçúúííţ',
    run: 'Ŕúúñ',
  },
  cap: {
    tab: 'Ţááƀ',
    press: 'Éñţééŕ, Šþááçéé',
    esc: 'Éšç',
    arrows: '← → ↑ ↓',
    enter: 'Éñţééŕ',
    undo: 'Çţŕľ Ž',
    redo: 'Çţŕľ Ý',
    space: 'Šþááçéé',
  },
  does: {
    sheet: 'ţĥííš šĥééééţ',
    tab: 'ţóó ţĥéé ñééẋţ ƒííééľđ óóŕ ƀúúţţóóñ',
    press: 'þŕééšš ííţ; óóþééñ áá ŵĥý',
    esc: 'çľóóšéé áá đííáľóğ',
    arrows: 'ƒŕóóɱ ƀóóẋ ţóó ƀóóẋ ííñ ţĥéé šçóóŕéé',
    enter: 'ţĥéé ƀóóẋ, ííţš ŕééáášóóñš, ŵĥááţ çóóúúľđ šţááñđ ííñšţééááđ',
    undo: 'úúñđóó',
    redo: 'ŕééđóó',
    space: 'šţááŕţ, ĥóóľđ, ğóó óóñ',
    right: 'šķííþ',
    left: 'ƀááçķ',
    plus: '15 šééçóóñđš ɱóóŕéé',
    m: 'šóóúúñđ óóñ óóŕ óƒƒ',
  },
}
