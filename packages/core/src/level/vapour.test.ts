import { describe, expect, it } from 'vitest'
import { attempt } from '../refusal/index.ts'
import { VAPOURS, vapourPath } from './index.ts'

describe('vapour in the path of sound', () => {
  it('has the pressure of its liquid: 380 mmHg of water at 81.7 °C, 400 mmHg of ethanol at 63.5 °C', () => {
    expect(vapourPath('water', 81.7).share).toBeCloseTo(0.5, 2)
    expect(Math.abs(vapourPath('ethanol', 63.5).share - 400 / 760)).toBeLessThan(0.02)
    expect(vapourPath('water', 20).share).toBeCloseTo(17.5 / 760, 3)
  })
  it('of water makes sound faster, and the distance read short; heavy vapours slow it', () => {
    // Published for air of 20 °C, all wet: 344.4 m/s beside 343.2 dry.
    expect(vapourPath('water', 20).faster_pct).toBeCloseTo(0.37, 1)
    expect(vapourPath('water', 60).distanceError_pct).toBeLessThan(-2.5)
    for (const { id } of VAPOURS.filter((v) => v.id !== 'water'))
      expect(vapourPath(id, 25).distanceError_pct).toBeGreaterThan(0)
    expect(vapourPath('water', 60, 0).distanceError_pct).toBeCloseTo(0, 12)
  })
  it('is refused where the liquid would boil, or is none', () => {
    expect(attempt(() => vapourPath('water', 120))).toMatchObject({ code: 'out-of-range' })
    expect(attempt(() => vapourPath('acetone', 70))).toMatchObject({ code: 'out-of-range' })
    expect(attempt(() => vapourPath('beer', 20))).toMatchObject({ code: 'unknown-liquid' })
  })
})
