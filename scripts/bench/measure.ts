// Measuring: many runs, and the figure below which most of them lie.

export interface Row {
  readonly what: string
  readonly unit: 'µs' | 'ms' | '/s' | '×' | '%'
  readonly median: number
  readonly p95: number
  readonly most: number
  readonly target?: number
  /** Below that median it is missed: of what is the better the more it is. */
  readonly floor?: number
  /** Which of them the target is for. */
  readonly judged?: 'median' | 'p95' | 'most'
}

export function quantile(values: readonly number[], q: number): number {
  const sorted = [...values].sort((a, b) => a - b)
  return sorted[Math.min(sorted.length - 1, Math.floor(q * sorted.length))]!
}

/** Time of one call in ms, each sample over `batch` calls, after a warm-up. */
export async function sample(
  work: (i: number) => unknown,
  { samples = 50, batch = 1, warm = 10 } = {},
): Promise<number[]> {
  for (let i = 0; i < warm * batch; i++) await work(i)
  const times: number[] = []
  for (let s = 0; s < samples; s++) {
    const begun = performance.now()
    for (let i = 0; i < batch; i++) {
      const result = work(s * batch + i)
      if (result instanceof Promise) await result
    }
    times.push((performance.now() - begun) / batch)
  }
  return times
}

export function row({
  what,
  unit,
  times_ms,
  target,
  judged = 'median',
}: {
  readonly what: string
  readonly unit: 'µs' | 'ms'
  readonly times_ms: readonly number[]
  readonly target?: number | undefined
  readonly judged?: Row['judged']
}): Row {
  const scale = unit === 'µs' ? 1000 : 1
  return {
    what,
    unit,
    median: quantile(times_ms, 0.5) * scale,
    p95: quantile(times_ms, 0.95) * scale,
    most: quantile(times_ms, 1) * scale,
    ...(target === undefined ? {} : { target, judged }),
  }
}
