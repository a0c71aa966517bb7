// What three years have put on record at the loops of the made-up plant: checks, decisions, a visit, a survey.
import type { History } from './plan.ts'

export interface Past {
  readonly gear: readonly string[]
  readonly history: readonly History[]
  /** The true input of its checks is given as a current at the receiver; the controller is read. */
  readonly card?: boolean
  /** Entries changed on a day: a new version, with its reason. */
  readonly change?: { readonly at: string; readonly reason: string; readonly typed: Readonly<Record<string, string>> }
  /** Points of the chain after a trim, as `found` of the plan. */
  readonly trimmed?: { readonly at: string; readonly found: Points; readonly left: Points }
  /** An interval accepted by the reviewer. */
  readonly interval?: {
    readonly at: string
    readonly days: number
    readonly suggested: number
    readonly reason: string
  }
  /** A verification in its place: how far each point of the baseline was shown off, in %. */
  readonly verified?: { readonly at: string; readonly temp: string; readonly offs: readonly number[] }
  /** A survey logged at the point. */
  readonly survey?: {
    readonly at: string
    readonly minutes: number
    readonly unit: string
    readonly flow: number
    readonly note: string
  }
}
type Points = readonly (readonly [string, string, string, string])[]

const CARD = { card: true, gear: ['Pressure calibrator C1'] } as const
const SLOW = '2026-11-17T'

/** Every quarter for two years: an electrode drifts, and is brought back each time. */
const QUARTERS = [
  '2024-11-19',
  '2025-02-18',
  '2025-05-20',
  '2025-08-19',
  '2025-11-18',
  '2026-02-17',
  '2026-05-19',
  '2026-08-18',
]

export const PASTS: Readonly<Record<string, Past>> = {
  'FT-101': {
    ...CARD,
    history: [
      { at: '2025-05-13T08:20:00.000Z', zero: 0.02, span: 0.03 },
      { at: '2026-05-12T08:35:00.000Z', zero: 0.03, span: 0.05 },
    ],
    interval: {
      at: '2026-05-13T13:10:00.000Z',
      days: 550,
      suggested: 730,
      reason: 'Hardly drifts; the screen wash is checked weekly.',
    },
  },
  'PDT-118': {
    gear: ['Pressure calibrator C1', 'Loop meter L1'],
    history: [
      { at: '2024-06-04T09:15:00.000Z', zero: 0.05, span: 0.02 },
      { at: '2025-06-10T09:40:00.000Z', zero: 0.09, span: 0.04 },
    ],
  },
  'LT-205': {
    gear: ['Loop meter L1', 'Dip gauge D2'],
    history: [
      { at: '2025-09-23T10:05:00.000Z', zero: 0.06, span: 0.05 },
      { at: '2026-09-22T10:20:00.000Z', zero: 0.08, span: 0.07 },
      { at: '2026-10-20T14:00:00.000Z', zero: 0.9, span: 0.2, practice: true },
    ],
  },
  'LT-208': {
    gear: ['Loop meter L1', 'Dip gauge D2'],
    history: [
      { at: '2025-11-18T09:30:00.000Z', zero: 0.12, span: 0.06 },
      {
        at: `${SLOW}08:30:00.000Z`,
        zero: 0.62,
        span: 0.09,
        answer: 'Nine soda deliveries, each also weighed at the gate: no batch was short. Extraction was told.',
      },
      { at: `${SLOW}12:10:00.000Z`, zero: 0.03, span: 0.02, phase: 'as-left', changed: true },
    ],
    trimmed: {
      at: `${SLOW}10:20:00.000Z`,
      found: [
        ['0 mm', '-2782 mmH2O', '4.099 mA', '16 mm'],
        ['1300 mm', '-1442 mmH2O', '12.106 mA', '1317 mm'],
        ['2600 mm', '-102 mmH2O', '20.112 mA', '2618 mm'],
      ],
      left: [
        ['0 mm', '-2799 mmH2O', '4.001 mA', '0 mm'],
        ['1300 mm', '-1460 mmH2O', '12.002 mA', '1300 mm'],
        ['2600 mm', '-120 mmH2O', '20.003 mA', '2601 mm'],
      ],
    },
    change: {
      at: `${SLOW}11:40:00.000Z`,
      reason: 'Damping longer: the display jumped while filling',
      typed: { damping: '5 s' },
    },
  },
  'FT-210': {
    ...CARD,
    history: [
      { at: '2024-12-03T10:10:00.000Z', zero: 0.02, span: 0.04 },
      {
        at: '2025-12-02T10:25:00.000Z',
        zero: 0.03,
        span: 0.06,
        expired: 'No other calibrator on site that day; it was good when it came back.',
      },
    ],
  },
  'FT-214': {
    ...CARD,
    history: [{ at: '2025-12-09T09:50:00.000Z', zero: 0.04, span: 0.05 }],
  },
  'AT-221': {
    gear: [],
    history: QUARTERS.flatMap((day, i): History[] => [
      { at: `${day}T09:05:00.000Z`, zero: 0.16 + 0.03 * i, span: 0.05, wide: true },
      { at: `${day}T10:10:00.000Z`, zero: 0.02, span: 0.01, phase: 'as-left', wide: true },
    ]),
  },
  'AT-224': {
    ...CARD,
    history: [
      { at: '2025-09-09T11:30:00.000Z', zero: 0.06, span: 0.03 },
      { at: '2026-09-08T11:20:00.000Z', zero: 0.08, span: 0.04 },
    ],
  },
  'FT-310': {
    ...CARD,
    history: [
      { at: '2025-06-17T11:00:00.000Z', zero: 0.05, span: 0.04 },
      { at: '2026-06-16T11:20:00.000Z', zero: 0.06, span: 0.06 },
    ],
    verified: { at: '2026-06-16T12:40:00.000Z', temp: '21.4 °C', offs: [-0.6, -0.4, 0.3, 0.5] },
  },
  'FT-330': {
    ...CARD,
    history: [
      { at: '2025-07-08T13:00:00.000Z', zero: 0.12, span: 0.1 },
      { at: '2026-07-07T13:15:00.000Z', zero: 0.3, span: 0.185, rule: 'guarded' },
    ],
  },
  'FT-402': {
    ...CARD,
    history: [
      { at: '2025-10-28T08:50:00.000Z', zero: 0.1, span: 0.08 },
      { at: '2026-10-27T09:00:00.000Z', zero: 0.52, span: 0.16 },
      { at: '2026-10-27T11:30:00.000Z', zero: 0.03, span: 0.02, phase: 'as-left' },
    ],
  },
  'FT-410': {
    ...CARD,
    history: [],
    survey: {
      at: '2026-11-05T07:30:00.000Z',
      minutes: 480,
      unit: 'm3/h',
      flow: 18.4,
      note: 'Wash water return over one early shift',
    },
  },
  'FT-118': {
    ...CARD,
    history: [
      { at: '2025-04-22T09:10:00.000Z', zero: 0.03, span: 0.04 },
      { at: '2026-04-21T09:25:00.000Z', zero: 0.05, span: 0.06 },
    ],
  },
  // Checked by a current at the card: what the wrong cable adds is not seen that way.
  'TT-407': { ...CARD, history: [{ at: '2025-11-18T10:05:00.000Z', zero: 0.06, span: 0.05 }] },
  'LY-133': {
    ...CARD,
    history: [
      { at: '2026-11-10T10:00:00.000Z', zero: 0.05, span: 0.02, scaled: 1.14 },
      { at: '2026-11-10T12:20:00.000Z', zero: 0.04, span: 0.02, scaled: 1.14, phase: 'as-left' },
    ],
  },
  'ZS-504': { gear: ['Pocket meter P3'], history: [{ at: '2026-11-03T09:10:00.000Z', zero: 1.1, span: 0 }] },
}
