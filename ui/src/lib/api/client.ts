// A thin client over the generated types: every call gives data or a problem,
// and never throws.
import createClient from 'openapi-fetch'
import type { components, paths } from './schema'

export type Schemas = components['schemas']
export type Circuit = Schemas['Circuit']
export type Document = Schemas['Document']
export type Entry = Schemas['Entry']
export type Op = Schemas['Op']
export type Plan = Schemas['Plan']
export type Cell = Schemas['Cell']
export type SlotPlan = Schemas['SlotPlan']
export type Why = Schemas['Why']
export type Term = Schemas['Term']
export type Quantity = Schemas['Quantity']
export type Place = Schemas['Place']
export type Item = Schemas['Item']
export type Load = Schemas['Load']
export type Today = Schemas['Today']
export type TodayClass = Schemas['TodayClass']
export type Occurrence = Schemas['Occurrence']
export type Run = Schemas['Run']
export type Log = Schemas['Log']
export type LogSheet = Schemas['LogSheet']
export type LogLine = Schemas['LogLine']
export type Move = Schemas['Move']
export type MoveCard = Schemas['MoveCard']
export type Lane = 'ground' | 'middle' | 'reach'
export const lanes: Lane[] = ['ground', 'middle', 'reach']

/** A problem document (RFC 9457), or our own for a call that got no answer. */
export interface Problem {
  status: number
  detail: string
  errors?: { location: string; message: string }[]
  requestId?: string
  /** The version a change was kept as beside the newest. */
  beside?: number
}

export type Answer<T> = { data: T; problem?: undefined } | { data?: undefined; problem: Problem }

export const api = createClient<paths>({ baseUrl: location.origin, fetch: (r) => globalThis.fetch(r) })

let pages = ''
let onNewer: () => void = () => undefined

/** Calls back once when the server's pages are no longer those of this page. */
export function whenNewer(f: () => void): void {
  onNewer = f
}

function listen(r: Response): void {
  const version = r.headers.get('X-Page-Version') ?? ''
  if (version === '' || version === pages) return
  if (pages !== '') onNewer()
  pages = version
}

/** Turns a call into data or a problem; a lost connection is status 0. */
export async function ask<T>(
  call: Promise<{ data?: T; error?: unknown; response: Response }>,
): Promise<Answer<NonNullable<T>>> {
  try {
    const { data, error, response } = await call
    listen(response)
    if (data !== undefined && data !== null) return { data }
    const p = (error ?? {}) as Partial<Problem>
    return { problem: { status: response.status, detail: p.detail ?? response.statusText, ...p } }
  } catch {
    return { problem: { status: 0, detail: '' } }
  }
}

/**
 * Asks what a view shows now. What this gives back gives the question up, so that neither a
 * late answer nor a request that nobody waits for is in the way of the next: for an $effect.
 */
export function asking<T>(
  call: (signal: AbortSignal) => Promise<{ data?: T; error?: unknown; response: Response }>,
  then: (a: Answer<NonNullable<T>>) => void,
): () => void {
  const given = new AbortController()
  void ask(call(given.signal)).then((a) => {
    if (!given.signal.aborted) then(a)
  })
  return () => given.abort()
}

/** What is missing before anything is sent: fields with what to say where they are blank. */
export function missing(fields: Record<string, [value: unknown, say: string]>): Problem | undefined {
  const blank = (v: unknown) => v === undefined || v === null || (typeof v === 'string' && v.trim() === '')
  const errors = Object.entries(fields)
    .filter(([, [value]]) => blank(value))
    .map(([field, [, say]]) => ({ location: `body.${field}`, message: say }))
  return errors.length > 0 ? { status: 422, detail: '', errors } : undefined
}

/** The message for one field of a request, if the problem names it. */
export function fieldProblem(problem: Problem | undefined, field: string): string {
  return problem?.errors?.find((e) => e.location === `body.${field}`)?.message ?? ''
}

/** The same as a Carbon field takes it. */
export function invalid(problem: Problem | undefined, field: string): { invalid: boolean; invalidText: string } {
  const text = fieldProblem(problem, field)
  return { invalid: text !== '', invalidText: text }
}

/**
 * The text of a file that was chosen. Null when it is not UTF-8: another way to read
 * its bytes would be a guess, and put other characters where some stood.
 */
export async function textOf(file: Blob): Promise<string | null> {
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(await file.arrayBuffer())
  } catch {
    return null
  }
}

/** Sends a text as it stands, so that the server sees what is wrong with it. */
export const asItStands = (text: string) => ({ bodySerializer: () => text })

const alphabet = '0123456789abcdefghijklmnopqrstuvwxyz'

/** A random id of 26 characters: whoever creates a thing names it. */
export function newId(): string {
  const bytes = crypto.getRandomValues(new Uint8Array(26))
  return Array.from(bytes, (b) => alphabet[b % 36]).join('')
}
