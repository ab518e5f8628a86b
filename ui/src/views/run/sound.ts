// Beeps scheduled ahead on the audio clock, so that a busy page is never late.
import type { Event } from './clock'

export interface Beep {
  /** Position in the class. */
  ms: number
  /** Hertz. */
  pitch: number
  seconds: number
}

const ahead = 3000

/** Three short beeps before every change and a long one on it; two low ones for a change of sides. */
export function beeps(blocks: { fromMs: number; kind: string }[], events: Event[]): Beep[] {
  const out: Beep[] = []
  for (const b of blocks) {
    if (b.fromMs === 0) continue
    for (const before of [3000, 2000, 1000]) {
      if (b.fromMs >= before) out.push({ ms: b.fromMs - before, pitch: 660, seconds: 0.08 })
    }
    out.push({ ms: b.fromMs, pitch: b.kind === 'work' ? 990 : 495, seconds: 0.4 })
  }
  const seen = new Set<number>()
  for (const e of events) {
    if (e.kind !== 'change-sides' || seen.has(e.fromMs)) continue
    seen.add(e.fromMs)
    out.push({ ms: e.fromMs, pitch: 440, seconds: 0.12 }, { ms: e.fromMs + 220, pitch: 440, seconds: 0.12 })
  }
  return out.sort((a, b) => a.ms - b.ms)
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
