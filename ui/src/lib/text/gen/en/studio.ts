// Made by scripts/texts.sh from texts/*.json. Not to be edited: run it again.
import * as f from '../../format'
import { join as j } from './join'

export const studio = {
  open: 'Studio',
  title: 'Studio',
  name: 'Name',
  zone: 'Time zone of new classes, as Europe/Berlin',
  language: 'Language',
  file: 'All of it in one file',
  fileWhat: 'Places, kit, people, classes, circuits with their history, runs and logs, as open JSON.',
  out: 'Save it as studio.json, without people\'s health',
  outHealth: 'with people\'s health and pains',
  in: 'Bring in a file',
  would: (name: string, what: string): string => `${name} would bring ${what}. Nothing has been changed yet.`,
  did: (what: string): string => `Brought in: ${what}.`,
  counts: {
    moves: (n: number): string => (f.plural('en', n) === 'one' ? `${f.number(n)} own move` : `${f.number(n)} own moves`),
    templates: (n: number): string => (f.plural('en', n) === 'one' ? `${f.number(n)} template` : `${f.number(n)} templates`),
    places: (n: number): string => (f.plural('en', n) === 'one' ? `${f.number(n)} place` : `${f.number(n)} places`),
    items: (n: number): string => (f.plural('en', n) === 'one' ? `${f.number(n)} thing` : `${f.number(n)} things`),
    classes: (n: number): string => (f.plural('en', n) === 'one' ? `${f.number(n)} class` : `${f.number(n)} classes`),
    people: (n: number): string => (f.plural('en', n) === 'one' ? `${f.number(n)} person in classes` : `${f.number(n)} people in classes`),
    persons: (n: number): string => (f.plural('en', n) === 'one' ? `${f.number(n)} new person` : `${f.number(n)} new people`),
    records: (n: number): string => (f.plural('en', n) === 'one' ? `${f.number(n)} record of people` : `${f.number(n)} records of people`),
    circuits: (n: number): string => (f.plural('en', n) === 'one' ? `${f.number(n)} circuit` : `${f.number(n)} circuits`),
    runs: (n: number): string => (f.plural('en', n) === 'one' ? `${f.number(n)} run` : `${f.number(n)} runs`),
    lines: (n: number): string => (f.plural('en', n) === 'one' ? `${f.number(n)} line of a log` : `${f.number(n)} lines of logs`),
  },
  nothingNew: 'nothing new',
  brings: (what: string[], kept: number): string => `${f.list(j, what)}${(kept === 0 ? '' : f.plural('en', kept) === 'one' ? `; ${f.number(kept)} thing is there already and stays as it is` : `; ${f.number(kept)} things are there already and stay as they are`)}`,
}
