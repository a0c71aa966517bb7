// The electrodes of the made-up plant: what two years have put on record of each.
import { bufferPh, idealSlope_mV } from '@calm-loop/core/analysis'

interface Made {
  readonly serial: string
  readonly sort: 'ph' | 'orp'
  readonly model: string
  readonly memory: boolean
  readonly entered: string
  readonly bestBefore?: string
  /** Day, share of the ideal slope in %, offset, and what else was seen. */
  readonly calibrations: readonly (readonly [
    day: string,
    slope: number,
    offset: number,
    more?: { response_s?: number; glass_MOhm?: number; bestBefore?: string },
  ])[]
  /** Tag and day at which it was plugged in, and the day on which it was taken out. */
  readonly served?: readonly (readonly [tag: string, from: string, to?: string])[]
}

/** Two good, one past its best, one out of use; the worn one stands at its point. */
const MADE: readonly Made[] = [
  {
    serial: 'G-4471',
    sort: 'ph',
    model: 'glass electrode with memory, hot liquids',
    memory: true,
    entered: '2024-11-12',
    calibrations: [
      ['2024-11-18', 99.4, 0.6, { response_s: 14, glass_MOhm: 180 }],
      ['2025-02-18', 98.7, 1.4],
      ['2025-05-20', 98.1, 2.1],
      ['2025-08-19', 97.2, 3.4],
      ['2025-11-18', 96.6, 4.2],
      ['2026-02-17', 95.4, 5.9],
      ['2026-05-19', 94.5, 7.0],
      ['2026-08-18', 93.4, 8.2, { response_s: 38 }],
    ],
    served: [['AT-221', '2024-11-19']],
  },
  {
    serial: 'G-4590',
    sort: 'ph',
    model: 'glass electrode with memory, hot liquids',
    memory: true,
    entered: '2026-10-06',
    calibrations: [['2026-11-10', 99.1, -1.8, { response_s: 12, glass_MOhm: 165, bestBefore: '2027-05-10' }]],
  },
  {
    serial: 'G-4402',
    sort: 'ph',
    model: 'glass electrode with memory, hot liquids',
    memory: true,
    entered: '2025-06-03',
    calibrations: [
      ['2025-06-10', 98.9, 1.1, { response_s: 13, glass_MOhm: 210, bestBefore: '2026-02-28' }],
      ['2026-02-24', 97.8, 3.6, { response_s: 27, glass_MOhm: 420, bestBefore: '2026-08-31' }],
    ],
  },
  {
    serial: 'R-118',
    sort: 'orp',
    model: 'platinum ring electrode',
    memory: false,
    entered: '2025-03-04',
    calibrations: [
      ['2025-03-04', 100, 1.5],
      ['2025-09-09', 100, 4],
      ['2026-03-10', 100, 5.5],
      ['2026-09-08', 100, 8],
    ],
    served: [['AT-224', '2025-03-05']],
  },
]

const BUFFERS = ['4.00', '7.00', '10.01']
const round = (v: number, digits: number) => Number(v.toFixed(digits))
function points(sort: Made['sort'], slope: number, offset: number, i: number) {
  const temp_C = round(21.6 + 1.3 * Math.sin(i * 2.1), 1)
  if (sort === 'orp') return [{ buffer: 'redox solution', temp_C, is: 220, mV: 220 + offset }]
  return BUFFERS.map((buffer) => {
    const { ph } = bufferPh(buffer, temp_C)
    return { buffer, temp_C, is: ph, mV: round((slope / 100) * idealSlope_mV(temp_C) * (ph - 7) + offset, 1) }
  })
}

/** Every electrode with its record, in order; the tag stands for the loop, which is known where it is loaded. */
export function demoElectrodes(makeId: (at: string) => string) {
  return MADE.map((m) => {
    const begun = `${m.entered}T08:10:00.000Z`
    const id = makeId(begun)
    const { serial, sort, model, memory, bestBefore } = m
    const log = [
      { at: begun, body: { what: 'entered', sort, serial, model, memory, ...(bestBefore ? { bestBefore } : {}) } },
      ...m.calibrations.map(([day, slope, offset, more = {}], i) => ({
        at: `${day}T10:40:00.000Z`,
        body: { what: 'calibrated', points: points(sort, slope, offset, i), ...more },
      })),
      ...(m.served ?? []).flatMap(([tag, from, to]) => [
        { at: `${from}T09:20:00.000Z`, body: { what: 'plugged-in', tag } },
        ...(to ? [{ at: `${to}T09:20:00.000Z`, body: { what: 'taken-out', words: 'exchanged' } }] : []),
      ]),
    ].sort((a, b) => (a.at < b.at ? -1 : 1))
    return { id, log: log.map(({ at, body }) => ({ id: makeId(at), by: 'ailsa', at, body })) }
  })
}
