// What a wiring is energised under: the figures of the loop's entries, and which of them are missing.
import type { Device, DeviceType, Inside, Wiring } from './record.ts'
import { typeOf } from './types.ts'
import { sure } from '../sure/index.ts'

/** What the loop’s entries say about its parts; a figure not yet entered is undefined. */
export interface Conditions {
  /** Current that the transmitter wants to drive, mA. */
  readonly mA: number
  /**
   * supply V, liftOff V, shunt Ω, otherSeries Ω, maxV V, channel1Ohm and channel2Ohm Ω (the inputs of a converter);
   * of the transmitter’s plate: powerV, powerLeast, powerMost, feedLeast, feedMost V.
   */
  readonly figures: Readonly<Record<string, number | undefined>>
  /** Resistance of one core of the loop’s whole cable run, Ω. */
  readonly coreOhm: number | undefined
  /** The same per metre, for cables with a length of their own. */
  readonly coreOhmPerM: number | undefined
  /** The channel of a converter whose scale is entered, such as `1`. */
  readonly channel?: string | undefined
  /** Sensor interface type as set in the controller. */
  readonly sensorInterface?: string | undefined
  /** Whether the sensor has its target; only a discrete sensor asks. */
  readonly target?: boolean | undefined
}

export const conductorPart = (id: string): string => `w:${id}`
export const insidePart = (deviceId: string, index: number): string => `${deviceId}/${index}`

/** Figures that stand for another one while they are not given themselves. */
const STANDS_FOR: Readonly<Record<string, string>> = { channel1Ohm: 'shunt', channel2Ohm: 'shunt' }

/** What the figures of a wiring still need, as names of figures. */
export function missingFigures(wiring: Wiring, conditions: Conditions): string[] {
  const missing = new Set<string>()
  for (const device of wiring.devices) {
    const type = typeOf(device)
    for (const part of type?.inside ?? [])
      for (const value of valuesOf(part))
        if (figure(value, device, sure(type), conditions) === undefined) missing.add(STANDS_FOR[value] ?? String(value))
    if (type?.inside.some((p) => p.part === 'transmitter') && conditions.figures['liftOff'] === undefined)
      missing.add('liftOff')
  }
  if (wiring.cables.some((c) => c.length_m === undefined) && conditions.coreOhm === undefined) missing.add('cable')
  return [...missing]
}

const valuesOf = (part: Inside): readonly (number | string)[] =>
  part.part === 'resists' ? [part.ohm] : part.part === 'feeds' ? [part.volts] : 'maxV' in part ? [part.maxV] : []

/**
 * A value of a part: a figure, or the device's or the loop's figure of that name; undefined while it is not entered.
 */
export function figure(
  value: number | string,
  device: Device,
  type: DeviceType,
  conditions: Conditions,
): number | undefined {
  if (typeof value === 'number') return value
  const instead = STANDS_FOR[value]
  const found =
    device.figures?.[value] ??
    conditions.figures[value] ??
    type.figures?.[value] ??
    (instead === undefined ? undefined : conditions.figures[instead])
  return found !== undefined && Number.isFinite(found) && found > 0
    ? found
    : value === 'termination' && found === 0
      ? 0
      : undefined
}
