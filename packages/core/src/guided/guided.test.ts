// Guided work over HART, against the device of the core: every command of a procedure does there what it says.
import { describe, expect, it } from 'vitest'
import { bench } from '../hart/device.fixture.ts'
import { PROCEDURES } from '../procedure/index.ts'
import { heldOver, overHart, wireCommand } from './index.ts'

/** A device at 240 kPa, or at another input, told by commands of a procedure. */
function told(input = 240) {
  const b = bench()
  b.at.input = input
  return {
    ...b,
    tell(...given: Parameters<typeof wireCommand>) {
      const { command, data } = wireCommand(...given)!
      return b.send({ command, data })!.status![0]
    },
    held(unit: string, stored = true) {
      const answer = (command: number) => b.send({ command })!
      return heldOver(
        { identity: answer(0), current: answer(2), output: answer(15) },
        { unit, receiver: { low: 0, high: 100 }, stored },
      )
    },
  }
}

describe('a command of a guided procedure', () => {
  it('that writes a range says it in the unit of the plan, and the device holds it', () => {
    const { tell, held } = told()
    const before = held('bar').changes
    expect(tell({ do: 'set-range', lrv: 0, urv: 4 }, 'bar')).toBe(0)
    expect(held('bar')).toMatchObject({ lrv: 0, urv: 4, fixed_mA: null, changes: before + 1 })
    expect(held('kPa')).toMatchObject({ lrv: 0, urv: 400 })
  })
  it('that drives a current holds it until it is released', () => {
    const { tell, held } = told()
    tell({ do: 'drive', mA: 12 }, 'kPa')
    expect(held('kPa').fixed_mA).toBe(12)
    tell({ do: 'release' }, 'kPa')
    expect(held('kPa').fixed_mA).toBe(null)
  })
  it('that trims a current is refused where that current is not driven, and taken where it is', () => {
    const { tell, meter } = told()
    const trim = { do: 'current-trim', at: 20, reading: 19.9 } as const
    expect(tell(trim, 'kPa')).toBe(9)
    tell({ do: 'drive', mA: 20 }, 'kPa')
    expect(tell(trim, 'kPa')).toBe(0)
    expect(meter()).toBeGreaterThan(20.05)
  })
  it('that trims the sensor makes it read what is applied', () => {
    const { tell, at } = told()
    expect(tell({ do: 'sensor-trim', end: 'lower', value: 2.41 }, 'bar')).toBe(0)
    expect(at.device.working.sensorOffset).toBeCloseTo(1, 4)
  })
  it('that takes the zero is refused away from it', () => {
    expect(told(240).tell({ do: 'zero-trim' }, 'kPa')).toBe(9)
    expect(told(2).tell({ do: 'zero-trim' }, 'kPa')).toBe(0)
    expect(told(2).tell({ do: 'flow-zero' }, 'kPa')).toBe(0)
  })
  it('sets the damping, and the device says so; begins a self-test; stores', () => {
    const { tell, held } = told()
    expect(tell({ do: 'damping', seconds: 3 }, 'kPa')).toBe(0)
    expect(held('kPa').damping_s).toBe(3)
    expect(tell({ do: 'self-test' }, 'kPa')).toBe(0)
    expect(tell({ do: 'store' }, 'kPa')).toBe(0)
  })
  it('is sent once only where twice would be more than once', () => {
    const once = (command: Parameters<typeof wireCommand>[0]) => wireCommand(command, 'kPa')!.once
    expect(once({ do: 'current-trim', at: 4, reading: 4.01 })).toBe(true)
    expect(once({ do: 'zero-trim' })).toBe(true)
    expect(once({ do: 'drive', mA: 12 })).toBe(false)
    expect(once({ do: 'set-range', lrv: 0, urv: 1 })).toBe(false)
  })
  it('that no command of the protocol does is not made up', () => {
    expect(wireCommand({ do: 'receiver', low: 0, high: 1 }, 'kPa')).toBe(undefined)
    expect(wireCommand({ do: 'ph-calibrate', slope_mVperPh: -58, offset_mV: 1 }, 'pH')).toBe(undefined)
    expect(PROCEDURES.filter((p) => !overHart(p))).toEqual(['receiver-scale'])
  })
  it('in a unit without a code is refused', () => {
    expect(() => wireCommand({ do: 'set-range', lrv: 0, urv: 1 }, 'furlong')).toThrow(/no code/)
  })
})

describe('what a device holds', () => {
  it('in a unit of something else is refused: it is another device', () => {
    expect(() => told().held('m')).toThrow(/not this loop’s device/)
  })
  it('carries the receiver’s scale of the plan, of which it knows nothing, and whether it is stored', () => {
    const held = { receiverLow: 0, receiverHigh: 100, stored: false, lrv: 0, urv: 600 }
    expect(told().held('kPa', false)).toMatchObject(held)
  })
})
