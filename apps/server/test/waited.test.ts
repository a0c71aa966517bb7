// What was done out of coverage and comes in order when the server is reached: its times, and what it was begun by.
import { v7 as uuid } from 'uuid'
import { describe, expect, it } from 'vitest'
import { endpoints, type Check, type EndpointName, type FolderView } from '@calm-loop/contract'
import { gateWording } from '@calm-loop/core/check'
import { demoEntries, firstVersion } from '../../../packages/core/src/kinds/demo-entries.fixture.ts'
import { givenBack, good, PASSWORD, readingAt, served, type Answer, type Visitor } from './harness.ts'

const { ailsa, rona } = await served({ empty: false })
const HOUR = 3_600_000
/** Sends a write that has waited so long on its device. */
function waited(who: Visitor, name: EndpointName, params: object, body: object, ms: number): Promise<Answer> {
  const path = endpoints[name].path.replace(/:(\w+)/g, (_, k: string) => (params as Record<string, string>)[k]!)
  const headers = { 'content-type': 'application/json', 'x-waited-ms': String(ms) }
  return who.raw('PUT', path, JSON.stringify(body), headers)
}
const folderOf = async (loopId: string) => (await ailsa.call('folder', { loopId })).body as FolderView
async function loop(tag: string) {
  const ids = { loopId: uuid(), versionId: uuid(), checkId: uuid(), gateId: uuid(), backId: uuid() }
  const entries = demoEntries('level-from-above')
  good(await ailsa.call('createLoop', ids, { tag, service: 'Tank', area: 'Test', kind: 'level-from-above' }))
  const version = firstVersion(entries)
  good(await ailsa.call('saveVersion', ids, version))
  const start = {
    ...{ phase: 'as-found', percents: [0, 50, 100], gearIds: [], ambient: '', told: 'Bree', gateId: ids.gateId },
    ...{ words: gateWording('loop-in-manual', 'current'), on: { version: ids.versionId, revision: 0 } },
  }
  return { ...ids, entries, start }
}
const near = (at: string, ms: number) => Math.abs(Date.parse(at) - ms) < 30_000

describe('a check that was begun out of coverage', () => {
  it('is begun, read, given back and signed when it was, and sealed when it came; sent twice it is one', async () => {
    const l = await loop('LT-960')
    const began = Date.now() - 2 * HOUR
    const all = async () => {
      good(await waited(ailsa, 'startCheck', l, l.start, Date.now() - began))
      for (let i = 0; i < 6; i++) {
        const body = { ...readingAt(i), takenAt: new Date(began + (i + 1) * 60_000).toISOString() }
        const readingId = l.checkId.slice(0, -1) + i
        good(await waited(ailsa, 'takeReading', { ...l, readingId }, body, Date.now() - began - (i + 1) * 60_000))
      }
      good(await waited(ailsa, 'confirmGate', { ...l, gateId: l.backId }, givenBack(), HOUR + 60_000))
      const wish = { role: 'performed', statement: 'I took these readings.', password: PASSWORD }
      good(await waited(ailsa, 'sign', { ...l, signatureId: l.versionId }, wish, HOUR))
    }
    await all()
    const first = (await folderOf(l.loopId)).checks
    await all()
    const { checks } = await folderOf(l.loopId)
    expect(checks).toEqual(first)
    const [check] = checks as [Check]
    expect(near(check.startedAt, began)).toBe(true)
    expect(near(check.gates[0]!.at, began)).toBe(true)
    expect(check.readings.map((r) => Math.round((Date.parse(r.takenAt) - began) / 60_000))).toEqual([1, 2, 3, 4, 5, 6])
    const [signature] = check.signatures
    expect(near(signature!.at, Date.now() - HOUR)).toBe(true)
    expect(near(signature!.seal!.sealedAt, Date.now())).toBe(true)
    expect(signature!.standing).toBe('sealed')
  })
  it('is not begun by other entries than those that stood there', async () => {
    const l = await loop('LT-961')
    const entries = { ...l.entries, tolerance: { typed: '1 %', value: 1, unit: '%' } }
    const next = { parentId: l.versionId, parentRevision: 0, revision: 0, entries, reason: '', seal: false }
    good(await rona.call('saveVersion', { loopId: l.loopId, versionId: uuid() }, next))
    const answer = await waited(ailsa, 'startCheck', l, l.start, HOUR)
    expect(answer.problem).toMatchObject({ status: 409, code: 'version-conflict' })
    expect(answer.problem.detail).toContain('Rona Teague')
    expect((await folderOf(l.loopId)).checks).toEqual([])
  })
  it('is refused for those even where they leave the loop unfit to be checked', async () => {
    const l = await loop('LT-965')
    const { tolerance: _, ...entries } = l.entries
    const next = { parentId: l.versionId, parentRevision: 0, revision: 0, entries, reason: '', seal: false }
    good(await rona.call('saveVersion', { loopId: l.loopId, versionId: uuid() }, next))
    expect((await waited(ailsa, 'startCheck', l, l.start, HOUR)).problem.code).toBe('version-conflict')
  })
  it('does not become practice where the bench was connected meanwhile', async () => {
    const l = await loop('LT-962')
    await rona.connectBench(l.loopId)
    expect((await waited(ailsa, 'startCheck', l, l.start, HOUR)).problem.code).toBe('bench-connected')
  })
})

describe('a reading that waited', () => {
  it.each([
    ['a day ahead', 24 * HOUR],
    ['a day behind', -24 * HOUR],
  ])('on a device whose clock is %s was taken when it says by how long it waited', async (_what, off) => {
    const l = await loop(off > 0 ? 'LT-963' : 'LT-964')
    good(await waited(ailsa, 'startCheck', l, l.start, HOUR))
    const taken = Date.now() - 50 * 60_000
    const body = { ...readingAt(0), takenAt: new Date(taken + off).toISOString() }
    const ids = { ...l, readingId: uuid() }
    const [once, twice] = [
      good(await waited(ailsa, 'takeReading', ids, body, Date.now() - taken)),
      good(await waited(ailsa, 'takeReading', ids, body, Date.now() - taken + 2000)),
    ]
    expect(near((once.body as { takenAt: string }).takenAt, taken)).toBe(true)
    expect(twice.text).toBe(once.text)
    // At once, with that clock, it is refused as before.
    expect((await ailsa.call('takeReading', { ...l, readingId: uuid() }, { ...body, pointIndex: 1 })).status).toBe(422)
  })
})
