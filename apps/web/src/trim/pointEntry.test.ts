import type { LiveReading } from '@calm-loop/contract'
import { currentKindOf, KINDS } from '@calm-loop/core/kinds'
import { chainOf, study } from '@calm-loop/core/loop'
import { formatQuantity } from '@calm-loop/core/quantity'
import { Refusal } from '@calm-loop/core/refusal'
import { knotScales } from '@calm-loop/core/thread'
import { describe, expect, it } from 'vitest'
import { demoEntries } from '../../../../packages/core/src/kinds/demo-entries.fixture.ts'
import { pointFrom, witnessEntry, witnessRows, witnessSays, type Typed } from './pointEntry.ts'

const quantity = (v: number, unit: string, decimals: number) => formatQuantity(v, unit, { decimals })
const chainFor = (kind: string, changed: Record<string, string> = {}) =>
  chainOf(study(currentKindOf(kind), demoEntries(kind, changed)))
const currents = KINDS.filter((k) => k.family === 'current').map((k) => k.id)
const NOTHING: Typed = { applied: '', digital: '', current: '', receiver: '' }
const refusal = (made: ReturnType<typeof pointFrom>): Refusal => {
  if (!(made instanceof Refusal)) throw new Error('was not refused')
  return made
}
const live = (more: Partial<LiveReading> = {}): LiveReading => ({
  t_s: 1,
  reference: 12.5,
  wanted: 12.5,
  moving: false,
  knots: {},
  ...more,
})

describe.each(currents)('the witnesses of %s', (id) => {
  const chain = chainFor(id)
  const rows = witnessRows(chain, undefined, quantity)
  it('are what is applied, the digital value, the meter and the receiver, each in its own unit', () => {
    expect(rows.map((r) => r.key)).toEqual([
      'applied',
      'digital',
      ...(chain.hasCurrent ? (['current'] as const) : []),
      'receiver',
    ])
    expect(rows.map((r) => r.unit)).toEqual([
      chain.applied.unit,
      chain.digital.unit,
      ...(chain.hasCurrent ? ['mA'] : []),
      chain.controller.unit,
    ])
    expect(rows.every((r) => r.live === '' && r.label && r.help)).toBe(true)
  })
  it('say what is live at each', () => {
    const knots = { digital: 12.5, current: 12, controller: 12.5 }
    for (const row of witnessRows(chain, live({ knots }), quantity)) expect(row.live).toMatch(/^12[.]\d/)
  })
  it('make a point in the middle of the range, and refuse a word', () => {
    const { low, high } = knotScales(chain.thread)[0]!
    const middle = `${Number(((low! + high!) / 2).toPrecision(6))} ${chain.process.unit}`
    const made = pointFrom(chain, rows, { ...NOTHING, applied: middle, current: '12.01 mA' })
    if (made instanceof Refusal) throw made
    expect(made.applied.typed).toBe(middle)
    expect(made.current).toEqual({ typed: '12.01 mA', value: 12.01, unit: 'mA' })
    expect([made.digital, made.receiver]).toEqual([null, null])
    expect(refusal(pointFrom(chain, rows, { ...NOTHING, applied: middle, current: 'high' })).message).toContain('high')
  })
})

describe('a point', () => {
  const chain = chainFor('pressure')
  const rows = witnessRows(chain, undefined, quantity)
  const row = (key: string) => rows.find((r) => r.key === key)!
  it('without what is applied, or without a witness, is not one', () => {
    expect(refusal(pointFrom(chain, rows, { ...NOTHING, current: '12 mA' })).code).toBe('value-missing')
    expect(refusal(pointFrom(chain, rows, { ...NOTHING, applied: '300 mbar' })).code).toBe('no-witness')
    expect(refusal(pointFrom(chain, rows, { ...NOTHING, applied: '  ', digital: '1' })).code).toBe('value-missing')
  })
  it('keeps what was typed as it was typed', () => {
    const made = pointFrom(chain, rows, { ...NOTHING, applied: ' 300 mbar ', receiver: '299,5' })
    if (made instanceof Refusal) throw made
    expect(made.applied.typed).toBe('300 mbar')
    expect(made.receiver).toMatchObject({ typed: '299,5', value: 299.5 })
  })
  it('may be read as volts across the shunt, where that is entered', () => {
    expect(witnessEntry(chain, row('current'), '3.002 V')).toEqual({ typed: '3.002 V', value: 3.002, unit: 'V' })
    expect(witnessSays(chain, row('current'), '3.002 V', quantity)).toMatch(/^= 12\.008\smA through 250\sΩ$/)
    const trimmed = { ...chain, shunt_Ohm: 249.9 }
    expect(witnessSays(trimmed, row('current'), '3.002 V', quantity)).toMatch(/through 249\.9\sΩ$/)
    const bare = { ...chain, shunt_Ohm: undefined }
    expect(witnessSays(bare, row('current'), '3.002 V', quantity)).toContain('the shunt across which they were read')
  })
  it.each([
    ['current', '', ''],
    ['current', '12 mA', ''],
    ['digital', '300 mbar', ''],
    ['current', '26 mA', 'is not a loop current'],
    ['current', '12 bar', '12 bar'],
    ['digital', 'much', 'much'],
  ] as const)('says under %s with “%s”: %s', (key, text, says) => {
    const said = witnessSays(chain, row(key), text, quantity)
    if (says) expect(said).toContain(says)
    else expect(said).toBe('')
  })
  it('applied at a bench is in the digital value’s unit', () => {
    const level = chainFor('level-from-above')
    const transmitter = { bench: { value: 1, what: 'x' } } as unknown as LiveReading['transmitter']
    const [applied] = witnessRows(level, live({ transmitter }), quantity)
    expect(applied!.unit).toBe(level.digital.unit)
  })
})
