// The mark that papers are written with, where whoever formats a figure says none.
let now: '.' | ',' = '.'

/** Does something in which figures are written with this mark; only where nothing else is done meanwhile. */
export async function markingUntil<T>(mark: '.' | ',' | undefined, work: () => T | Promise<T>): Promise<T> {
  const before = now
  now = mark ?? '.'
  try {
    return await work()
  } finally {
    now = before
  }
}
export const markNow = (): '.' | ',' => now
