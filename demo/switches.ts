// The discrete points of the made-up plant, how their checks went, and a month of the bagger's cycles.
import { study } from '@calm-loop/core/loop'
import type { Check, CountEntry, EdgeTrain } from '@calm-loop/contract'
import { backAndForth, withTarget } from '@calm-loop/core/check'
import { normal, seedFrom, uniform } from '@calm-loop/core/device'
import { countTerms, switchKindOf } from '@calm-loop/core/kinds'
import type { Entries } from '@calm-loop/core/kinds'
import { entryOf, later, type Author } from './record.ts'
import type { History, Plan } from './plan.ts'
import { sure } from '../packages/core/src/sure/index.ts'

const sensor = { supplyLeast: '10 V', supplyMost: '30 V', residual: '1.8 V', leakage: '0.1 mA', supply: '24 V' }
const point = (plan: Omit<Plan, 'created' | 'kind' | 'gear' | 'history'> & Partial<Plan>): Plan => ({
  kind: 'discrete-sensor',
  created: '2024-05-07T08:00:00.000Z',
  gear: [],
  history: [],
  ...plan,
})

export const SWITCHES: readonly Plan[] = [
  point({
    tag: 'ZS-501',
    service: 'Dryer gate closed',
    area: 'Drying',
    gear: ['Pocket meter P3'],
    typed: {
      ...sensor,
      device: 'Inductive sensor N8, M18',
      serial: 'N8-40112',
      controls: 'Burner release: no gate, no flame',
      tell: 'Dryer operator, radio channel 5',
      output: 'PNP',
      contact: 'NO',
      maxOut: '200 mA',
      connector: 'm12-4',
      common: 'negative',
      inputType: 'type-3',
      sensing: 'inductive, metal target',
      rated: '8 mm',
      metal: 'steel',
      face: '18 mm',
      targetSide: '30 mm',
      mountedAt: '5 mm',
      pointName: 'DRY_GATE_CLOSED',
      meansTrue: 'gate closed',
      meansFalse: 'gate open or on its way',
    },
    history: [
      { at: '2024-11-12T10:05:00.000Z', zero: -1.2, span: 0 },
      { at: '2025-11-11T10:30:00.000Z', zero: -1.9, span: 0 },
      { at: '2026-11-10T09:20:00.000Z', zero: -2.4, span: 0 },
    ],
  }),
  point({
    tag: 'ZS-502',
    service: 'Bagger ram up',
    area: 'Bagging',
    counts: true,
    gear: ['Pocket meter P3'],
    typed: {
      ...sensor,
      device: 'Magnetic cylinder sensor C4',
      serial: 'C4-20931',
      controls: 'Bagger sequence; counts sacks',
      tell: 'Bagging operator, radio channel 7',
      output: 'PNP',
      contact: 'NO',
      maxOut: '100 mA',
      connector: 'm8-3',
      common: 'negative',
      inputType: 'type-3',
      sensing: 'magnet, light or other',
      rated: '6 mm',
      mountedAt: '3 mm',
      pointName: 'BAG_RAM_UP',
      meansTrue: 'ram up',
      meansFalse: 'ram down or on its way',
      idealCycle: '40 s',
      longCycle: '60 s',
      shifts: 'Early 06:00–14:00, Late 14:00–22:00',
      days: 'Mon–Fri',
    },
    history: [{ at: '2026-10-16T12:40:00.000Z', zero: 1.6, span: 0 }],
  }),
  point({
    tag: 'ZS-503',
    service: 'Sack present',
    area: 'Bagging',
    created: '2026-11-02T07:30:00.000Z',
    note: 'First entries: this sensor on the spare channel',
    typed: {
      ...sensor,
      device: 'Inductive sensor N8, M18, NPN',
      serial: 'N8-40377',
      controls: 'Bagger sequence: fills only with a sack',
      tell: 'Bagging operator, radio channel 7',
      output: 'NPN',
      contact: 'NO',
      maxOut: '200 mA',
      residual: '1.2 V',
      connector: 'leads',
      common: 'negative',
      inputType: 'type-1',
      sensing: 'inductive, metal target',
      rated: '8 mm',
      metal: 'aluminium',
      face: '18 mm',
      mountedAt: '2.5 mm',
      pointName: 'BAG_SACK_PRESENT',
      meansTrue: 'sack on the spout',
      meansFalse: 'no sack',
    },
  }),
  point({
    tag: 'ZS-504',
    service: 'Hopper lid',
    area: 'Bagging',
    created: '2026-10-26T13:10:00.000Z',
    note: 'First entries: two-wire sensor found on an old card',
    typed: {
      ...sensor,
      device: 'Two-wire sensor T2, NC',
      serial: 'T2-11804',
      controls: 'Screw conveyor stops with the lid open',
      tell: 'Bagging operator, radio channel 7',
      output: 'two-wire',
      contact: 'NC',
      maxOut: '100 mA',
      residual: '5 V',
      leakage: '1.7 mA',
      connector: 'm12-4',
      common: 'negative',
      inputType: 'own',
      inputOhm: '4700 Ω',
      onMin: '15 V',
      offMax: '5 V',
      sensing: 'inductive, metal target',
      rated: '4 mm',
      metal: 'stainless',
      face: '12 mm',
      mountedAt: '2 mm',
      pointName: 'HOP_LID_OPEN',
      meansTrue: 'lid open',
      meansFalse: 'lid closed',
    },
  }),
  point({
    tag: 'YL-505',
    service: 'Lid beacon',
    area: 'Bagging',
    created: '2026-10-26T13:40:00.000Z',
    note: 'First entries: beacon straight on the sensor',
    typed: {
      ...sensor,
      device: 'Inductive sensor N8, M18',
      serial: 'N8-40378',
      controls: 'Beacon above the hopper',
      tell: 'Bagging operator, radio channel 7',
      output: 'PNP',
      contact: 'NC',
      maxOut: '200 mA',
      connector: 'leads',
      common: 'negative',
      drives: 'load',
      loadCurrent: '300 mA',
      sensing: 'inductive, metal target',
      rated: '8 mm',
      metal: 'steel',
      face: '18 mm',
      targetSide: '24 mm',
      mountedAt: '4 mm',
      pointName: 'HOP_LID_BEACON',
      meansTrue: 'beacon lit',
      meansFalse: 'beacon dark',
    },
  }),
]

/** The readings of a discrete check as they were taken that day. */
export function switchReadings({
  plan,
  h,
  entries,
  by,
  makeId,
}: {
  readonly plan: Plan
  readonly h: History
  readonly entries: Entries
  readonly by: Author
  readonly makeId: (at: string) => string
}) {
  const { run } = study(switchKindOf(plan.kind), entries)
  const { plan: expected, distance } = run
  let seed = seedFrom(plan.tag + h.at)
  const noise = (size: number) => {
    const [n, next] = normal(seed)
    seed = next
    return n * size
  }
  const points = backAndForth(3)
  const operate = sure(distance).expected_mm * (1 + h.zero / 100)
  const readings: Check['readings'] = points.map((p) => {
    const at = later(h.at, 90 + p.index * 65)
    const there = withTarget(p)
    const own = there ? sure(expected).present : sure(expected).absent
    const mm = (there ? operate : operate * 1.07) + noise(0.02)
    const state = (on: boolean) => entryOf(`${on ? 1 : 0} state`, 'state')
    return {
      id: makeId(at),
      seq: p.index + 1,
      pointIndex: p.index,
      percent: p.percent,
      direction: p.direction,
      applied: entryOf(`${mm.toFixed(2)} mm`, 'mm'),
      reads: {
        sensorLamp: state(own.sensorLamp),
        inputLamp: state(own.inputLamp),
        controller: state(own.controller),
        signal: entryOf(`${(sure(own.signalV) + noise(0.03)).toFixed(2)} V`, 'V'),
      },
      source: 'typed',
      origins: { applied: 'typed', sensorLamp: 'typed', inputLamp: 'typed', controller: 'typed', signal: 'typed' },
      supersedes: null,
      reason: '',
      by,
      takenAt: at,
      savedAt: later(at, 0.4),
    } as const
  })
  return {
    points,
    readings,
    tolerancePct: sure(sure(expected).distance).tolerancePct,
    range: { lrv: 0, urv: sure(distance).expected_mm, unit: 'mm' },
  }
}

const DAY_ms = 86_400_000
const FIRST = Date.UTC(2026, 9, 19)
const DAYS = 33
const REASONS = ['sack film torn', 'dust filter cleaned', 'no product', 'spout jammed', 'operator’s break']

/** Thirty-three days of the bagger: cycles by shift, standstills (some of them named), rejected sacks. */
export function monthOfCycles(
  plan: Plan,
  entries: Entries,
  by: Author,
  makeId: (at: string) => string,
): { edges: EdgeTrain[]; countLog: CountEntry[] } {
  const { patterns, days } = countTerms(entries)
  let seed = seedFrom(`${plan.tag} cycles`)
  const random = () => {
    const [u, next] = uniform(seed)
    seed = next
    return u
  }
  const gaps: number[] = []
  const countLog: CountEntry[] = []
  const start = FIRST + 6 * 3600_000 - 300_000
  let last = start
  let state = false
  const turn = (at: number) => {
    gaps.push(at - last)
    last = at
    state = !state
  }
  const iso = (ms: number) => new Date(ms).toISOString()
  for (let d = 0; d < DAYS; d++) {
    const midnight = FIRST + d * DAY_ms
    if (!days.has(new Date(midnight).getUTCDay())) continue
    for (const shift of patterns) {
      const end = midnight + shift.to_min * 60_000
      let t = midnight + shift.from_min * 60_000 + Math.round(20_000 + 60_000 * random())
      let stands = t + (1.2 + 2.4 * random()) * 3600_000
      let count = 0
      while (t < end - 60_000) {
        const dwell = Math.round(8000 + 3000 * random())
        turn(Math.round(t))
        turn(Math.round(t) + dwell)
        count++
        t += 41_000 + 9000 * random() * random() + (random() < 0.012 ? 25_000 + 40_000 * random() : 0)
        if (t > stands) {
          const from = Math.round(t)
          t += (4 + 22 * random()) * 60_000
          stands = t + (1.2 + 2.4 * random()) * 3600_000
          if (random() < 0.7 && t < end) {
            const at = iso(Math.round(t) + 600_000)
            countLog.push({
              what: 'stop',
              id: makeId(at),
              by,
              at,
              from: iso(from),
              to: iso(Math.round(t)),
              reason: REASONS[Math.floor(random() * REASONS.length)]!,
            })
          }
        }
      }
      const at = iso(end + 900_000)
      countLog.push({
        what: 'rejected',
        id: makeId(at),
        by,
        at,
        day: iso(midnight).slice(0, 10),
        shift: shift.name,
        pieces: Math.round(count * 0.025 * random()),
      })
    }
  }
  if (state) turn(last + 9000)
  const at = iso(last + 3600_000)
  return {
    edges: [
      {
        id: makeId(at),
        by,
        at,
        origin: 'file',
        note: 'controller log, October and November',
        startMs: start,
        startState: false,
        endMs: last,
        changes: gaps.length,
        gaps: gaps.join(' '),
      },
    ],
    countLog,
  }
}
