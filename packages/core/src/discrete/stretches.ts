// Stretches of time in which something held, out of samples: a bar for each on a drawing.

export interface Stretch {
  readonly from_s: number
  readonly to_s: number
}

/** Joins samples that hold to stretches; the last one goes on to the newest sample, where it still holds. */
export function stretchesOf<T extends { readonly t_s: number }>(
  samples: readonly T[],
  holds: (sample: T) => boolean,
): Stretch[] {
  const found: Stretch[] = []
  let from: number | undefined
  for (const sample of samples) {
    const now = holds(sample)
    if (now) from ??= sample.t_s
    else if (from !== undefined) {
      found.push({ from_s: from, to_s: sample.t_s })
      from = undefined
    }
  }
  const last = samples.at(-1)
  return from === undefined || !last ? found : [...found, { from_s: from, to_s: last.t_s }]
}
