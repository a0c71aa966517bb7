// What a loop’s own circuit says to whoever gets no answer from its device.
import { formatQuantity as show } from '../quantity/index.ts'
import type { Study } from './study.ts'

/** Ω between which a device can be talked to across a loop. Source: IEC 61784-1 CPF 9. */
const TALKS = { least: 230, most: 1100 }

/**
 * Where nothing answers: what the circuit as drawn gives in resistance, then in volts at the device. Empty where the
 * plan does not tell, or the point has no current.
 */
export function circuitWords(study: Study): string[] {
  if (study.family !== 'current') return []
  const { budget, liftOffV } = study.electrical
  if (!budget || liftOffV === undefined) return []
  const ohm = show(budget.totalOhm, 'Ohm', { decimals: 0 })
  const range = `${TALKS.least} to ${TALKS.most} Ω`
  const resistance =
    budget.totalOhm < TALKS.least
      ? `The loop as drawn has ${ohm} outside the device, below ${range}: the supply shorts the signal. Put 250 Ω in ` +
        'series at the cabinet and clip on across it.'
      : budget.totalOhm > TALKS.most
        ? `The loop as drawn has ${ohm} outside the device, above ${range}: too much for the signal. Clip on nearer ` +
          'to the device.'
        : `The loop as drawn has ${ohm} outside the device, within ${range}: clip on at the device’s terminals, or ` +
          'across that resistance, never across the supply.'
  const at20 = show(budget.voltsAtTransmitter20mA, 'V', { decimals: 1 })
  const lift = show(liftOffV, 'V', { decimals: 1 })
  const power = budget.ok
    ? `As drawn the device has ${at20} at 20 mA and lifts off at ${lift}: measure at its terminals that it is there, ` +
      'the right way round.'
    : `As drawn the device has only ${at20} at 20 mA and lifts off at ${lift}: it may have no power. Measure at its ` +
      'terminals.'
  return [resistance, power]
}
