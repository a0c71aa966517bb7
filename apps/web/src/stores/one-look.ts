// Changes that come in a row, as when a queue is sent, are looked at together.

/**
 * One look at a time: whoever asks while one goes on gets nothing, and it is looked once more for all of them.
 * @returns what was seen last; undefined for those who came meanwhile
 */
export function oneLook<T>(look: (id: string) => Promise<T | undefined>): (id: string) => Promise<T | undefined> {
  let looking = false
  let next: string | undefined
  return async (id) => {
    next = id
    if (looking) return undefined
    looking = true
    let seen: T | undefined
    try {
      while (next !== undefined) {
        const now = next
        next = undefined
        seen = await look(now)
      }
    } finally {
      looking = false
    }
    return seen
  }
}
