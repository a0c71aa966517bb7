// The cheapest change: made as it says, the loop fits.
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { study } from '../../loop/index.ts'
import { demoEntries } from '../demo-entries.fixture.ts'
import { currentKindOf } from '../registry.ts'

const of = (changed: Record<string, string>) =>
  study(currentKindOf('pressure'), demoEntries('pressure', changed)).electrical
/** The entry that a sentence asks to change, and to what. */
function asked(says: string): Record<string, string> {
  const [, supply] = /supply (?:up from .* to|of) ([\d.]+) V/.exec(says) ?? []
  const [, shunt] = /shunt of ([\d.]+) Ω/.exec(says) ?? []
  const [, area] = /Lay ([\d.]+) mm²/.exec(says) ?? []
  if (supply) return { supply: `${supply} V` }
  if (shunt) return { shunt: `${shunt} Ohm` }
  if (area) return { conductor: `${area} mm2` }
  if (says.includes('in series out')) return { otherSeries: '0 Ohm' }
  if (says.includes('highest current')) return { highestCurrent: '21.5 mA', faultCurrent: '21.5 mA' }
  throw new Error(says)
}

describe('the cheapest change', () => {
  it('is none for a loop that fits', () => {
    expect(of({}).cheapest).toBeUndefined()
  })
  it('takes out a resistor before it changes a shunt, and a shunt before it lays a cable', () => {
    const thin = { supply: '14 V', liftOff: '8 V', cableLength: '100 m', conductor: '1 mm2' }
    expect(of({ ...thin, otherSeries: '100 Ohm' }).cheapest?.says).toContain('in series out')
    expect(of({ ...thin, otherSeries: '0 Ohm', shunt: '300 Ohm' }).cheapest?.says).toContain('shunt of 250 Ω')
  })
  it('turns up a supply of its own, and never a card’s', () => {
    const starved = { supply: '22 V', liftOff: '16 V', shunt: '250 Ohm', otherSeries: '40 Ohm', cableLength: '60 m' }
    expect(of({ ...starved, receiver: 'passive card' }).cheapest?.says).toMatch(/^Turn the loop supply up/)
    expect(of(starved).cheapest?.says).not.toMatch(/supply/)
  })
  it('is none where no single change would do', () => {
    expect(of({ supply: '10 V', liftOff: '40 V' }).cheapest).toBeUndefined()
  })
  it('makes the loop fit, whatever it is', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 13, max: 28 }),
        fc.integer({ min: 50, max: 600 }),
        fc.integer({ min: 0, max: 300 }),
        fc.integer({ min: 50, max: 3000 }),
        (supply, shunt, series, length) => {
          const typed = {
            supply: `${supply} V`,
            shunt: `${shunt} Ohm`,
            otherSeries: `${series} Ohm`,
            cableLength: `${length} m`,
            conductor: '0.75 mm2',
          }
          const { budget, cheapest } = of(typed)
          if (budget?.ok) expect(cheapest).toBeUndefined()
          if (!cheapest) return
          const after = of({ ...typed, ...asked(cheapest.says) }).budget!
          expect(after.ok).toBe(true)
        },
      ),
      { numRuns: 60 },
    )
  })
})
