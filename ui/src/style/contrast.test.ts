// Contrast of what the drawings are made of, in both themes: a checker of pages does not
// look into drawings. Formula and thresholds: WCAG 2.2, relative luminance, 1.4.3 and 1.4.11.
import { expect, test } from 'vitest'
import css from './tokens.css?raw'

const themes = css.split(/:root\[theme/).map((block) => {
  const all = [...block.matchAll(/--([a-z0-9-]+): #([0-9a-f]{6})/g)].map((m) => [m[1], m[2]] as const)
  return Object.fromEntries(all) as Record<string, string>
})

function luminance(hex: string): number {
  const parts = [0, 2, 4].map((i) => {
    const c = parseInt(hex.slice(i, i + 2), 16) / 255
    return c <= 0.04045 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4
  })
  return 0.2126 * (parts[0] ?? 0) + 0.7152 * (parts[1] ?? 0) + 0.0722 * (parts[2] ?? 0)
}
function contrast(a: string, b: string): number {
  const [low, high] = [luminance(a), luminance(b)].sort((x, y) => x - y) as [number, number]
  return (high + 0.05) / (low + 0.05)
}

test('black on white is 21, as the definition says', () => {
  expect(contrast('000000', 'ffffff')).toBeCloseTo(21, 6)
})

test.each([0, 1])('drawings can be read in theme %i', (i) => {
  const t = themes[i] ?? {}
  const of = (a: string, b: string) => contrast(t[a] ?? '', t[b] ?? '')
  for (const ink of ['ink', 'muted', 'ember', 'accent'])
    for (const ground of ['paper', 'panel', 'soft'])
      expect(of(ink, ground), `${ink} on ${ground}`).toBeGreaterThanOrEqual(4.5)
  expect(of('on-accent', 'accent')).toBeGreaterThanOrEqual(4.5)
  expect(of('rail-ink', 'rail')).toBeGreaterThanOrEqual(4.5)
  // What tells one part of a drawing from its neighbour: work beside rest and prep, what is
  // chosen or missing beside what is not.
  for (const [a, b] of [
    ['accent', 'soft'],
    ['accent', 'line'],
    ['ember', 'line'],
    ['accent-2', 'panel'],
  ] as const)
    expect(of(a, b), `${a} beside ${b}`).toBeGreaterThanOrEqual(3)
})
