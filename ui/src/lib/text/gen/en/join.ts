// Made by scripts/texts.sh from texts/*.json. Not to be edited: run it again.
import * as f from '../../format'

export const join = {
  list: (a: string, b: string): string => `${a}, ${b}`,
  and: (a: string, b: string): string => `${a} and ${b}`,
  semicolons: (a: string, b: string): string => `${a}; ${b}`,
  plus: (a: string, b: string): string => `${a} + ${b}`,
  term: (name: string, span: number): string => `${name} ${f.span(span)}`,
}
