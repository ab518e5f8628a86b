import { describe, expect, it } from 'vitest'
import { meant, searched } from './search'

// What people type for a move, and what it is called (common practice, no source).
describe('finding moves', () => {
  const by = searched(['Push-up', 'press-up', 'Cossáck'], ['push', 'front to back'])
  it.each([
    ['pushup', true],
    ['push up', true],
    ['PRESS-UP', true],
    ['cossack', true],
    ['front push', true],
    ['', true],
    ['pull', false],
    ['push pull', false],
  ])('%s', (text, found) => expect(meant(text, by)).toBe(found))
})
