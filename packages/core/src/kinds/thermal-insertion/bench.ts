// The bench's thermal meter: it cools as its real wells do, and reckons with the law that it holds.
import type { MeterModel, Tell } from '../../device/index.ts'
import { sonicNozzle, thermalDifference, thermalFlow, type NozzleGas, type ThermalLaw } from '../../flow/index.ts'
import { convertUnit } from '../../quantity/index.ts'
import { attempt, Refusal } from '../../refusal/index.ts'
import { ATMOSPHERE_kPa, truthIn, type Truth } from '../flow/shared.ts'
import { keyedNumber } from '../flow/setup-lines.ts'

interface Hidden extends Truth {
  /** Share of the cooling that is left. */
  readonly cooling?: number
  readonly zero_K?: number
}
const TRUTHS: readonly Hidden[] = [
  { id: 'A', reveals: 'Nothing was wrong.' },
  { id: 'B', reveals: 'Deposits on the heated well: it cools 8 % less.', cooling: 0.92 },
  { id: 'C', reveals: 'The thermometers have drifted apart by 0.4 K.', zero_K: 0.4 },
  {
    id: 'D',
    reveals: 'The meter holds another flow for its certificate point: a tenth more.',
    held: (k) => {
      const full = keyedNumber(k['fullFlow'])
      return full === undefined ? k : { ...k, fullFlow: `${Number((full * 1.1).toPrecision(6))} kg/h` }
    },
  },
]
const SCATTER_K = 0.01

export function thermalMeter(bench: {
  readonly law: ThermalLaw
  readonly nozzle:
    { readonly throat_mm: number; readonly dischargeCoefficient: number; readonly gas: NozzleGas } | undefined
  readonly keyed: Readonly<Record<string, string>>
  readonly unit: string
  readonly cutoff_kgph: number
  readonly baseline: readonly { readonly nozzle_kgph: number; readonly expected_kgph: number }[]
}): MeterModel {
  const truthOf = (id: string) => truthIn(TRUTHS, id)
  /** The nozzle’s jet cools more than the same flow spread over the pipe: the ratio of the baseline. */
  const ratioAt = (nozzle_kgph: number): number => {
    const steps = [...bench.baseline].sort((a, b) => a.nozzle_kgph - b.nozzle_kgph)
    if (!steps.length) return 1
    const ratio = (s: (typeof steps)[number]) => s.expected_kgph / s.nozzle_kgph
    const above = steps.findIndex((s) => s.nozzle_kgph >= nozzle_kgph)
    if (above <= 0) return ratio(steps[above < 0 ? steps.length - 1 : 0]!)
    const [a, b] = [steps[above - 1]!, steps[above]!]
    const share = (nozzle_kgph - a.nozzle_kgph) / (b.nozzle_kgph - a.nozzle_kgph)
    return ratio(a) + share * (ratio(b) - ratio(a))
  }
  const nozzleFlow = (gas: { pressure_kPa: number; temp_C: number }) =>
    bench.nozzle && gas.pressure_kPa > ATMOSPHERE_kPa * 1.9 && gas.temp_C > -273
      ? sonicNozzle({ ...bench.nozzle, ...gas }).massFlow_kgph
      : 0
  return {
    cases: TRUTHS,
    keyed: bench.keyed,
    search_s: 0,
    health_s: 0,
    begin: (practice) => ({ held: truthOf(practice).held?.(bench.keyed) ?? bench.keyed, measures: true }),
    measure(state, process, noise) {
      const truth = truthOf(state.practice)
      const through = state.gas ? nozzleFlow(state.gas) : undefined
      const flow = through === undefined ? convertUnit(process, bench.unit, 'kg/h') : through * ratioAt(through)
      const seen = Math.max(0, flow) * (truth.cooling ?? 1) ** 2
      return thermalDifference(bench.law, seen) + (truth.zero_K ?? 0) + noise * SCATTER_K
    },
    show(state, _process, measured) {
      const tells: Tell[] = []
      if (state.gas)
        tells.push({
          id: 'nozzle',
          label: 'Through the nozzle',
          value: nozzleFlow(state.gas),
          unit: 'kg/h',
          decimals: 2,
        })
      if (measured === undefined) return { digital: undefined, tells }
      tells.unshift({ id: 'difference', label: 'Temperature difference', value: measured, unit: 'K', decimals: 2 })
      const law = { ...bench.law, fullFlow: keyedNumber(state.held['fullFlow']) ?? bench.law.fullFlow }
      const flow = attempt(() => thermalFlow(law, measured))
      if (flow instanceof Refusal) return { digital: undefined, tells }
      return { digital: convertUnit(flow < bench.cutoff_kgph ? 0 : flow, 'kg/h', bench.unit), tells }
    },
  }
}
