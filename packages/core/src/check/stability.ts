// When is a live reading steady enough to take? Slope and noise over a window.

import { sure } from '../sure/index.ts'

export interface Sample {
  readonly t_s: number
  readonly value: number
}

export interface StabilityLimits {
  /** Seconds looked back. */
  readonly window_s: number
  /** Most change across the window along the fitted line, in the samples' unit. */
  readonly drift: number
  /** Most standard deviation about the fitted line, in the samples' unit. */
  readonly noise: number
}

export interface Stability {
  readonly state: 'waiting' | 'moving' | 'noisy' | 'stable'
  /** Change across the window along the least-squares line. */
  readonly drift: number
  /** Standard deviation about that line. */
  readonly noise: number
  readonly mean: number
  /** Seconds of samples still wanted before the window is full. */
  readonly wait_s: number
}

/**
 * Steady when, over the last `window_s`, the least-squares line changes by no more than `drift` and the scatter about
 * it is no more than `noise`.
 * Samples are in time order. Fewer than five, or a window not yet full, is `waiting`.
 */
export function stability(samples: readonly Sample[], limits: StabilityLimits): Stability {
  const last = samples.at(-1)
  if (!last) return { state: 'waiting', drift: 0, noise: 0, mean: 0, wait_s: limits.window_s }
  const window = samples.filter((s) => s.t_s >= last.t_s - limits.window_s)
  const n = window.length
  const covered = last.t_s - sure(samples[0]).t_s
  const meanT = window.reduce((sum, s) => sum + s.t_s, 0) / n
  const mean = window.reduce((sum, s) => sum + s.value, 0) / n
  let tt = 0
  let tv = 0
  for (const s of window) {
    tt += (s.t_s - meanT) ** 2
    tv += (s.t_s - meanT) * (s.value - mean)
  }
  const slope = tt > 0 ? tv / tt : 0
  const squares = window.reduce((sum, s) => sum + (s.value - mean - slope * (s.t_s - meanT)) ** 2, 0)
  const noise = n > 2 ? Math.sqrt(squares / (n - 2)) : 0
  const drift = slope * limits.window_s
  const wait_s = Math.max(0, limits.window_s - covered)
  const state =
    n < 5 || wait_s > 0
      ? 'waiting'
      : Math.abs(drift) > limits.drift
        ? 'moving'
        : noise > limits.noise
          ? 'noisy'
          : 'stable'
  return { state, drift, noise, mean, wait_s }
}
