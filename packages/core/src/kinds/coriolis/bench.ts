// The bench's Coriolis meter: a tube with its true constants, and a transmitter with those that it holds.
import { truthIn, type Truth } from '../flow/shared.ts'
import type { MeterModel, Tell } from '../../device/index.ts'
import { coriolisDensity, coriolisMassFlow } from '../../flow/index.ts'
import { convertUnit } from '../../quantity/index.ts'
import { attempt, Refusal } from '../../refusal/index.ts'
import { atTemperature } from './setup.ts'
import type { ConstantsRead } from './tag.ts'
import { sure } from '../../sure/index.ts'

export interface CoriolisBench {
  /** Constants as printed on the tag, by key. */
  readonly tag: Readonly<Record<string, string>>
  /** Reads them, and those that are held, in the units of the tag. */
  readonly read: (texts: Readonly<Record<string, string>>) => ConstantsRead
  readonly keyed: Readonly<Record<string, string>>
  readonly temp_C: number
  readonly density_kgm3: number
  readonly cutoff_gps: number
  readonly unit: string
}
interface Hidden extends Truth {
  readonly zero_us?: number
  readonly stiffness?: number
}

const swapDigits = (text: string): string => {
  const digits = [...text]
  const at = digits.findIndex((d, i) => /\d/.test(d) && /\d/.test(digits[i + 1] ?? '') && d !== digits[i + 1])
  if (at < 0) return text
  return [...digits.slice(0, at), digits[at + 1]!, digits[at]!, ...digits.slice(at + 2)].join('')
}
/** What a transmitter keeps when the memory in the sensor fails: nothing of sensor or outputs. */
const LOST = [
  'flowCal',
  'flowTemp',
  'lowPeriod',
  'lowDensity',
  'highPeriod',
  'highDensity',
  'periodTemp',
  'highFlow',
  'sensorSerial',
  'size',
  'driveClass',
  'lrv',
  'urv',
  'cutoff',
  'source',
  'pulseBy',
  'pulseRate',
  'pulseFrequency',
  'pulsesPerKg',
  'kgPerPulse',
  'faultAction',
  'faultCurrent',
  'damping',
]

const TRUTHS: readonly Hidden[] = [
  { id: 'A', reveals: 'Nothing was wrong: the transmitter holds the tag’s constants, the zero is small.' },
  {
    id: 'B',
    reveals: 'Two digits of the flow calibration factor are swapped in the transmitter.',
    held: (k) => ({ ...k, flowCal: swapDigits(k['flowCal'] ?? '') }),
  },
  {
    id: 'C',
    reveals: 'The sensor’s memory was lost: the transmitter holds none of its constants, and its outputs fell back.',
    held: (k) => Object.fromEntries(Object.entries(k).filter(([key]) => !LOST.includes(key))),
  },
  { id: 'D', reveals: 'The zero is 8 ns off.', zero_us: 0.008 },
  { id: 'E', reveals: 'The tube has thinned: its stiffness is 6 % below the reference.', stiffness: 0.94 },
  {
    id: 'F',
    reveals: 'The flow calibration factor has lost its decimal point.',
    held: (k) => ({ ...k, flowCal: (k['flowCal'] ?? '').replace(/[.,]/, '') }),
  },
]

const SCATTER_us = 0.0002
const HEALTH_s = 20

export function coriolisMeter(bench: CoriolisBench): MeterModel {
  const truthOf = (id: string) => truthIn(TRUTHS, id)
  const numbers = (texts: Readonly<Record<string, string>>): Readonly<Record<string, number | undefined>> =>
    Object.fromEntries(Object.entries(bench.read(texts)).map(([key, v]) => [key, v instanceof Refusal ? undefined : v]))
  const own = numbers(bench.tag)
  const slope = sure(own['flowCal']) * atTemperature(own['flowTemp'] ?? 0, bench.temp_C)
  /** Period of the tube with the fluid in it, from its true constants. */
  const period = (() => {
    const { lowPeriod: p1, highPeriod: p2, lowDensity: d1, highDensity: d2, periodTemp = 0 } = own
    if (!p1 || !p2 || d1 === undefined || d2 === undefined || d1 === d2) return undefined
    const square = p1 ** 2 + ((bench.density_kgm3 - d1) / (d2 - d1)) * (p2 ** 2 - p1 ** 2)
    const left = atTemperature(periodTemp, bench.temp_C)
    return square > 0 && left > 0 ? Math.sqrt(square / left) : undefined
  })()
  return {
    cases: TRUTHS,
    keyed: bench.keyed,
    search_s: 0,
    health_s: HEALTH_s,
    begin: (practice) => ({ held: truthOf(practice).held?.(bench.keyed) ?? bench.keyed, measures: true }),
    measure(state, process, noise) {
      const flow = convertUnit(process, bench.unit, 'g/s')
      return flow / slope + (truthOf(state.practice).zero_us ?? 0.0004) + noise * SCATTER_us
    },
    show(state, _process, measured) {
      const truth = truthOf(state.practice)
      const tells: Tell[] = []
      if (period !== undefined)
        tells.push({ id: 'period', label: 'Tube period', value: period, unit: 'us', decimals: 3 })
      tells.push({ id: 'temperature', label: 'Tube temperature', value: bench.temp_C, unit: 'degC', decimals: 1 })
      const heldNumbers = numbers(state.held)
      const held = (key: string) => heldNumbers[key]
      const density =
        period === undefined
          ? undefined
          : attempt(
              () =>
                coriolisDensity({
                  lowPeriod_us: held('lowPeriod') ?? Number.NaN,
                  lowDensity_kgm3: held('lowDensity') ?? Number.NaN,
                  highPeriod_us: held('highPeriod') ?? Number.NaN,
                  highDensity_kgm3: held('highDensity') ?? Number.NaN,
                  periodTempCoeff: held('periodTemp') ?? Number.NaN,
                  period_us: period,
                  temp_C: bench.temp_C,
                }).density_kgm3,
            )
      if (typeof density === 'number' && Number.isFinite(density))
        tells.push({ id: 'density', label: 'Density', value: density, unit: 'kg/m3', decimals: 1 })
      tells.push({ id: 'drive', label: 'Drive gain', value: truth.stiffness ? 38 : 24, unit: '%', decimals: 0 })
      if (state.phase === 'health' || state.t_s > 0)
        tells.push(
          {
            id: 'stiffness-left',
            label: 'Stiffness, inlet side',
            value: 100 * (truth.stiffness ?? 1) - 0.1,
            unit: '%',
            decimals: 1,
          },
          {
            id: 'stiffness-right',
            label: 'Stiffness, outlet side',
            value: 100 * (truth.stiffness ?? 1) + 0.2,
            unit: '%',
            decimals: 1,
          },
        )
      if (measured === undefined) return { digital: undefined, tells }
      tells.unshift({ id: 'delay', label: 'Time delay', value: measured, unit: 'us', decimals: 4 })
      const [cal, coeff] = [held('flowCal'), held('flowTemp')]
      if (cal === undefined || coeff === undefined) return { digital: undefined, tells }
      const flow = attempt(
        () =>
          coriolisMassFlow({
            flowCal_gps_per_us: cal,
            timeDelay_us: measured,
            zero_us: state.zero,
            flowTempCoeff: coeff,
            temp_C: bench.temp_C,
            cutoff_gps: bench.cutoff_gps,
          }).massFlow_gps,
      )
      return { digital: flow instanceof Refusal ? undefined : convertUnit(flow, 'g/s', bench.unit), tells }
    },
  }
}
