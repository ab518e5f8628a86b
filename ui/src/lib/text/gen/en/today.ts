// Made by scripts/texts.sh from texts/*.json. Not to be edited: run it again.
import * as f from '../../format'
import { names } from './names'

export const today = {
  title: 'Today',
  next: 'Next class',
  later: 'Later',
  past: 'Lately',
  none: 'No class is planned. Add one: a name, a day, a time, minutes, a place, how many people.',
  add: 'Add a class',
  edit: 'Change the class',
  needs: 'Still undone',
  ready: 'Ready: fits its minutes, and the kit is there.',
  decided: 'Decided by the log:',
  times: (what: keyof typeof names.advice, n: number): string => (f.plural('en', n) === 'one' ? f.within(names.advice[what]) : `${f.within(names.advice[what])} (${f.number(n)})`),
  makeCircuit: 'Make its circuit',
  openCircuit: 'Open the circuit',
  run: 'Run this class',
  running: 'Go to the running class',
  log: 'Write the log',
  logged: (n: number): string => (n === 0 ? 'nothing logged' : f.plural('en', n) === 'one' ? `${f.number(n)} line logged` : `${f.number(n)} lines logged`),
  noPlace: 'First add a place in Kit.',
  form: {
    name: 'Name',
    date: 'Day',
    time: 'Time',
    minutes: 'Minutes (5 to 240)',
    place: 'Place',
    all: 'How many come',
    split: 'By lane: Ground is the easier version of each move, Reach the harder one. Whoever you do not know yet is at Middle.',
    people: (lane: keyof typeof names.lane): string => `People in ${names.lane[lane]}`,
    bodies: 'Bodies the lanes are computed for',
    body: (lane: keyof typeof names.lane): string => `${names.lane[lane]}: body mass`,
    stature: (lane: keyof typeof names.lane): string => `${names.lane[lane]}: stature`,
  },
}
