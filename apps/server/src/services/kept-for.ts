// Answers of the database that are kept in this process for a moment, so that a page that asks again costs nothing.

export interface KeptFor<V> {
  /** The answer for a key: of this moment, or not older than it is kept. Whoever asks meanwhile waits for the same. */
  get(key: string): Promise<V>
  /** Forgets one answer, or all; one that is under way is given to whoever waits for it and not kept. */
  drop(key?: string): void
}

/**
 * @param keep_ms how old an answer may be
 * @param look asks the database; what it throws is not kept
 * @param most answers kept at once
 */
export function keptFor<V>(keep_ms: number, look: (key: string) => Promise<V>, most = 10_000): KeptFor<V> {
  const kept = new Map<string, { readonly answer: Promise<V>; readonly until: number }>()
  return {
    get(key) {
      const known = kept.get(key)
      if (known && known.until > performance.now()) return known.answer
      if (kept.size >= most) kept.clear()
      const answer = look(key)
      const mine = { answer, until: performance.now() + keep_ms }
      kept.set(key, mine)
      answer.catch(() => kept.get(key) === mine && kept.delete(key))
      return answer
    },
    drop: (key) => void (key === undefined ? kept.clear() : kept.delete(key)),
  }
}
