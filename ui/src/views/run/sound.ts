// The calls of a class as tones, scheduled ahead on the audio clock, so that a busy page is
// never late. When something is called, the running order says.
import type { Schemas } from '../../lib/api/client'

export interface Beep {
  /** Position in the class. */
  ms: number
  /** Hertz. */
  pitch: number
  seconds: number
}

const ahead = 3000

/** How each call sounds: from when on after it, how high, how long. What comes next is said, not sounded. */
const tones: Record<Schemas['Call']['kind'], { after: number; pitch: number; seconds: number }[]> = {
  ready: [{ after: 0, pitch: 660, seconds: 0.08 }],
  go: [{ after: 0, pitch: 990, seconds: 0.4 }],
  rest: [{ after: 0, pitch: 495, seconds: 0.4 }],
  // A change is two rising tones: everybody has to move.
  change: [
    { after: 0, pitch: 495, seconds: 0.2 },
    { after: 260, pitch: 660, seconds: 0.3 },
  ],
  'last-ten': [{ after: 0, pitch: 880, seconds: 0.08 }],
  switch: [
    { after: 0, pitch: 440, seconds: 0.12 },
    { after: 220, pitch: 440, seconds: 0.12 },
  ],
  next: [],
  // Parts and directions are said: a short tone marks where they begin.
  part: [{ after: 0, pitch: 740, seconds: 0.06 }],
  direction: [{ after: 0, pitch: 740, seconds: 0.06 }],
}

export function beeps(calls: Schemas['Call'][]): Beep[] {
  return calls.flatMap((c) => tones[c.kind].map((x) => ({ ms: c.atMs + x.after, pitch: x.pitch, seconds: x.seconds })))
}

export class Sound {
  private context: AudioContext | undefined
  private planned: { ms: number; node: OscillatorNode }[] = []
  private until = -1

  /** Must be called from a tap or key: browsers keep a page silent before. */
  async wake(): Promise<boolean> {
    this.context ??= new AudioContext()
    await this.context.resume()
    return this.context.state === 'running'
  }

  /** Schedules the beeps of the next seconds; call it often. */
  plan(list: Beep[], position: number): void {
    const c = this.context
    if (!c || c.state !== 'running') return
    const from = Math.max(position, this.until)
    for (const b of list) {
      if (b.ms < from || b.ms >= position + ahead) continue
      const start = c.currentTime + (b.ms - position) / 1000
      const node = c.createOscillator()
      const gain = c.createGain()
      node.frequency.value = b.pitch
      gain.gain.setValueAtTime(0.25, start)
      gain.gain.exponentialRampToValueAtTime(0.001, start + b.seconds)
      node.connect(gain).connect(c.destination)
      node.start(start)
      node.stop(start + b.seconds)
      this.planned.push({ ms: b.ms, node })
    }
    this.until = position + ahead
    this.planned = this.planned.filter((p) => p.ms > position - 1000)
  }

  /** Takes back what has not sounded yet: the class has jumped or stands. */
  clear(): void {
    for (const p of this.planned) {
      try {
        p.node.stop()
      } catch {
        // it had ended already
      }
    }
    this.planned = []
    this.until = -1
  }
}
