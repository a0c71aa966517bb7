// Distributions that uncertainty is reckoned with: normal and Student's t.

/**
 * Complement of the error function, erfc(x), to 1e-15: series near zero, continued fraction beyond (Abramowitz &
 * Stegun 7.1.6, 7.1.14).
 */
import { sure } from '../sure/index.ts'

function erfc(x: number): number {
  if (x < 0) return 2 - erfc(-x)
  // Less than 1e-28: nothing beside 1.
  if (x > 8) return 0
  if (x < 2.5) {
    let [term, sum] = [x, x]
    for (let n = 1; n < 200 && Math.abs(term) > 1e-18 * Math.abs(sum); n++) {
      term *= (2 * x * x) / (2 * n + 1)
      sum += term
    }
    return 1 - (2 / Math.sqrt(Math.PI)) * Math.exp(-x * x) * sum
  }
  let fraction = 0
  for (let n = 80; n > 0; n--) fraction = n / 2 / (x + fraction)
  return Math.exp(-x * x) / Math.sqrt(Math.PI) / (x + fraction)
}

/** Share of a standard normal distribution below x. */
export const normalCdf = (x: number): number => erfc(-x / Math.SQRT2) / 2

/** Natural logarithm of the gamma function for x > 0 (Lanczos, g = 7, nine terms). */
function logGamma(x: number): number {
  const c = [
    0.99999999999980993, 676.5203681218851, -1259.1392167224028, 771.32342877765313, -176.61502916214059,
    12.507343278686905, -0.13857109526572012, 9.9843695780195716e-6, 1.5056327351493116e-7,
  ]
  const z = x - 1
  const sum = c.slice(1).reduce((s, ci, i) => s + ci / (z + i + 1), sure(c[0]))
  const t = z + 7.5
  return 0.5 * Math.log(2 * Math.PI) + (z + 0.5) * Math.log(t) - t + Math.log(sum)
}

/** Regularized incomplete beta function I_x(a, b), by Lentz's continued fraction (NIST DLMF 8.17.22). */
function incompleteBeta(x: number, a: number, b: number): number {
  if (x <= 0) return 0
  if (x >= 1) return 1
  if (x > (a + 1) / (a + b + 2)) return 1 - incompleteBeta(1 - x, b, a)
  const front = Math.exp(logGamma(a + b) - logGamma(a) - logGamma(b) + a * Math.log(x) + b * Math.log1p(-x)) / a
  const tiny = 1e-300
  let [c, d] = [1, 1 / Math.max(tiny, 1 - ((a + b) * x) / (a + 1))]
  let h = d
  for (let m = 1; m < 10_000; m++) {
    for (const numerator of [
      (m * (b - m) * x) / ((a + 2 * m - 1) * (a + 2 * m)),
      (-(a + m) * (a + b + m) * x) / ((a + 2 * m) * (a + 2 * m + 1)),
    ]) {
      d = 1 / (1 + numerator * d || tiny)
      c = 1 + numerator / c || tiny
      h *= c * d
    }
    if (Math.abs(c * d - 1) < 1e-15) break
  }
  return front * h
}

/**
 * Share of Student's t distribution with `dof` degrees of freedom (above 0, not necessarily whole) that lies within ±
 * t.
 */
export function studentWithin(t: number, dof: number): number {
  return 1 - incompleteBeta(dof / (dof + t * t), dof / 2, 0.5)
}

/** The x within whose ± a share of a distribution lies, for a distribution given by its share within ± x. */
function halfWidthOf(within: (x: number) => number, share: number): number {
  let [low, high] = [0, 1]
  while (within(high) < share && high < 1e300) [low, high] = [high, high * 2]
  for (let i = 0; i < 200 && high - low > 1e-13 * high; i++) {
    const middle = (low + high) / 2
    if (within(middle) < share) low = middle
    else high = middle
  }
  return (low + high) / 2
}

/** Coverage factor: half-width, in standard uncertainties, that holds a share of the results. `dof` null: normal. */
export function coverageFactor(share: number, dof: number | null): number {
  return dof === null
    ? halfWidthOf((x) => 1 - erfc(x / Math.SQRT2), share)
    : halfWidthOf((x) => studentWithin(x, dof), share)
}
