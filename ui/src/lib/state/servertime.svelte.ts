// The server's clock, told on this machine's steady one. A machine whose own
// clock is wrong shows the same second as any other.
import { api, ask } from '../api/client'

const tries = 5

class ServerTime {
  /** From performance.now() to the server's milliseconds since 1970. */
  offset = $state(Date.now() - performance.now())

  now(): number {
    return performance.now() + this.offset
  }

  /** Takes an instant that has just come from the server, until it is measured. */
  set(nowMs: number): void {
    this.offset = nowMs - performance.now()
  }

  /** Measures by the quickest of a few round trips; without an answer all stays. */
  async measure(): Promise<void> {
    let best = Infinity
    for (let i = 0; i < tries; i++) {
      const sent = performance.now()
      const { data } = await ask(api.GET('/api/clock'))
      const back = performance.now()
      if (data && back - sent < best) {
        best = back - sent
        this.offset = data.nowMs - (sent + back) / 2
      }
    }
  }
}

export const serverTime = new ServerTime()
