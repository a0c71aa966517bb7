// Coming back to a device whose port was lost: soon at first, then more and more seldom.

const FIRST_ms = 1000
const LONGEST_ms = 30_000

export interface BackOff {
  /** From now on, until it is there again or this is ended. */
  begin(): void
  end(): void
}

/**
 * @param attempt settles when it is there again, rejects where not
 * @param wanted whether anybody waits for it
 * @param says how long until it is tried again, ms
 */
export function backOff(attempt: () => Promise<void>, wanted: () => boolean, says: (wait_ms: number) => void): BackOff {
  let timer: ReturnType<typeof setTimeout> | undefined
  const end = () => {
    clearTimeout(timer)
    timer = undefined
  }
  const wait = (wait_ms: number) => {
    says(wait_ms)
    timer = setTimeout(() => {
      if (!wanted()) return wait(wait_ms)
      const mine = timer
      attempt().catch(() => {
        // Ended meanwhile, or begun anew.
        if (timer === mine) wait(Math.min(LONGEST_ms, 2 * wait_ms))
      })
    }, wait_ms)
    timer.unref()
  }
  return {
    begin() {
      end()
      wait(FIRST_ms)
    },
    end,
  }
}
