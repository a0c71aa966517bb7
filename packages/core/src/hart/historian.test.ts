// A device’s own past: read in pieces, with what it comes to known before.
import fc from 'fast-check'
import { expect, it } from 'vitest'
import {
  askRows,
  eventBytes,
  infoBytes,
  missingPieces,
  planHistory,
  readAskRows,
  readEvents,
  readInfo,
  readRows,
  rowBytes,
  ROWS_AT_ONCE,
  type HistoryInfo,
} from './index.ts'

const info: HistoryInfo = { rows: 1000, interval_s: 10, newest_s: 1_700_010_000, events: 3 }
const LINE = { byte_ms: 11_000 / 1200, exchange_ms: 75 }
const oldest_s = info.newest_s - 999 * 10

it('rows, events and asks come back as they were sent', () => {
  expect(readInfo(Uint8Array.from(infoBytes(info)))).toEqual(info)
  expect(() => readInfo(new Uint8Array(10))).toThrow()
  expect(readAskRows(Uint8Array.from(askRows(70_000, 6, 24)))).toEqual({ from: 70_000, step: 6, count: 24 })
  const rows = [
    { row: 5, t_s: 1_700_000_000, value: 1.5 },
    { row: 11, t_s: 1_700_000_060, value: null },
  ]
  expect(readRows(Uint8Array.from(rows.flatMap(rowBytes)))).toEqual(rows)
  const events = [{ t_s: 7, kind: 'alarm' as const, says: 'Sensor beyond its limits' }]
  expect(readEvents(Uint8Array.from(events.flatMap(eventBytes)))).toEqual(events)
})

it('an hour at the device’s own interval is 361 rows, and takes what its bytes take', () => {
  const plan = planHistory(info, { from_s: oldest_s, hours: 1, every_s: 10 }, LINE)
  expect(plan).toMatchObject({ first: 0, step: 1, rows: 361 })
  expect(plan.seconds).toBeCloseTo((plan.bytes * LINE.byte_ms + 19 * 75) / 1000, 9)
  expect(planHistory(info, { from_s: oldest_s, hours: 1, every_s: 60 }, LINE).rows).toBe(61)
  expect(planHistory(info, { from_s: info.newest_s + 99, hours: 1, every_s: 10 }, LINE).rows).toBe(0)
})

it('pieces read in any order, broken off anywhere, are all rows once', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 0, max: 900 }),
      fc.integer({ min: 1, max: 40 }),
      fc.integer({ min: 10, max: 400 }),
      fc.infiniteStream(fc.boolean()),
      (late, hours, every_s, breaks) => {
        const plan = planHistory(info, { from_s: oldest_s + late * 10, hours: hours / 10, every_s }, LINE)
        const here = new Set<number>()
        let reads = 0
        for (let pieces = missingPieces(plan, here); pieces.length; pieces = missingPieces(plan, here))
          for (const { from, count } of pieces) {
            expect(count).toBeLessThanOrEqual(ROWS_AT_ONCE)
            for (let i = 0; i < count; i++) {
              expect(here.has(from + i * plan.step)).toBe(false)
              here.add(from + i * plan.step)
              reads++
            }
            if (breaks.next().value) break
          }
        expect(reads).toBe(plan.rows)
        expect([...here].every((row) => row < info.rows)).toBe(true)
      },
    ),
    { numRuns: 200 },
  )
})
