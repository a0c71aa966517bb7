import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { study as studied } from '../../loop/index.ts'
import { spread } from '../../thread/index.ts'
import { demoEntries } from '../demo-entries.fixture.ts'
import { currentKindOf } from '../index.ts'

const KIND = 'level-from-above'
const target = (changed: Record<string, string> = {}) =>
  studied(
    currentKindOf(KIND),
    demoEntries(KIND, { watches: 'target', emptyDistance: '3000 mm', fullDistance: '500 mm', ...changed }),
  )
const codes = (changed: Record<string, string>) => target(changed).findings.map((f) => f.code)

describe('a head that watches a moving target', () => {
  it('needs no vessel, and speaks of a position', () => {
    const { missing, thread } = target()
    expect(missing.point).toEqual([])
    expect(thread.knots.slice(0, 3).map((k) => k.name)).toEqual(['Position', 'Distance', 'Reported position'])
    expect(codes({ inletDistance: '1 mm', nozzleHeight: '900 mm', vapour: 'water' })).not.toContain('beam-in-inlet')
  })
  it('turns a position into its distance and back, whatever the far end', () => {
    const end = fc.integer({ min: 1000, max: 6000 })
    fc.assert(
      fc.property(end, fc.double({ min: 0, max: 1, noNaN: true }), (far, f) => {
        const { thread } = target({ emptyDistance: `${far} mm` })
        const [position, distance] = spread(thread, 'level', f * far)
        expect(distance).toMatchObject({ known: true, value: expect.closeTo(far - f * far, 6) as number })
        expect(position).toMatchObject({ known: true })
      }),
    )
  })
  it.each([
    // 3000 mm · tan(4°) = 210 mm to each side.
    [{ armLength: '200 mm' }, 'arm-in-beam'],
    [{ armLength: '1200 mm' }, 'arm-not-usual'],
    [{ armLength: '3.5 m' }, 'arm-not-usual'],
    [{ targetWidth: '400 mm' }, 'target-narrower-than-beam'],
    [{ targetTilt: '3 deg' }, 'target-tilted'],
  ])('%j is said: %s', (changed, code) => {
    expect(codes(changed)).toContain(code)
  })
  it('on an arm of 5 to 10 ft with a plate that is wide and square has nothing to be said', () => {
    for (const armLength of ['5 ft', '8 ft', '10 ft'])
      expect(
        codes({ armLength, targetWidth: '500 mm', targetTilt: '1 deg' }).filter((c) => /arm|target/.test(c)),
      ).toEqual([])
  })
  it('none of it is said of a liquid', () => {
    expect(codes({ watches: 'liquid', armLength: '200 mm', targetWidth: '1 mm' }).join()).not.toMatch(/arm-|target-/)
  })
  it('takes a choice that is none for the one that stands there of itself', () => {
    const { figures } = studied(currentKindOf(KIND), {
      emptyDistance: demoEntries(KIND)['emptyDistance']!,
      watches: { typed: '-5' },
    })
    expect(figures.find((f) => f.id === 'overflow')).toMatchObject({ needs: ['tank depth'] })
  })
})
