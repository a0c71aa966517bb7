// Range and trims of a HART device: what is refused, and what turns.
import { floatAt } from '../bytes/index.ts'
import { convertUnit, sameQuantity } from '../quantity/index.ts'
import { sure } from '../sure/index.ts'
import { measured, MOST_TRIM_mA, type HartDevice } from './device-model.ts'
import { CODE } from './status.ts'
import { symbolOf } from './units.ts'
import { refused, written, type Done, type Asked, type Doing } from './device-done.ts'

function rangeRefusal(device: HartDevice, unit: string, low: number | null, high: number | null): number {
  const inMake = (v: number | null) => (v === null ? NaN : convertUnit(v, unit, device.make.unit))
  const { upperLimit, lowerLimit } = device.make
  // The last bit of a limit told in another unit is no reason to refuse it.
  const eps = 1e-6 * (Math.abs(upperLimit) + Math.abs(lowerLimit))
  const [lrv, urv] = [inMake(low), inMake(high)]
  const out = (v: number) => !(v <= upperLimit + eps && v >= lowerLimit - eps)
  if (out(lrv) && out(urv)) return CODE.bothOut
  if (out(lrv)) return lrv < lowerLimit ? CODE.lowerTooLow : CODE.lowerTooHigh
  if (out(urv)) return urv < lowerLimit ? CODE.upperTooLow : CODE.upperTooHigh
  if (lrv === urv) return CODE.noSpan
  return Math.abs(urv - lrv) < device.make.minimumSpan ? CODE.spanSmall : CODE.done
}
export function writeRange(device: HartDevice, unit: string, low: number | null, high: number | null): Done {
  const code = rangeRefusal(device, unit, low, high)
  if (code !== CODE.done && code !== CODE.spanSmall) return refused(code)
  return { code, device: written(device, { range: { unit, lrv: sure(low), urv: sure(high) } }) }
}

/** Turns the output by what a meter outside reads while the current is fixed at `at`. */
export const currentTrim =
  (at: 4 | 20): Doing =>
  ({ device, data }) => {
    const reading = floatAt(data, 0)
    const { working } = device
    if (!working.currentOn) return refused(11)
    if (device.fixed_mA !== at) return refused(9)
    if (reading === null || reading - at > MOST_TRIM_mA) return refused(CODE.tooLarge)
    if (reading - at < -MOST_TRIM_mA) return refused(CODE.tooSmall)
    if (at === 4) {
      const change = { outputOffset_mA: working.outputOffset_mA + 4 - reading }
      return { code: CODE.done, data: data.slice(0, 4), device: written(device, change) }
    }
    const turn = 16 / (reading - 4)
    const change = {
      outputGain: working.outputGain * turn,
      outputOffset_mA: 4 + (working.outputOffset_mA - 4) * turn,
    }
    return { code: CODE.done, data: data.slice(0, 4), device: written(device, change) }
  }

export function setHere(which: 'lrv' | 'urv'): Doing {
  return ({ device, instant }) => {
    const { range } = device.working
    const here = convertUnit(measured(device, instant), device.make.unit, range.unit)
    const next = { ...range, [which]: here }
    const { code, device: after } = writeRange(device, next.unit, next.lrv, next.urv)
    return after ? { code, device: after } : refused(code === CODE.bothOut ? CODE.lowerTooHigh : code)
  }
}

/** Moves what the sensor gives so that it agrees with what is applied, at the lower or the upper trim point. */
export function sensorTrim({ device, data, instant }: Asked): Done {
  const [variable, point, code] = [data[0], data[1], data[2] ?? 0]
  const unit = symbolOf(code)
  if (variable !== 0 || (point !== 1 && point !== 2)) return refused(CODE.invalidSelection)
  if (!unit || !sameQuantity(unit, device.make.unit)) return refused(CODE.invalidSelection)
  const told = floatAt(data, 3)
  if (told === null) return refused(CODE.tooLarge)
  const applied = convertUnit(told, unit, device.make.unit)
  const seen = measured(device, instant)
  const most = 0.1 * (device.make.upperLimit - device.make.lowerLimit)
  if (applied - seen > most) return refused(CODE.tooLarge)
  if (applied - seen < -most) return refused(CODE.tooSmall)
  const { working } = device
  if (point === 1) {
    const change = { sensorOffset: working.sensorOffset + applied - seen }
    return { code: CODE.done, data: data.slice(0, 7), device: written(device, change) }
  }
  // The upper point turns about the lower range value.
  const about = convertUnit(working.range.lrv, working.range.unit, device.make.unit)
  if (Math.abs(seen - about) < device.make.minimumSpan / 2) return refused(CODE.noSpan)
  const turn = (applied - about) / (seen - about)
  const change = {
    sensorGain: working.sensorGain * turn,
    sensorOffset: about + (working.sensorOffset - about) * turn,
  }
  return { code: CODE.done, data: data.slice(0, 7), device: written(device, change) }
}
