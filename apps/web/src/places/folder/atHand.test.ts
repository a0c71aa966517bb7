import { USUAL_JUDGING, type Gear } from '@calm-loop/contract'
import { currentKindOf } from '@calm-loop/core/kinds'
import { study, type CurrentStudy } from '@calm-loop/core/loop'
import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { demoEntries } from '../../../../../packages/core/src/kinds/demo-entries.fixture.ts'
import { gearOf, NOT_READ, piecesFor, proofLines, readsOf, usualChoice, type Chosen } from './atHand.ts'

const kit = JSON.parse(readFileSync('demo/kit.json', 'utf8')) as Gear[]
const idOf = (name: string) => kit.find((g) => g.name.startsWith(name))!.id
const known = (changed: Record<string, string> = {}): CurrentStudy =>
  study(currentKindOf('pressure'), demoEntries('pressure', changed))
const TODAY = '2026-11-28'
const at = { percents: [0, 50, 100], judging: USUAL_JUDGING, today: TODAY }
const choose = (more: Partial<Chosen>): Chosen => ({ ...usualChoice(known(), kit, TODAY), ...more })
const reading = (gear: string, id = 'current') => ({ [id]: { ...NOT_READ, read: true, gear } })

describe('what is at hand', () => {
  it('is the process, the current and the controller, with the first piece in date that has figures', () => {
    const chosen = usualChoice(known(), kit, TODAY)
    expect(readsOf(known(), chosen)).toEqual({
      standardAt: 'process',
      standardGear: idOf('Pressure calibrator'),
      reads: [
        { at: 'current', gear: idOf('Loop meter'), stand: 'in-series' },
        { at: 'controller', gear: null },
      ],
    })
    // In 2028 nothing is in date any more.
    expect(usualChoice(known(), kit, '2028-01-01').standardGear).toBe('')
  })
  it('is refused in words until it can be read', () => {
    expect(readsOf(known(), choose({ places: {} }))).toMatch(/at least one place/)
    const volts = { current: { ...NOT_READ, read: true, stand: 'across-shunt' as const } }
    expect(readsOf(known(), choose({ places: volts }))).toMatch(/enter the resistor/)
    const ohm = { typed: '250 Ω', value: 250, unit: 'Ohm' }
    const made = readsOf(known(), choose({ places: volts, resistor: ohm, resistorPct: 0.1, ambient_C: 12 }))
    expect(made).toMatchObject({ resistor: { ohm, tolerancePct: 0.1 }, ambient_C: 12 })
  })
  it('names each piece once', () => {
    const chosen = choose({ places: { ...reading(idOf('Pressure')), ...reading('', 'controller') } })
    const made = readsOf(known(), chosen)
    expect(typeof made === 'string' ? made : gearOf(made)).toEqual([idOf('Pressure calibrator')])
  })
  it('offers what can read a quantity, and what has no figures last', () => {
    expect(piecesFor(kit, 'voltage').map((g) => g.name)).toEqual(['Pocket meter P3'])
    expect(piecesFor(kit, 'temperature').map((g) => g.name)).toEqual(['Dry block B1', 'Glass thermometer G4'])
  })
})

describe('what the kit proves', () => {
  const lines = (chosen: Chosen, changed: Record<string, string> = {}) => {
    const made = readsOf(known(changed), chosen)
    if (typeof made === 'string') throw new Error(made)
    return proofLines(known(changed), made, kit, at)
  }
  it('is said before the work, with the piece that would do', () => {
    const [line] = lines(choose({ places: reading(idOf('Pocket meter')) }), { tolerance: '0.2 %' })
    expect(line!.enough).toBe(false)
    expect(line!.says).toMatch(
      /^Pocket meter P3 with Pressure calibrator C1 cannot prove ±0\.2 %: ratio 0\.\d, 4 wanted\. Loop meter L1 would: ratio \d+\.\d\.$/,
    )
  })
  it('is enough where the tolerance is wide', () => {
    const both = lines(choose({ places: { ...reading(idOf('Loop meter')), ...reading('', 'controller') } }))
    expect(both.map((l) => [l.witness.id, l.enough])).toEqual([
      ['current', true],
      ['controller', true],
    ])
  })
  it('is nothing where the kit has no figures, and where none of it would do that is said', () => {
    const [bare] = lines(choose({ standardGear: idOf('Glass'), places: reading(idOf('Loop meter')) }))
    expect(bare).toMatchObject({ ratio: undefined, enough: false })
    expect(bare!.says).toContain('without uncertainty')
    const [fine] = lines(choose({ places: reading(idOf('Loop meter')) }), { tolerance: '0.005 %' })
    expect(fine!.says).toContain('Nothing in the kit would.')
  })
  it('is nothing without a tolerance or points', () => {
    const made = readsOf(known(), choose({}))
    if (typeof made === 'string') throw new Error(made)
    expect(proofLines(known(), made, kit, { ...at, percents: [] })).toEqual([])
  })
})
