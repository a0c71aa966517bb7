// Faults of the meter itself: the loop is as drawn, and what the display shows is not what stands there.
import type { Fault, FaultKind, Priors } from './fault.ts'
import type { Shown } from './predict.ts'
import type { LoopReading } from './readings.ts'

const asDrawn: Fault['alter'] = () => (parts) => parts
const NOTHING: Shown = { low: 0, high: 0 }
/** What is left of a steady DC on a meter set to AC. */
const AC_SHARE = 0.01

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
        ]
      : []),
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
