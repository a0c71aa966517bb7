// The record of the kit: calibrations and their certificates, and what a piece was used for since it was last good.
import type { Gear, LoopPage } from '@calm-loop/contract'
import type { Calibration, KitBehind, KitRecord, NewCalibration } from '@calm-loop/contract/kit-record'
import { daysLater } from '@calm-loop/core/check'
import { v7 as uuid } from 'uuid'
import { describe, expect, it } from 'vitest'
import { checkBegun, good, readingAt, served, type Visitor } from './harness.ts'

const { ailsa, magnus } = await served()
const today = new Date().toISOString().slice(0, 10)
const ago = (days: number) => daysLater(today, -days)
const meter = async (): Promise<Gear> => {
  const gear: Gear = {
    ...{ id: uuid(), name: 'Loop meter', serial: 'LM-1', measures: 'current', range: '0–24 mA', uncertainty: '' },
    ...{ due: daysLater(today, 200), ranges: [{ quantity: 'current', unit: 'mA', low: 0, high: 24, fixed: 0.01 }] },
  }
  return good(await ailsa.call('saveGear', { gearId: gear.id }, gear)).body
}
const found = (day: string, error: number, more: Partial<NewCalibration> = {}): NewCalibration => ({
  ...{ day, certificate: `KV ${day}`, by: 'Kelpworks laboratory', due: daysLater(day, 365) },
  ...{ stated: 'not-stated', left: 'good', note: '' },
  points: [4, 12, 20].map((at) => ({ unit: 'mA', at, found: at + error })),
  ...more,
})
const add = (gear: Gear, body: NewCalibration, calibrationId = uuid(), who: Visitor = ailsa) =>
  who.call('addCalibration', { gearId: gear.id, calibrationId }, body)
const recordOf = async (gear: Gear): Promise<KitRecord> =>
  good(await magnus.call('kitRecord', { gearId: gear.id })).body

describe('a calibration', () => {
  it('is put on record once, and gives the piece its day, its certificate and when it is due', async () => {
    const gear = await meter()
    const id = uuid()
    const first = good(await add(gear, found(ago(400), 0.002), id)).body as Calibration
    expect(first).toMatchObject({ foundGood: true, file: null, savedBy: { name: 'Ailsa Fenn' } })
    expect(good(await add(gear, found(ago(400), 0.002), id)).body).toEqual(first)
    expect((await add(gear, found(ago(400), 0.003), id)).problem.code).toBe('id-reused')
    expect((await add(await meter(), found(ago(400), 0.002), id)).problem.code).toBe('id-reused')
    good(await add(gear, found(ago(30), 0.004)))
    // One that comes late does not take the piece back.
    good(await add(gear, found(ago(900), 0.001)))
    const { piece, calibrations, off, goodOn } = await recordOf(gear)
    expect(calibrations.map((c) => c.day)).toEqual([ago(30), ago(400), ago(900)])
    expect(piece).toMatchObject({ calibrated: ago(30), certificate: `KV ${ago(30)}`, due: daysLater(ago(30), 365) })
    expect({ off, goodOn }).toEqual({ off: null, goodOn: ago(30) })
  })
  it('of a day to come, due before it, of a unit that is none, or by who has not the duty, is refused', async () => {
    const gear = await meter()
    const code = async (body: object) => (await add(gear, body as NewCalibration)).problem.code
    expect(await code(found(daysLater(today, 9), 0))).toBe('invalid-input')
    expect(await code({ ...found(ago(9), 0), due: ago(10) })).toBe('invalid-input')
    expect(await code({ ...found(ago(9), 0), points: [{ unit: 'kraken', at: 1, found: 1 }] })).toBe('invalid-input')
    expect((await add(gear, found(ago(9), 0), uuid(), magnus)).problem.code).toBe('wrong-role')
    expect((await add({ ...gear, id: uuid() }, found(ago(9), 0))).problem.code).toBe('not-found')
    expect((await magnus.call('kitRecord', { gearId: uuid() })).status).toBe(404)
  })
  it('that leaves it off makes it due at once', async () => {
    const gear = await meter()
    good(await add(gear, found(ago(3), 0.5, { left: 'off' })))
    expect((await recordOf(gear)).piece.due).toBe(ago(4))
    // Adjusted, it is good from that day on, whatever it was found at.
    good(await add(gear, found(ago(2), 0.5)))
    good(await add(gear, found(ago(1), 0.5)))
    expect(await recordOf(gear)).toMatchObject({ goodOn: ago(2), piece: { due: daysLater(ago(1), 365) } })
  })
  it('keeps its certificate as it came, once', async () => {
    const gear = await meter()
    const ids = { gearId: gear.id, calibrationId: uuid() }
    good(await add(gear, found(ago(20), 0), ids.calibrationId))
    const path = `/api/gear/${ids.gearId}/calibrations/${ids.calibrationId}/certificate`
    const keep = (text: string, name = 'KV.pdf') => ailsa.raw('PUT', `${path}?name=${name}`, text, {})
    expect((await keep('no pdf')).problem.code).toBe('not-a-pdf')
    const kept = good(await keep('%PDF-1.7 found good')).body as Calibration
    expect(kept.file).toMatchObject({ name: 'KV.pdf' })
    expect(good(await keep('%PDF-1.7 found good')).body).toEqual(kept)
    expect((await keep('%PDF-1.7 another')).problem.code).toBe('id-reused')
    const read = await magnus.raw('GET', `${path}.pdf`)
    expect(read.text).toBe('%PDF-1.7 found good')
    expect(read.headers.get('content-disposition')).toContain('attachment')
    expect((await recordOf(gear)).calibrations[0]!.file).toEqual(kept.file)
    expect((await ailsa.raw('PUT', path.replace(ids.calibrationId, uuid()), '%PDF-1', {})).status).toBe(404)
  })
})

describe('a piece that is found off', () => {
  it('names all that it was used for since it was good, with how each verdict moves', async () => {
    const gear = await meter()
    good(await add(gear, found(ago(100), 0)))
    const withIt = async (tag: string, practice = false) => {
      const b = await checkBegun(ailsa, tag, {}, practice)
      const reads = {
        ...{ standardAt: 'level', standardGear: null },
        reads: [{ at: 'current', gear: gear.id, stand: 'in-series' }],
      }
      const ids = { ...b, checkId: uuid() }
      const start = { ...b.start, gateId: uuid(), gearIds: [gear.id], reads }
      good(await ailsa.call('startCheck', ids, start))
      for (let i = 0; i < 6; i++)
        good(await ailsa.call('takeReading', { ...ids, readingId: uuid() }, { ...readingAt(i, 0.02), takenAt: now() }))
      return ids
    }
    const now = () => new Date().toISOString()
    const used = await withIt('LT-9821')
    await withIt('LT-9822', true)
    // Nobody knows yet: it is listed, and nothing is said to move.
    expect(await recordOf(gear)).toMatchObject({
      off: null,
      goodOn: ago(100),
      uses: [{ id: used.checkId, without: null }],
    })
    // It shows 0.1 mA too little: what passed at 0.02 mA too much was 0.12 mA off.
    good(await add(gear, found(today, -0.1)))
    const { off, goodOn, uses, calibrations } = await recordOf(gear)
    expect(off).toBe(calibrations[0]!.id)
    expect(goodOn).toBe(ago(100))
    expect(uses).toHaveLength(1)
    const [use] = uses
    expect(use).toMatchObject({ loop: { tag: 'LT-9821' }, what: 'check', name: 'as-found', signed: false, words: '' })
    expect(use!.verdict!.pass).toBe(true)
    expect(use!.without!.pass).toBe(false)
    // 0.1 mA of 16 mA.
    expect(use!.movedPct).toBeCloseTo(0.625, 3)
    // A newer one that is good takes nothing of it back: what the older put in doubt is still asked for by it.
    const later = uuid()
    good(await add(gear, found(today, 0), later))
    expect(await recordOf(gear)).toMatchObject({ off: null })
    const asked = (id: string) => magnus.raw('GET', `/api/gear/${gear.id}/record?off=${id}`)
    expect(good(await asked(off!)).body).toMatchObject({ off, goodOn, uses })
    expect([(await asked(later)).status, (await asked(uuid())).status]).toEqual([404, 404])
  })
})

describe('the kit behind a loop', () => {
  it('is what its checks were done with, each with the calibration of that time and its certificate', async () => {
    const gear = await meter()
    const never = await meter()
    const now = { ...(await checkBegun(ailsa, 'LT-9823')), checkId: uuid() }
    const behind = () => magnus.call('kitBehind', { loopId: now.loopId })
    expect(good(await behind()).body).toEqual([])
    good(await ailsa.call('startCheck', now, { ...now.start, gateId: uuid(), gearIds: [gear.id, never.id] }))
    const one = (body: KitBehind[]) => body.find((k) => k.gearId === gear.id)
    expect(one(good(await behind()).body)).toMatchObject({ name: gear.name, serial: gear.serial, calibration: null })
    const [older, newer] = [uuid(), uuid()]
    good(await add(gear, found(ago(400), 0), older))
    good(await add(gear, found(ago(30), 0), newer))
    const path = `/api/gear/${gear.id}/calibrations/${newer}/certificate`
    good(await ailsa.raw('PUT', `${path}?name=KV.pdf`, '%PDF-1.7 found good', {}))
    expect(one(good(await behind()).body)!.calibration).toMatchObject({
      ...{ id: newer, day: ago(30), certificate: `KV ${ago(30)}`, file: { name: 'KV.pdf' } },
    })
    // A check knows the number of its certificate: it is gone by, also where that one is not on record.
    const own = async (certificate: string) => {
      const piece = { ...gear, id: uuid(), certificate }
      good(await ailsa.call('saveGear', { gearId: piece.id }, piece))
      const ids = { ...now, checkId: uuid() }
      good(await ailsa.call('startCheck', ids, { ...now.start, gateId: uuid(), gearIds: [piece.id] }))
      good(await add(piece, found(ago(9), 0)))
      return (good(await behind()).body as KitBehind[]).find((k) => k.gearId === piece.id)
    }
    expect(await own(`KV ${ago(9)}`)).toMatchObject({ calibration: { day: ago(9) } })
    expect(await own('KV of old')).toMatchObject({ certificate: 'KV of old', calibration: null })
    // Done at the bench for practice, it is behind nothing.
    const practised = await checkBegun(ailsa, 'LT-9824', {}, true)
    good(
      await ailsa.call(
        'startCheck',
        { ...practised, checkId: uuid() },
        { ...practised.start, gateId: uuid(), gearIds: [gear.id] },
      ),
    )
    expect(good(await magnus.call('kitBehind', practised)).body).toEqual([])
    expect((await magnus.call('kitBehind', { loopId: uuid() })).status).toBe(404)
  })
  it('of the demo opens its certificates', async () => {
    const { loops } = good(await ailsa.raw('GET', '/api/loops?q=LT-112')).body as LoopPage
    const kit = good(await magnus.call('kitBehind', { loopId: loops[0]!.id })).body as KitBehind[]
    const kept = kit.find((k) => k.calibration?.file)!
    const file = await magnus.raw(
      'GET',
      `/api/gear/${kept.gearId}/calibrations/${kept.calibration!.id}/certificate.pdf`,
    )
    expect(file.text.slice(0, 5)).toBe('%PDF-')
  })
})
