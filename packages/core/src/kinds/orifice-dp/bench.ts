// The bench's differential pressure transmitter: what the real plate gives it, and what it makes of that.
import { truthIn, type Truth } from '../flow/shared.ts'
import type { MeterModel, Tell } from '../../device/index.ts'
import { orificeDp, type OrificeInput } from '../../flow/index.ts'
import { convertUnit } from '../../quantity/index.ts'
import { attempt, Refusal } from '../../refusal/index.ts'
import { keyedNumber } from '../flow/setup-lines.ts'

interface Hidden extends Truth {
  readonly shift_mbar?: number
  /** Real density over entered. */
  readonly density?: number
}
const TRUTHS: readonly Hidden[] = [
  { id: 'A', reveals: 'Nothing was wrong.' },
  { id: 'B', reveals: 'The cell’s zero was shifted by its mounting: +3 mbar.', shift_mbar: 3 },
  { id: 'C', reveals: 'The fluid is a tenth denser than entered: pressure or temperature changed.', density: 1.1 },
  {
    id: 'D',
    reveals: 'The transmitter holds another differential pressure at 20 mA: a tenth more.',
    held: (k) => {
      const dp = keyedNumber(k['dpFull'])
      return dp === undefined ? k : { ...k, dpFull: `${Number((dp * 1.1).toPrecision(5))} mbar` }
    },
  },
]
const SCATTER_mbar = 0.03

export function dpMeter(bench: {
  readonly plate: Omit<OrificeInput, 'dp_kPa'>
  readonly fullDp_mbar: number
  readonly urv_kgph: number
  readonly root: boolean
  readonly cutoff_kgph: number
  readonly unit: string
  readonly keyed: Readonly<Record<string, string>>
}): MeterModel {
  const truthOf = (id: string) => truthIn(TRUTHS, id)
  return {
    cases: TRUTHS,
    keyed: bench.keyed,
    search_s: 0,
    health_s: 0,
    begin: (practice) => ({ held: truthOf(practice).held?.(bench.keyed) ?? bench.keyed, measures: true }),
    measure(state, process, noise) {
      const truth = truthOf(state.practice)
      const flow = convertUnit(process, bench.unit, 'kg/h')
      const plate = { ...bench.plate, density_kgm3: bench.plate.density_kgm3 * (truth.density ?? 1) }
      const dp = flow <= 0 ? 0 : attempt(() => orificeDp(plate, flow / 3600).dp_kPa * 10)
      return dp instanceof Refusal ? undefined : dp + (truth.shift_mbar ?? 0.04) + noise * SCATTER_mbar
    },
    show(state, _process, measured) {
      if (measured === undefined) return { digital: undefined, tells: [] }
      const dp = measured - state.zero
      const tells: Tell[] = [{ id: 'dp', label: 'Differential pressure', value: dp, unit: 'mbar', decimals: 2 }]
      const full = keyedNumber(state.held['dpFull']) ?? bench.fullDp_mbar
      if (!bench.root) return { digital: (dp * bench.fullDp_mbar) / full, tells }
      const flow = Math.sign(dp) * bench.urv_kgph * Math.sqrt(Math.abs(dp) / full)
      return { digital: convertUnit(Math.abs(flow) < bench.cutoff_kgph ? 0 : flow, 'kg/h', bench.unit), tells }
    },
  }
}
