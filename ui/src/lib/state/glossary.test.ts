import { describe, expect, it } from 'vitest'
import { glossary } from './glossary'

describe('the glossary', () => {
  it('finds each word once in a text, the longest form first, and loses no letter', () => {
    glossary.learn([
      { term: 'blade', also: ['shoulder blades'], means: 'a flat bone' },
      { term: 'hinge', also: [], means: 'hips go back' },
    ])
    const text = 'Shoulder blades first, then hinge, hinge; not unhinged.'
    const pieces = glossary.split(text)
    expect(pieces.map((p) => p.text).join('')).toBe(text)
    expect(pieces.filter((p) => p.means).map((p) => p.text)).toEqual(['Shoulder blades', 'hinge'])
  })
})
