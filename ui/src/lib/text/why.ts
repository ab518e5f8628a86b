// Reasons as text. The core sends codes and terms; the sentences and units are made here.
import type { Why } from '../api/client'
import { sentence } from './format'
import { why as t } from './gen/why'
import { Terms, type Names } from './terms'

export type { Names } from './terms'

/** Codes whose first term says whose cell they speak of, before the reason. */
const ofParty = /^(fault|ask|flag)-/
/** Of them those that say it themselves. */
const saysWho = ['fault-lane', 'fault-spared', 'fault-held-at-ground']

export function whyText(w: Why, names: Names): string {
  const x = new Terms(w, names)
  const text = t.code[w.code](x)
  const who = ofParty.test(w.code) && !saysWho.includes(w.code) ? x.party('lane') : ''
  return sentence(who ? t.ofParty(who, text) : text)
}
