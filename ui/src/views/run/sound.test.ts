import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import type { Schemas } from '../../lib/api/client'
import { beeps, Sound } from './sound'

const started: number[] = []
const stopped: number[] = []

class FakeAudio {
  state = 'running'
  currentTime = 100
  destination = {}
  resume = () => Promise.resolve()
  createOscillator = () => {
    let at = 0
    return {
      frequency: { value: 0 },
      connect: (x: unknown) => x,
      start: (t: number) => started.push((at = t)),
      stop: (t?: number) => t === undefined && stopped.push(at),
    }
  }
  createGain = () => ({
    gain: { setValueAtTime: vi.fn(), exponentialRampToValueAtTime: vi.fn() },
    connect: (x: unknown) => x,
  })
}

beforeEach(() => vi.stubGlobal('AudioContext', FakeAudio))
afterEach(() => {
  vi.unstubAllGlobals()
  started.length = stopped.length = 0
})

describe('sound', () => {
  const calls: Schemas['Call'][] = [
    { atMs: 7000, kind: 'ready', count: 3 },
    { atMs: 8000, kind: 'ready', count: 2 },
    { atMs: 9000, kind: 'ready', count: 1 },
    { atMs: 10_000, kind: 'go' },
    { atMs: 27_500, kind: 'switch' },
    { atMs: 30_000, kind: 'next' },
  ]

  it('sounds every call, a change of sides twice, and what comes next not at all', () => {
    expect(beeps(calls).map((b) => b.ms)).toEqual([7000, 8000, 9000, 10_000, 27_500, 27_720])
  })

  it('schedules ahead on the audio clock, each once, and takes back what a jump makes wrong', async () => {
    const s = new Sound()
    const list = beeps(calls)
    s.plan(list, 6500)
    expect(started).toEqual([]) // silent until woken by a tap
    await s.wake()
    s.plan(list, 6500) // looks 3 s ahead: 7, 8 and 9 s are 0.5, 1.5 and 2.5 s away
    s.plan(list, 6600)
    expect(started).toEqual([100.5, 101.5, 102.5])
    s.clear()
    expect(stopped).toEqual([100.5, 101.5, 102.5])
  })
})
