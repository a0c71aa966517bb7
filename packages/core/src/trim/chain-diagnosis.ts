// Where in the chain an error arises: sensor, output or receiver, at zero and over the span; and the least work that
// mends it.
import { fitLine } from '../analysis/ph-calibration.ts'
import { Refusal } from '../refusal/index.ts'

export interface ChainPoint {
  /** True input, the transmitter's digital value, the receiver's value: engineering units. */
  readonly applied: number
  readonly digital: number
  readonly mA: number
  readonly receiver?: number | undefined
}
export interface ChainInput {
  readonly lrv: number
  readonly urv: number
  /** Two or more. */
  readonly points: readonly ChainPoint[]
  /** ± per cent of span, for each stage. */
  readonly tolerancePct: number
}
/** Errors of one stage, per cent of span. */
export interface StageErrors {
  /** The fitted line at 0 % of the stage's own input. */
  readonly zeroErrorPct: number
  /** The line at 100 % less that at 0 %. */
  readonly spanErrorPct: number
  /** Largest magnitude measured at the points. */
  readonly maxErrorPct: number
  /** Largest magnitude of what the line leaves over. */
  readonly linearityPct: number
  readonly withinTolerance: boolean
}
export type ChainAction =
  'none' | 'zero-trim' | 'sensor-trim' | 'sensor-service' | 'current-trim' | 'output-service' | 'receiver-scale'
export interface ChainDiagnosis {
  readonly sensor: StageErrors
  readonly output: StageErrors
  readonly receiver: StageErrors | null
  /** Receiver (else mA as a value) against applied: largest magnitude. */
  readonly chainMaxErrorPct: number
  /** In the order of work. */
  readonly actions: readonly ChainAction[]
}

const SPARE = 1e-9
const NO_RESPONSE_PCT = 1

const largest = (values: readonly number[]): number => values.reduce((most, v) => Math.max(most, Math.abs(v)), 0)

/** Errors of a stage as measured at the points, against its own input, both per cent of span. */
export interface StageSeen {
  readonly inputs: readonly number[]
  readonly errors: readonly number[]
}

/** What each stage adds at each point, per cent of span. @throws Refusal `zero-span`, `no-response` */
export function stagesSeen({ lrv, urv, points }: Omit<ChainInput, 'tolerancePct'>): {
  readonly sensor: StageSeen
  readonly output: StageSeen
  readonly receiver: StageSeen | null
  readonly chain: readonly number[]
} {
  if (lrv === urv)
    throw new Refusal('zero-span', 'Lower and upper range value are equal: there is no span to judge by.')
  const pct = (value: number) => (100 * (value - lrv)) / (urv - lrv)
  const applied = points.map((p) => pct(p.applied))
  const digital = points.map((p) => pct(p.digital))
  const meant = points.map((p) => (100 * (p.mA - 4)) / 16)
  const all = points.map((p) => p.receiver)
  const receiver = all.every((v): v is number => v !== undefined) ? all.map(pct) : undefined
  const named = { applied, digital, 'loop current': meant, ...(receiver ? { receiver } : {}) }
  for (const [name, values] of Object.entries(named))
    if (Math.max(...values) - Math.min(...values) < NO_RESPONSE_PCT - SPARE)
      throw new Refusal(
        'no-response',
        `The ${name} varies by less than ${NO_RESPONSE_PCT} % of span over the points: nothing can be split by stage.`,
      )
  const less = (a: readonly number[], b: readonly number[]) => a.map((v, i) => v - b[i]!)
  return {
    sensor: { inputs: applied, errors: less(digital, applied) },
    output: { inputs: digital, errors: less(meant, digital) },
    receiver: receiver ? { inputs: meant, errors: less(receiver, meant) } : null,
    chain: less(receiver ?? meant, applied),
  }
}

export function stageErrors({ inputs, errors }: StageSeen, tolerancePct: number): StageErrors {
  const { at0, slope } = fitLine(inputs, errors)
  const left = errors.map((e, i) => e - at0 - slope * inputs[i]!)
  const maxErrorPct = largest(errors)
  return {
    zeroErrorPct: at0,
    spanErrorPct: 100 * slope,
    maxErrorPct,
    linearityPct: largest(left),
    withinTolerance: maxErrorPct <= tolerancePct + SPARE,
  }
}

/** Whether taking the fitted zero off brings every point of a stage inside. */
export const zeroAloneMends = (seen: StageSeen, errors: StageErrors, tolerancePct: number): boolean =>
  largest(seen.errors.map((e) => e - errors.zeroErrorPct)) <= tolerancePct + SPARE

/**
 * Splits the error of a chain by stage and names the least work in the right order.
 * @throws Refusal `zero-span`, `no-response`
 */
export function chainDiagnosis(input: ChainInput): ChainDiagnosis {
  const seen = stagesSeen(input)
  const { tolerancePct } = input
  const sensor = stageErrors(seen.sensor, tolerancePct)
  const output = stageErrors(seen.output, tolerancePct)
  const receiver = seen.receiver && stageErrors(seen.receiver, tolerancePct)
  const unmendable = (s: StageErrors) => s.linearityPct > tolerancePct + SPARE
  const actions: ChainAction[] = []
  if (!sensor.withinTolerance)
    actions.push(
      zeroAloneMends(seen.sensor, sensor, tolerancePct)
        ? 'zero-trim'
        : unmendable(sensor)
          ? 'sensor-service'
          : 'sensor-trim',
    )
  if (!output.withinTolerance) actions.push(unmendable(output) ? 'output-service' : 'current-trim')
  if (receiver && !receiver.withinTolerance) actions.push('receiver-scale')
  return {
    sensor,
    output,
    receiver,
    chainMaxErrorPct: largest(seen.chain),
    actions: actions.length ? actions : ['none'],
  }
}
