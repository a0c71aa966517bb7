// How often a reading is called steady that is not: seeded drifts, lags and swings, with noise. Wanted: less than one
// in a thousand beyond a tenth of the tolerance.
import { describe, expect, it } from 'vitest'
import { normal, seedFrom, uniform } from '../device/index.ts'
import { lookBack_s, stability, windowOf, type Sample } from './stability.ts'

/** In % of span: tolerance 0.5, so that a tenth is 0.05. */
const STILL = 0.05
const LIMITS = { window_s: 4, drift: 0.1, noise: 0.06, still: STILL }
const PER_s = 20

function seeded(name: string) {
  let seed = seedFrom(name)
  return {
    in: (low: number, high: number) => {
      const [u, next] = uniform(seed)
      seed = next
      return low + u * (high - low)
    },
    noise: (sigma: number) => {
      const [n, next] = normal(seed)
      seed = next
      return sigma * n
    },
  }
}
/** Samples up to a moment, as far back as is looked. */
function trend(f: (t: number) => number, until: number, seconds: number, noise: () => number): Sample[] {
  const from = until - seconds
  return Array.from({ length: Math.ceil(seconds * PER_s) + 2 }, (_, i) => {
    const t_s = from + i / PER_s
    return { t_s, value: f(t_s) + noise() }
  })
}

/** Of many tries, how many are called steady that are off by more than a tenth of the tolerance. */
function falseStable(tries: number, make: (i: number) => { samples: Sample[]; tau_s: number; off: number }): number {
  let wrong = 0
  for (let i = 0; i < tries; i++) {
    const { samples, tau_s, off } = make(i)
    if (Math.abs(off) > STILL && stability(samples, { ...LIMITS, tau_s }).state === 'stable') wrong++
  }
  return wrong
}

describe('the window', () => {
  it('grows with the time constant that is to be expected, and nobody waits longer than a minute', () => {
    expect(windowOf({ window_s: 4 })).toBe(4)
    expect(windowOf({ window_s: 4, tau_s: 20 })).toBe(15)
    expect(windowOf({ window_s: 4, tau_s: 600 })).toBe(60)
    expect(windowOf({ window_s: 90, tau_s: 2 })).toBe(90)
    expect(lookBack_s(LIMITS)).toBe(8)
    expect(lookBack_s({ window_s: 4 })).toBe(4)
  })
  it('says how many seconds are still wanted', () => {
    const { noise } = seeded('wait')
    const short = trend(
      () => 50,
      3,
      3,
      () => noise(0.01),
    )
    expect(stability(short, LIMITS)).toMatchObject({ state: 'waiting' })
    expect(stability(short, LIMITS).wait_s).toBeCloseTo(5, 1)
    expect(stability([], { ...LIMITS, tau_s: 40 })).toMatchObject({ state: 'waiting', wait_s: 30 })
  })
})

describe('called steady and is not', () => {
  it('a step at any time constant up to two minutes, with any noise that passes: none of 2000', () => {
    const { in: between, noise } = seeded('lag')
    const wrong = falseStable(2000, () => {
      const tau_s = between(0.5, 120)
      const step = between(1, 100)
      const sigma = between(0, 0.05)
      // Somewhere on the way, from the step until a tenth of the tolerance is left.
      const left = STILL * (step / STILL) ** between(0, 1)
      const until = tau_s * Math.log(step / left)
      const f = (t: number) => (t < 0 ? 0 : step * (1 - Math.exp(-t / tau_s)))
      return {
        samples: trend(f, until, lookBack_s({ ...LIMITS, tau_s }), () => noise(sigma)),
        tau_s,
        off: step - f(until),
      }
    })
    expect(wrong).toBe(0)
  })
  it('a slow swing of up to five times what is looked back, seen at any moment of it: at most one of 2000', () => {
    const { in: between, noise } = seeded('swing')
    const wrong = falseStable(2000, () => {
      const [size, period, phase] = [between(0.2, 2), between(1, 40), between(0, 2 * Math.PI)]
      const sigma = between(0, 0.03)
      const f = (t: number) => 50 + size * Math.sin((2 * Math.PI * t) / period + phase)
      return { samples: trend(f, 0, lookBack_s(LIMITS), () => noise(sigma)), tau_s: 1, off: f(0) - 50 }
    })
    expect(wrong).toBeLessThanOrEqual(1)
  })
  it('a steady drift that leaves more than a tenth of the tolerance behind a damping: none of 2000', () => {
    const { in: between, noise } = seeded('drift')
    const wrong = falseStable(2000, () => {
      const tau_s = between(1, 60)
      const rate = between(0.8, 6) * (STILL / tau_s)
      const sigma = between(0, 0.05)
      return {
        samples: trend(
          (t) => 50 + rate * t,
          0,
          lookBack_s({ ...LIMITS, tau_s }),
          () => noise(sigma),
        ),
        tau_s,
        off: rate * tau_s,
      }
    })
    expect(wrong).toBe(0)
  })
  it('the step of 25 % at 60 s that had 1.6 % to go is told so, with its estimate', () => {
    const { noise } = seeded('step')
    const f = (t: number) => 50 + 25 * (1 - Math.exp(-t / 60))
    const at = -60 * Math.log(1.6 / 25)
    const found = stability(
      trend(f, at, lookBack_s({ ...LIMITS, tau_s: 60 }), () => noise(0.02)),
      { ...LIMITS, tau_s: 60 },
    )
    expect(found.state).toBe('moving')
    // The slope is that of the middle of the window: what is to go is told rather too large.
    expect(found.toGo).toBeGreaterThan(1.6)
    expect(found.toGo).toBeLessThan(2.8)
  })
})

describe('called steady and is', () => {
  it.each([
    [0, 0.01],
    [2, 0.02],
    [10, 0.02],
    [60, 0.02],
  ])('at a time constant of %d s and noise of %d %% it is found in at least 95 of 100', (tau_s, sigma) => {
    const { noise } = seeded(`quiet ${tau_s}`)
    let found = 0
    for (let i = 0; i < 100; i++) {
      const samples = trend(
        () => 50,
        0,
        lookBack_s({ ...LIMITS, tau_s }),
        () => noise(sigma),
      )
      if (stability(samples, { ...LIMITS, tau_s }).state === 'stable') found++
    }
    expect(found).toBeGreaterThanOrEqual(95)
  })
})
