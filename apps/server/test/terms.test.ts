// The terms of a check: where the standard stands, what is read and with what; what follows for the readings, the
// verdict and the papers.
import { PRIORS } from '@calm-loop/core/wiring'
import { USUAL_JUDGING, type Check, type FolderView, type Gear } from '@calm-loop/contract'
import { v7 as uuid } from 'uuid'
import { describe, expect, it } from 'vitest'
import { checkBegun, givenBack, good, mA, mm, readingAt, served } from './harness.ts'

const { ailsa, rona, magnus } = await served()

const METER: Gear = {
  id: uuid(),
  name: 'Fine meter',
  serial: 'F-1',
  measures: 'current',
  range: '0–24 mA',
  uncertainty: '',
  due: '2099-01-31',
  certificate: 'C-77',
  calibrated: '2026-08-01',
  ranges: [{ quantity: 'current', unit: 'mA', low: 0, high: 24, pctOfReading: 0.02, digits: 2, resolution: 0.001 }],
}
const save = (piece: object) => rona.call('saveGear', { gearId: (piece as Gear).id }, piece)
let number = 3000
/** A check begun on a new loop, with these words of what is at hand. */
async function begun(reads: object | undefined, gearIds: string[] = [], more: object = {}) {
  const b = await checkBegun(ailsa, `LT-${++number}`)
  const start = { ...b.start, gateId: uuid(), gearIds, ...(reads ? { reads } : {}), ...more }
  const checkId = uuid()
  return { ...b, checkId, answer: await ailsa.call('startCheck', { ...b, checkId }, start) }
}
const plain = (more: object = {}) => ({
  standardAt: 'level',
  standardGear: null,
  reads: [{ at: 'current', gear: null }],
  ...more,
})
const volts = (value: number) => ({ typed: `${value} V`, value, unit: 'V' })
const ohm = { typed: '250 Ω', value: 250, unit: 'Ohm' }

describe('the figures of a piece of kit', () => {
  it.each<[string, object]>([
    ['a negative uncertainty', { pctOfReading: -0.1 }],
    ['a coverage of 0', { fixed: 0.01, coverage: 0 }],
    ['digits without what the last is worth', { digits: 2 }],
    ['no figure at all', {}],
    ['a range that ends where it begins', { fixed: 0.01, low: 24 }],
    ['a unit of something else', { fixed: 0.01, unit: 'mm' }],
  ])('are refused with %s', async (_, figures) => {
    const range = { quantity: 'current', unit: 'mA', low: 0, high: 24, ...figures }
    expect((await save({ ...METER, ranges: [range] })).problem).toMatchObject({ status: 400, code: 'invalid-input' })
  })
  it('come back as they were given, and may be left out', async () => {
    good(await save(METER))
    const bare: Gear = { ...METER, id: uuid(), serial: 'B-1', name: 'Bare meter' }
    delete bare.ranges
    good(await save(bare))
    const kit = (await ailsa.call('gear')).body as Gear[]
    expect(kit.find((g) => g.id === METER.id)).toEqual(METER)
    expect(kit.find((g) => g.id === bare.id)).toEqual(bare)
  })
})

describe('what is at hand', () => {
  it('is current and controller, the input at the process, where nobody says', async () => {
    const { answer } = await begun(undefined)
    expect((answer.body as Check).terms).toEqual({
      standardAt: 'level',
      standardGear: null,
      reads: [
        { at: 'current', gear: null },
        { at: 'controller', gear: null },
      ],
      rule: 'simple',
      controllerTolerancePct: 0.5,
    })
  })
  it.each<[string, object, string]>([
    ['a standard where nothing can be applied', plain({ standardAt: 'counts' }), 'no-such-place'],
    ['a standard that there is not', plain({ standardAt: 'nowhere' }), 'no-such-place'],
    ['a place before the standard', plain({ standardAt: 'current' }), 'no-such-place'],
    ['a place twice', plain({ reads: [1, 2].map(() => ({ at: 'current', gear: null })) }), 'no-such-place'],
    ['a piece that is not among the equipment', plain({ standardGear: uuid() }), 'unknown-gear'],
    [
      'volts without their resistor',
      plain({ reads: [{ at: 'current', gear: null, stand: 'across-shunt' }] }),
      'shunt-unknown',
    ],
    [
      'a resistor of nothing',
      plain({ resistor: { ohm: { typed: '0 Ω', value: 0, unit: 'Ohm' }, tolerancePct: 0.1 } }),
      'not-positive',
    ],
  ])('refuses %s', async (_, reads, code) => {
    expect((await begun(reads)).answer.problem.code).toBe(code)
  })
  it('refuses a tolerance of 0', async () => {
    await expect(checkBegun(ailsa, `LT-${++number}`, { tolerance: '0 %' })).rejects.toThrow('not-positive')
    await expect(checkBegun(ailsa, `LT-${++number}`, { controllerTolerance: '0 %' })).rejects.toThrow('not-positive')
  })
})

describe('a reading', () => {
  it('is of the places that were said, and of nothing else', async () => {
    const b = await begun(plain({ reads: [{ at: 'controller', gear: null }] }))
    const take = async (reads: object) =>
      (await ailsa.call('takeReading', { ...b, readingId: uuid() }, { ...readingAt(0), reads })).problem?.code
    expect(await take({ current: mA(4) })).toBe('no-such-place')
    expect(await take({})).toBe('nothing-read')
    expect(await take({ controller: mA(4) })).toBe('incommensurable')
    expect(await take({ controller: mm(3) })).toBe(undefined)
  })
  it('may be volts across the check’s resistor, mA at the card, or per cent of an indicator', async () => {
    const b = await begun(
      plain({
        reads: [
          { at: 'current', gear: null, stand: 'across-shunt' },
          { at: 'indicator', gear: null },
        ],
        resistor: { ohm, tolerancePct: 0.1 },
      }),
    )
    const shown = { typed: '0.1 %', value: 0.1, unit: '%' }
    const reads = { current: volts(1.004), indicator: shown }
    good(await ailsa.call('takeReading', { ...b, readingId: uuid() }, { ...readingAt(0), reads }))
    const csv = (await ailsa.call('readingsCsv', b)).text.split('\r\n')
    const cell = (name: string) => csv[1]!.split(',')[csv[0]!.split(',').indexOf(name)]
    // 1.004 V through 250 Ω is 4.016 mA, which is what 3 mm of 3000 mean.
    expect(Number(cell('current_error_pct_of_span'))).toBeCloseTo(0, 6)
    expect(Number(cell('indicator_error_pct_of_span'))).toBeCloseTo(0, 6)
    expect(cell('origin')).toBe('typed')
    expect(cell('world')).toBe('record')
    const card = await begun(plain({ standardAt: 'current', reads: [{ at: 'counts', gear: null }] }))
    const counts = { typed: '13107 counts', value: 13107, unit: 'counts' }
    good(
      await ailsa.call(
        'takeReading',
        { ...card, readingId: uuid() },
        { ...readingAt(0), applied: mA(4), reads: { counts } },
      ),
    )
  })
  it('that can hardly be is asked about, and kept with a word', async () => {
    const b = await begun(plain())
    const take = (mA_: number, reason = '') =>
      ailsa.call('takeReading', { ...b, readingId: uuid() }, { ...readingAt(0), reads: { current: mA(mA_) }, reason })
    const asked = await take(40.16)
    expect(asked.problem).toMatchObject({
      code: 'reading-doubtful',
      detail: expect.stringContaining('no loop current'),
    })
    expect((await take(12.02)).problem.detail).toContain('read at the wrong point?')
    expect(good(await take(12.02, 'valve passes')).body).toMatchObject({ reason: 'valve passes' })
  })
})

describe('the verdict', () => {
  it('fails a loop whose controller is scaled wrong, though every current is right', async () => {
    const b = await begun(undefined)
    for (const i of [0, 1, 2, 3, 4, 5]) {
      const reading = readingAt(i, 0)
      const { applied } = reading as { applied: { value: number } }
      const shown = mm(Math.round(applied.value * 0.8 * 10) / 10)
      const body = { ...reading, reads: { ...reading.reads, controller: shown }, reason: 'as it shows' }
      good(await ailsa.call('takeReading', { ...b, readingId: uuid() }, body))
    }
    good(await ailsa.call('confirmGate', { ...b, gateId: uuid() }, givenBack()))
    good(
      await ailsa.call(
        'sign',
        { ...b, signatureId: uuid() },
        { role: 'performed', statement: 'Done.', password: 'kelp and salt' },
      ),
    )
    const { row } = (await ailsa.call('folder', b)).body as FolderView
    expect(row.state).toBe('failed')
    expect(row.nextDue).toBe(new Date().toISOString().slice(0, 10))
    expect(row.lastErrorPct).toBeCloseTo(-20, 0)
    const pdf = await ailsa.raw('GET', `/api/loops/${b.loopId}/checks/${b.checkId}/certificate.pdf`)
    expect([pdf.status, pdf.text.slice(0, 5)]).toEqual([200, '%PDF-'])
  })
  it('is by the site’s rule of the day on which it was begun', async () => {
    const guarded = { ...USUAL_JUDGING, rule: 'guarded' }
    expect((await ailsa.call('saveJudging', {}, guarded)).status).toBe(403)
    good(await magnus.call('saveJudging', {}, guarded))
    const b = await begun(plain({ reads: [{ at: 'current', gear: METER.id }] }), [METER.id])
    good(await magnus.call('saveJudging', {}, USUAL_JUDGING))
    const check = b.answer.body as Check
    expect(check.terms!.rule).toBe('guarded')
    expect(check.gear).toMatchObject([{ certificate: 'C-77', calibrated: '2026-08-01', ranges: METER.ranges }])
    expect((await magnus.call('saveJudging', {}, { ...USUAL_JUDGING, maxInterval_days: 7 })).status).toBe(400)
  })
  it('knows how often faults are met at the site, as whoever has the duty set it', async () => {
    const own = { ...PRIORS, 'leak-earth': 5 }
    expect((await ailsa.call('faultPriors')).body).toEqual({ ...PRIORS })
    expect((await ailsa.call('saveFaultPriors', {}, own)).status).toBe(403)
    expect((await magnus.call('saveFaultPriors', {}, { ...own, open: 0 })).status).toBe(400)
    expect((await magnus.call('saveFaultPriors', {}, { open: 3 })).status).toBe(400)
    good(await magnus.call('saveFaultPriors', {}, own))
    expect((await ailsa.call('faultPriors')).body).toEqual(own)
  })
})
