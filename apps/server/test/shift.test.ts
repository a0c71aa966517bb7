// Handing the shift over: what was done and by whom, what stands open and how it was left, read by the next.
import type { HandedOver, Shift } from '@calm-loop/contract'
import { v7 as uuid } from 'uuid'
import { describe, expect, it } from 'vitest'
import { checkBegun, givenBack, good, PASSWORD, readingAt, served, type Visitor } from './harness.ts'

const { ailsa, rona, magnus } = await served()
const begun = new Date(Date.now() - 3_600_000).toISOString()
const shiftOf = async (from = begun, who: Visitor = magnus): Promise<Shift> =>
  good(await who.raw('GET', `/api/shift?from=${from}`)).body
const doneAt = (shift: Shift, tag: string) => shift.done.filter((d) => d.loop?.tag === tag)
const openAt = (shift: Shift, tag: string) => shift.open.filter((o) => o.loop.tag === tag)

describe('a shift', () => {
  it('says who did what where, and which loop was not given back', async () => {
    const b = await checkBegun(ailsa, 'LT-9841')
    for (let i = 0; i < 2; i++)
      good(
        await ailsa.call(
          'takeReading',
          { ...b, readingId: uuid() },
          { ...readingAt(i), takenAt: new Date().toISOString() },
        ),
      )
    const shift = await shiftOf()
    const [line] = doneAt(shift, 'LT-9841')
    expect(line!.by.name).toBe('Ailsa Fenn')
    expect(line!.what).toContainEqual({ words: 'began a check as found', times: 1 })
    expect(line!.what).toContainEqual({ words: 'took readings', times: 2 })
    const [open] = openAt(shift, 'LT-9841')
    expect(open).toMatchObject({ sort: 'check', words: 'check as found, 2 readings, not signed' })
    expect(open!.left[0]).toMatch(/^not given back: .*Told: Bree/)
    // Given back and signed, nothing of it is open.
    for (let i = 2; i < 6; i++)
      good(
        await ailsa.call(
          'takeReading',
          { ...b, readingId: uuid() },
          { ...readingAt(i), takenAt: new Date().toISOString() },
        ),
      )
    good(await ailsa.call('confirmGate', { ...b, gateId: uuid() }, givenBack()))
    const sign = { role: 'performed', statement: 'I took these readings.', password: PASSWORD }
    good(await ailsa.call('sign', { ...b, signatureId: uuid() }, sign))
    const after = await shiftOf()
    expect(openAt(after, 'LT-9841')).toEqual([])
    expect(doneAt(after, 'LT-9841')[0]!.what.map((w) => w.words)).toContain('signed a check')
  })
  it('never shows practice as work, and says where something simulated answers', async () => {
    await checkBegun(rona, 'LT-9842', {}, true)
    const shift = await shiftOf()
    const words = doneAt(shift, 'LT-9842').flatMap((d) => d.what.map((w) => w.words))
    expect(words).toContain('practised at the bench')
    expect(words).not.toContain('began a check as found')
    expect(openAt(shift, 'LT-9842')).toMatchObject([{ sort: 'practice', by: { name: 'Rona Teague' } }])
  })
  it('of no length, or of weeks, is refused', async () => {
    const code = async (from: string) => (await magnus.raw('GET', `/api/shift?from=${from}`)).problem.code
    expect(await code(new Date(Date.now() + 9e5).toISOString())).toBe('invalid-input')
    expect(await code('2020-01-01T00:00:00.000Z')).toBe('invalid-input')
    expect(await code('yesterday')).toBe('invalid-input')
  })
})

describe('a shift that is handed over', () => {
  it('stays as it stood, is read by the next, and goes on paper', async () => {
    const b = await checkBegun(ailsa, 'LT-9843')
    const handoverId = uuid()
    const body = { from: begun, words: 'Gland of the head is still wet.' }
    expect((await magnus.call('handOver', { handoverId }, body)).problem.code).toBe('wrong-role')
    const handed = good(await ailsa.call('handOver', { handoverId }, body)).body as HandedOver
    expect(openAt(handed.shift, 'LT-9843')).toHaveLength(1)
    expect(good(await ailsa.call('handOver', { handoverId }, body)).body).toEqual(handed)
    expect((await ailsa.call('handOver', { handoverId }, { ...body, words: '' })).problem.code).toBe('id-reused')
    good(await ailsa.call('confirmGate', { ...b, gateId: uuid() }, givenBack()))
    const read = good(await magnus.call('readHandover', { handoverId })).body as HandedOver
    expect(read.read).toMatchObject([{ by: { name: 'Magnus Orrin' } }])
    expect(good(await magnus.call('readHandover', { handoverId })).body).toEqual(read)
    const [listed] = good(await rona.call('handovers')).body as HandedOver[]
    expect(listed).toEqual(read)
    expect(listed!.shift).toEqual(handed.shift)
    expect((await rona.call('readHandover', { handoverId: uuid() })).status).toBe(404)
    const pdf = await rona.raw('GET', `/api/handovers/${handoverId}.pdf`)
    expect(pdf.headers.get('content-type')).toContain('application/pdf')
    expect(pdf.text.startsWith('%PDF-')).toBe(true)
  })
})
