// Bytes at the speed of a slow line: what is sent goes out byte by byte, what came took its time.

/** 11 bits at 1200 bit/s. */
export const BYTE_ms = 11_000 / 1200

export interface Paced {
  /** Sends after what is on its way; in order. */
  send(bytes: Uint8Array): void
}

/** @param slow false sends at once */
export function paced(out: (bytes: Uint8Array) => void, slow: boolean): Paced {
  if (!slow) return { send: out }
  let waiting: number[] = []
  let due = 0
  let timer: ReturnType<typeof setInterval> | undefined
  const turn = () => {
    const now = performance.now()
    let many = 0
    while (due <= now && many < waiting.length) {
      due += BYTE_ms
      many++
    }
    if (many) out(Uint8Array.from(waiting.slice(0, many)))
    waiting = waiting.slice(many)
    if (waiting.length) return
    clearInterval(timer)
    timer = undefined
  }
  return {
    send(bytes) {
      if (!waiting.length) due = performance.now() + BYTE_ms
      waiting.push(...bytes)
      timer ??= setInterval(turn, 4)
    },
  }
}
