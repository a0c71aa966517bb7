// When is a live reading steady enough to take? Slope, noise and wander over a window, and what is still to go of a
// lag.

import { sure } from '../sure/index.ts'

export interface Sample {
  readonly t_s: number
  readonly value: number
}

export interface StabilityLimits {
  /** Seconds looked back, at least. */
  readonly window_s: number
  /** Most change across the window along the fitted line, in the samples' unit. */
  readonly drift: number
  /** Most standard deviation about the fitted line, in the samples' unit. */
  readonly noise: number
  /** Time constant that is to be expected, of process and damping together, s. */
  readonly tau_s?: number | undefined
  /** Most that may still be to go, in the samples' unit, as a tenth of the tolerance; not looked at without one. */
  readonly still?: number | undefined
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
  /** What a lag of the expected time constant has still to go, with its sign: slope times time constant. */
  readonly toGo: number
  /** What the samples wander about over twice the window: from the lowest to the highest mean of four parts of it. */
  readonly wander: number
}

/** A window of less than this many time constants cannot tell a lag from rest. */
const TAUS = 0.75
/** No one waits longer for a window. */
const LONGEST_s = 60
const BLOCKS = 4
/** Standard deviations of an estimate that count as no more than chance. */
const CHANCE = 3

/** The window that a lag of the expected time constant needs, s. */
export const windowOf = ({ window_s, tau_s = 0 }: Pick<StabilityLimits, 'window_s' | 'tau_s'>): number =>
  Math.min(Math.max(window_s, TAUS * tau_s), Math.max(LONGEST_s, window_s))
/** How far back samples are looked at, s. */
export const lookBack_s = (limits: Pick<StabilityLimits, 'window_s' | 'tau_s' | 'still'>): number =>
  limits.still === undefined ? limits.window_s : Math.max(2 * limits.window_s, windowOf(limits))

/** The least-squares line through samples, and the scatter about it. */
function lineOf(samples: readonly Sample[]) {
  const n = samples.length
  const meanT = samples.reduce((sum, s) => sum + s.t_s, 0) / n
  const mean = samples.reduce((sum, s) => sum + s.value, 0) / n
  let tt = 0
  let tv = 0
  for (const s of samples) {
    tt += (s.t_s - meanT) ** 2
    tv += (s.t_s - meanT) * (s.value - mean)
  }
  const slope = tt > 0 ? tv / tt : 0
  const squares = samples.reduce((sum, s) => sum + (s.value - mean - slope * (s.t_s - meanT)) ** 2, 0)
  const noise = n > 2 ? Math.sqrt(squares / (n - 2)) : 0
  return { slope, noise, mean, slopeDoubt: tt > 0 ? noise / Math.sqrt(tt) : 0 }
}

/** The range of the means of blocks of samples, and what of it may be chance. */
function wanderOf(samples: readonly Sample[], noise: number) {
  const first = sure(samples[0]).t_s
  const long = sure(samples.at(-1)).t_s - first
  const blocks = Array.from({ length: BLOCKS }, (): number[] => [])
  for (const s of samples)
    sure(blocks[Math.min(BLOCKS - 1, Math.floor((BLOCKS * (s.t_s - first)) / (long || 1)))]).push(s.value)
  const full = blocks.filter((b) => b.length)
  const means = full.map((b) => b.reduce((a, v) => a + v, 0) / b.length)
  const least = Math.min(...full.map((b) => b.length))
  return { wander: Math.max(...means) - Math.min(...means), chance: (CHANCE * noise) / Math.sqrt(2 * least) }
}

/**
 * Steady when, over the window, the least-squares line changes by no more than `drift` and the scatter about it is no
 * more than `noise`; and, where `still` is given, when the samples wander by no more than that over twice the window,
 * and a lag of the expected time constant has surely (three standard deviations) no more than that to go.
 * Samples are in time order. Fewer than five, or a window not yet full, is `waiting`.
 */
export function stability(samples: readonly Sample[], limits: StabilityLimits): Stability {
  const { still, tau_s = 0 } = limits
  const [window_s, back_s] = [still === undefined ? limits.window_s : windowOf(limits), lookBack_s(limits)]
  const last = samples.at(-1)
  const nothing = { drift: 0, noise: 0, mean: 0, toGo: 0, wander: 0 }
  if (!last) return { state: 'waiting', ...nothing, wait_s: back_s }
  const back = (seconds: number) => samples.filter((s) => s.t_s >= last.t_s - seconds)
  const window = back(window_s)
  const { slope, noise, mean, slopeDoubt } = lineOf(window)
  const drift = slope * limits.window_s
  const toGo = slope * tau_s
  const { wander, chance } = wanderOf(back(back_s), noise)
  const wait_s = Math.max(0, back_s - (last.t_s - sure(samples[0]).t_s))
  const lags = still !== undefined && Math.abs(toGo) + CHANCE * slopeDoubt * tau_s > still
  const wanders = still !== undefined && wander > still + chance
  const state =
    window.length < 5 || wait_s > 0
      ? 'waiting'
      : Math.abs(drift) > limits.drift || wanders || lags
        ? 'moving'
        : noise > limits.noise
          ? 'noisy'
          : 'stable'
  return { state, drift, noise, mean, wait_s, toGo, wander }
}
