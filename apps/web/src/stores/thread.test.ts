import type { Check, Reading } from '@calm-loop/contract'
import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, describe, expect, it } from 'vitest'
import { demoEntries } from '../../../../packages/core/src/kinds/demo-entries.fixture.ts'
import { useFolder } from './folder.ts'
import { folderOf } from './server.fixture.ts'
import { useSwitching } from './switching.ts'
import { useThread } from './thread.ts'
import { useWorking } from './working.ts'

/** Opens a loop as it came from the server, without a server. */
function opened(kind: string, changed: Record<string, string> = {}, checks: readonly unknown[] = []) {
  const folder = useFolder()
  const entries = demoEntries(kind, changed)
  folder.view = folderOf(kind, entries, { checks: checks as Check[] })
  folder.entries = entries
  return folder
}
const read = (value: number, unit: string) => ({ typed: `${value} ${unit}`, value, unit })
const reading = (percent: number, applied: number, reads: Reading['reads']) =>
  ({
    id: `r${percent}`,
    percent,
    pointIndex: percent,
    applied: read(applied, 'mbar'),
    reads,
    takenAt: '2027-01-01',
  }) as unknown as Reading
const check = (readings: readonly Reading[]) => ({ id: 'c', readings, points: [], signatures: [], imported: false })
const at = (id: string) => {
  const value = useThread().valueAt(id)
  return value?.known ? value.value : undefined
}

beforeEach(() => setActivePinia(createPinia()))

describe('the thread', () => {
  it('stands in the middle of the range until somebody types', () => {
    opened('pressure')
    const thread = useThread()
    const { low, high } = thread.scales[0]!
    expect(thread.source?.value).toBeCloseTo((low! + high!) / 2, 9)
    expect(at('current')).toBeCloseTo(12, 6)
  })
  it('follows the knot that is held, both ways, and goes back when it is let go', () => {
    opened('pressure')
    const thread = useThread()
    thread.hold('current', 8, '8')
    expect(thread.held).toEqual({ knotId: 'current', value: 8, typed: '8' })
    const { low, high } = thread.scales[0]!
    expect(at(thread.thread!.knots[0]!.id)).toBeCloseTo(low! + (high! - low!) / 4, 6)
    expect(thread.reads).toEqual({})
    thread.release()
    expect(at('current')).toBeCloseTo(12, 6)
  })
  it('does not hold a knot that the loop has no more', () => {
    opened('pressure')
    const thread = useThread()
    thread.hold('no-such-knot', 8)
    expect(at('current')).toBeCloseTo(12, 6)
  })
  it('shows the last check’s reading nearest to the middle, and where it parts', () => {
    const { low, high } = (opened('pressure'), useThread().scales[0]!)
    const middle = (low! + high!) / 2
    const readings = [0, 50, 100].map((p) =>
      reading(p, low! + (p / 100) * (high! - low!), { current: read(4 + 0.16 * p + 0.4, 'mA') }),
    )
    opened('pressure', {}, [check(readings), check([])])
    const thread = useThread()
    expect(thread.lastReading?.percent).toBe(50)
    expect(thread.source?.value).toBeCloseTo(middle, 6)
    expect(thread.reads['current']).toBeCloseTo(12.4, 9)
    expect(thread.parted.length).toBeGreaterThan(0)
  })
  it('shows what is live before what was read, and a pinned moment before both', () => {
    opened('pressure')
    const thread = useThread()
    const process = thread.thread!.knots[0]!.id
    const { low, high } = thread.scales[0]!
    thread.live = { [process]: low!, current: 4.02 }
    expect(at('current')).toBeCloseTo(4, 6)
    expect(thread.reads['current']).toBe(4.02)
    thread.pinned = { reads: { [process]: high!, current: 19.9 }, caption: 'As found' }
    expect(at('current')).toBeCloseTo(20, 6)
    expect(thread.reads['current']).toBe(19.9)
    thread.hold('current', 10)
    expect(thread.reads['current']).toBe(4.02)
  })
  it('of half-entered data says what is missing, and shows no number', () => {
    const folder = opened('pressure')
    const { urv: _, ...rest } = folder.entries
    folder.entries = rest
    const thread = useThread()
    for (const value of thread.expected) if (value.known) expect(Number.isFinite(value.value)).toBe(true)
    expect(at('current')).toBe(undefined)
  })
})

describe('the working that is shown', () => {
  it('is that of a figure, and follows the typing', () => {
    const folder = opened('pressure')
    const working = useWorking()
    expect(working.shown).toBe(undefined)
    const figure = folder.study!.figures.find((f) => f.working)!
    working.show({ figure: figure.id })
    expect(working.shown?.formula).toBe(figure.working!().formula)
    folder.entries = demoEntries('pressure', { cableLength: '1000 m' })
    working.show({ figure: 'cable-ohm' })
    expect(working.shown?.numbers).toContain('1000')
    working.hide()
    expect(working.shown).toBe(undefined)
  })
  it('of a knot is that of the stage through which its value came', () => {
    opened('pressure')
    const working = useWorking()
    working.show({ knot: 'current' })
    expect(working.shown?.numbers).toMatch(/mA/)
    working.show({ knot: 'no-such-knot' })
    expect(() => working.shown).not.toThrow()
  })
  it('of half-entered data is nothing', () => {
    const folder = opened('pressure')
    const { urv: _, ...rest } = folder.entries
    folder.entries = rest
    const working = useWorking()
    working.show({ knot: 'current' })
    expect(working.shown).toBe(undefined)
  })
})

describe('what a discrete point shows', () => {
  it('is the last reading with the target there, until something is live', () => {
    const readings = [
      { percent: 0, reads: { controller: { value: 0 } }, takenAt: '2027-01-01T10:00' },
      { percent: 100, reads: { controller: { value: 1 }, signal: { value: 22.1 } }, takenAt: '2027-01-02T10:00' },
    ] as unknown as Reading[]
    opened('discrete-sensor', {}, [check(readings), check([])])
    const switching = useSwitching()
    expect(switching.read).toEqual({
      shown: { controller: 1, signal: 22.1 },
      target: true,
      caption: 'Read 2027-01-02, target present.',
    })
    switching.live = { shown: { controller: 0 }, target: false, caption: 'Live' }
    expect(switching.read?.shown).toEqual({ controller: 0 })
  })
  it('is nothing where nothing was read with the target there', () => {
    opened('discrete-sensor', {}, [check([{ percent: 0, reads: {} } as unknown as Reading])])
    expect(useSwitching().read).toBe(undefined)
  })
})
