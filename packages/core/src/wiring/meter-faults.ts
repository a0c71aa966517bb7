// Faults of the meter itself: the loop is as drawn, and what the display shows is not what stands there.
import { conductorPart } from './conditions.ts'
import type { Fault, FaultKind, Priors } from './fault.ts'
import type { Shown } from './predict.ts'
import type { LoopReading } from './readings.ts'

const asDrawn: Fault['alter'] = () => (parts) => parts
const NOTHING: Shown = { low: 0, high: 0 }
/** What is left of a steady DC on a meter set to AC. */
const AC_SHARE = 0.01

/** What a 10 A range still tells of a loop’s current: 0.01 A. */
const TEN_mA = 10
const toTen = (mA: number) => Math.round(mA / TEN_mA) * TEN_mA
/** What a meter on a small range puts into the loop, Ω. */
const BURDEN = { low: 20, high: 1000, unit: 'Ohm', decades: true } as const

/** The meter’s own resistance in each conductor along which a current was read. */
function burdens(readings: readonly LoopReading[], priors: Priors): Fault[] {
  const conductors = [...new Set(readings.flatMap((r) => (r.of === 'current' ? [r.conductor] : [])))]
  return conductors.map((id) => ({
    ...{ id: `meter-burden ${id}`, kind: 'meter-burden', usual: priors['meter-burden'], where: [id], figure: BURDEN },
    says: `The meter itself takes too much of the loop at ${id}`,
    alter: (ohm) => (parts) =>
      parts.map((p) => (p.id === conductorPart(id) && p.kind === 'resistor' ? { ...p, ohm: p.ohm + ohm } : p)),
  }))
}

type Seen = (shown: Shown, reading: LoopReading, i: number) => Shown

/** Faults that a meter can have shown in these readings. */
export function meterFaults(readings: readonly LoopReading[], priors: Priors): Fault[] {
  const currents = readings.some((r) => r.of === 'current')
  const put = (kind: FaultKind, id: string, says: string, seen: Seen): Fault => ({
    ...{ id: `${kind} ${id}`.trim(), kind, says, where: [], usual: priors[kind], alter: asDrawn, seen },
  })
  const noCurrent: Seen = (shown, { of }) => (of === 'current' ? NOTHING : shown)
  return [
    ...(currents
      ? [
          put('meter-fuse', '', 'The meter’s own mA fuse is blown', noCurrent),
          put('meter-jack', '', 'The meter’s lead is in another jack than mA', noCurrent),
          put('meter-range', '', 'The meter is on its 10 A range: it shows two digits', (shown, { of }) =>
            of === 'current' ? { low: toTen(shown.low), high: toTen(shown.high) } : shown,
          ),
          ...burdens(readings, priors),
        ]
      : []),
    put('meter-across', '', 'The meter stood on mA across a supply: its fuse is gone, it shows nothing', () => NOTHING),
    put('meter-ac', '', 'The meter is set to AC', ({ low, high }) => {
      const most = Math.max(Math.abs(low), Math.abs(high)) * AC_SHARE
      return { low: -most, high: most }
    }),
    ...readings.map((_, n) =>
      put('leads-exchanged', String(n + 1), `The meter’s leads were exchanged at reading ${n + 1}`, (shown, _r, i) =>
        i === n ? { low: -shown.high, high: -shown.low } : shown,
      ),
    ),
  ]
}
