// The diagnosis a technician works by: which stage, why, what to do in which order, what the loop would read
// afterwards; or nothing, or nothing that helps.
import { attempt, Refusal } from '../refusal/index.ts'
import { stageErrors, stagesSeen, type ChainAction, type StageErrors, type StageSeen } from './chain-diagnosis.ts'
import { endsTrimOf, twoPointTrimOf, zeroTrimOf, type Correction } from './plan-trims.ts'
import { sure } from '../sure/index.ts'

export type StageName = 'sensor' | 'output' | 'receiver'
export type TrimAction = Exclude<ChainAction, 'none'> | 'range-change'

/** One point as found, in the unit of the digital value; what was not read is absent. */
export interface FoundPoint {
  readonly applied: number
  readonly digital?: number | undefined
  readonly mA?: number | undefined
  readonly receiver?: number | undefined
}

export interface DiagnoseInput {
  /** Range on record, in the digital value's unit. */
  readonly lrv: number
  readonly urv: number
  readonly points: readonly FoundPoint[]
  readonly tolerancePct: number
  /** Share of the tolerance above which the site adjusts, per cent (0 … 100]. */
  readonly adjustAbovePct: number
  /** The loop carries a current; false on a digital bus. */
  readonly hasCurrent: boolean
  /** Range that the device says it holds, where it was asked. */
  readonly held?: { readonly lrv: number; readonly urv: number } | undefined
}

export interface StageJudged {
  readonly stage: StageName
  readonly seen: StageSeen
  readonly errors: StageErrors
  /** Its worst error is above the site's adjust limit. */
  readonly acts: boolean
}

export interface ActionAdvised {
  readonly action: TrimAction
  readonly why: string
  /** Where a two-point trim is made, % of span of the stage’s input, where that is not at the ends of what was read. */
  readonly at?: { readonly lowPct: number; readonly highPct: number }
  /**
   * Error of the whole chain at each point after this and every action before it, per cent of span; null where it
   * cannot be foretold.
   */
  readonly predictedPct: readonly number[] | null
  readonly predictedMaxPct: number | null
}

export type Verdict = 'leave' | 'adjust' | 'service'
export interface TrimDiagnosis {
  readonly stages: readonly StageJudged[]
  readonly chainPct: readonly number[]
  readonly chainMaxPct: number
  readonly limitPct: number
  readonly verdict: Verdict
  readonly reason: string
  readonly actions: readonly ActionAdvised[]
  /** What was not read, and so not split. */
  readonly unsplit: readonly string[]
}

const SPARE = 1e-9
const largest = (values: readonly number[]) => values.reduce((most, v) => Math.max(most, Math.abs(v)), 0)
const pctWords = (v: number) => `${v < 0 ? '−' : v > 0 ? '+' : ''}${Math.abs(v).toFixed(2)} %`
const STAGE_WORDS: Record<StageName, string> = { sensor: 'sensor', output: 'output current', receiver: 'receiver' }

interface Line {
  readonly at0: number
  readonly slope: number
  readonly left: readonly number[]
}
const lineOf = (s: StageJudged | undefined): Line => {
  if (!s) return { at0: 0, slope: 0, left: [] }
  const slope = s.errors.spanErrorPct / 100
  const left = s.seen.errors.map((e, i) => e - s.errors.zeroErrorPct - slope * s.seen.inputs[i]!)
  return { at0: s.errors.zeroErrorPct, slope, left }
}

/**
 * The stages that the readings allow to be told apart. @throws Refusal `zero-span`, `no-response`, `as-found-missing`
 */
function judge(d: DiagnoseInput, limitPct: number): { stages: StageJudged[]; chainPct: number[]; unsplit: string[] } {
  const { lrv, urv, points } = d
  if (points.length < 2)
    throw new Refusal(
      'as-found-missing',
      'As found is missing: take at least two points, apart from each other, before anything is adjusted.',
    )
  const every = (key: 'digital' | 'mA' | 'receiver') => points.every((p) => p[key] !== undefined)
  const hasDigital = every('digital')
  const hasCurrent = d.hasCurrent && every('mA')
  const hasReceiver = every('receiver')
  if (!hasDigital && !hasCurrent && !hasReceiver)
    throw new Refusal(
      'as-found-missing',
      'As found is missing: no witness was read at every point. Read the digital value, the meter or the ' +
        'receiver with each applied value.',
    )
  const valueOf = (mA: number) => lrv + ((mA - 4) / 16) * (urv - lrv)
  const callsFor = (value: number) => 4 + (16 * (value - lrv)) / (urv - lrv)
  if (lrv === urv)
    throw new Refusal('zero-span', 'Lower and upper range value are equal: there is no span to judge by.')
  // A witness not read stands where the one before it does: the stage after it then carries both errors.
  const full = points.map((p) => {
    const digital = hasDigital ? sure(p.digital) : p.applied
    const mA = hasCurrent ? sure(p.mA) : callsFor(digital)
    return { applied: p.applied, digital, mA, receiver: hasReceiver ? sure(p.receiver) : valueOf(mA) }
  })
  const seen = stagesSeen({ lrv, urv, points: full })
  const stages: StageJudged[] = []
  const add = (stage: StageName, s: StageSeen) => {
    const errors = stageErrors(s, limitPct)
    stages.push({ stage, seen: s, errors, acts: !errors.withinTolerance })
  }
  if (hasDigital) add('sensor', seen.sensor)
  if (hasCurrent) add('output', seen.output)
  if (hasReceiver) add('receiver', sure(seen.receiver))
  const unsplit = [
    ...(hasDigital ? [] : ['The digital value was not read at every point: sensor and output cannot be told apart.']),
    ...(d.hasCurrent && !hasCurrent
      ? ['The meter was not read at every point: output and receiver cannot be told apart.']
      : []),
    ...(hasReceiver ? [] : ['The receiver was not read at every point: whether it follows is not known.']),
  ]
  return { stages, chainPct: [...seen.chain], unsplit }
}

/**
 * Splits the error by stage, says why, and names the least work in order with the result foretold after each action.
 * Nothing is advised for a loop inside the site's adjust limit. @throws Refusal `as-found-missing`, `zero-span`,
 * `no-response`
 */
export function diagnose(d: DiagnoseInput): TrimDiagnosis {
  const limitPct = (d.tolerancePct * d.adjustAbovePct) / 100
  const { stages, chainPct, unsplit } = judge(d, limitPct)
  const of = (name: StageName) => stages.find((s) => s.stage === name)
  const chainMaxPct = largest(chainPct)
  const span = d.urv - d.lrv
  const heldDiffers =
    d.held !== undefined &&
    d.held.lrv !== d.held.urv &&
    Math.max(Math.abs(d.held.lrv - d.lrv), Math.abs(d.held.urv - d.urv)) >
      (Math.abs(span) * Math.max(limitPct, 0.01)) / 100

  // What the output would err by once the range is that of the record.
  const sensor = of('sensor')
  const own = { sensor: lineOf(sensor), output: lineOf(of('output')), receiver: lineOf(of('receiver')) }
  let outputSeen = of('output')?.seen
  if (heldDiffers && outputSeen) {
    const { lrv, urv } = d.held
    const meant = outputSeen.inputs.map((x, i) => x + sure(outputSeen).errors[i]!)
    const calledFor = outputSeen.inputs.map((x) => (100 * (d.lrv + (x / 100) * span - lrv)) / (urv - lrv))
    outputSeen = { inputs: outputSeen.inputs, errors: meant.map((m, i) => m - calledFor[i]!) }
  }
  const outputThen = heldDiffers && outputSeen ? stageErrors(outputSeen, limitPct) : of('output')?.errors
  const lineThen =
    outputSeen && outputThen
      ? lineOf({ stage: 'output', seen: outputSeen, errors: outputThen, acts: false })
      : own.output

  const wanted: Wanted[] = []
  const spread = (e: StageErrors) =>
    `${pctWords(e.zeroErrorPct)} of span at zero, ${pctWords(e.zeroErrorPct + e.spanErrorPct)} at full span`
  if (heldDiffers)
    wanted.push({
      action: 'range-change',
      why:
        'The device holds another range than the record: setting it costs nothing and is not an error of ' +
        'measurement.',
    })
  if (sensor?.acts) wanted.push(sensorWork(sensor, limitPct, spread(sensor.errors)))
  if (outputThen && outputThen.maxErrorPct > limitPct + SPARE)
    wanted.push(outputWork(sure(outputSeen), outputThen, limitPct, spread(outputThen)))
  const receiver = of('receiver')
  if (receiver?.acts)
    wanted.push({
      action: 'receiver-scale',
      takes: endsTrimOf(receiver.seen),
      why:
        `The current is right, the receiver shows something else: ${spread(receiver.errors)}. Its scale is set ` +
        'differently.',
    })

  const applied = points(d)
  const foretell = (work: readonly Wanted[]): number[] => {
    const off = (stage: StageName) => work.find((w) => STAGE_OF[w.action] === stage)?.takes
    const output = work.some((w) => w.action === 'range-change') ? lineThen : own.output
    const at = (line: Line, x: number, i: number, takes: Correction | undefined) =>
      line.at0 + line.slope * x + (line.left[i] ?? 0) - (takes ? takes.at0 + takes.slope * x : 0)
    return applied.map((x, i) => {
      const digital = x + at(own.sensor, x, i, off('sensor'))
      const meant = digital + at(output, digital, i, off('output'))
      return meant + at(own.receiver, meant, i, off('receiver')) - x
    })
  }
  // A plan does not end while it foretells an error above the limit and a stage is left whose trim would lessen it.
  const isService = (w: Wanted) => w.action === 'sensor-service' || w.action === 'output-service'
  const atFirst = wanted.length
  while (stages.length && !wanted.some(isService) && largest(foretell(wanted)) > limitPct + SPARE) {
    const more = stages
      .filter((s) => !wanted.some((w) => STAGE_OF[w.action] === s.stage))
      .map((s) => ({
        stage: s,
        work: trimOf(s, limitPct, heldDiffers && s.stage === 'output' ? sure(outputSeen) : s.seen),
      }))
      .map((m) => ({ ...m, leaves: largest(foretell([...wanted, m.work])) }))
      .sort((x, y) => x.leaves - y.leaves)[0]
    if (!more || more.leaves > largest(foretell(wanted)) - 1e-6) break
    const why = atFirst
      ? `What is left of the loop would still err by ${largest(foretell(wanted)).toFixed(2)} % of span; the ` +
        `${STAGE_WORDS[more.stage.stage]} has the largest share of it.`
      : `Every stage is inside the limit, but their errors add up to ${chainMaxPct.toFixed(2)} % of span. The ` +
        `${STAGE_WORDS[more.stage.stage]} has the largest share.`
    wanted.push({ ...more.work, why })
    wanted.sort((x, y) => ORDER.indexOf(x.action) - ORDER.indexOf(y.action))
  }
  const trimmed = wanted.length && !wanted.some(isService) ? largest(foretell(wanted)) : 0
  if (trimmed > d.tolerancePct + SPARE && !heldDiffers)
    wanted.push({
      action: 'sensor-service',
      why:
        `After all of it the loop would still err by ${trimmed.toFixed(2)} % of span, outside its tolerance: ` +
        'what bends is not trimmed away. Look for the cause.',
    })

  let beyond = false
  const actions = wanted.map(({ action, why, takes }, i): ActionAdvised => {
    if (isService(wanted[i]!)) beyond = true
    const predictedPct = beyond || !applied.length ? null : foretell(wanted.slice(0, i + 1))
    const inner = takes?.trim === 'two-point' && action === 'sensor-trim' && !atEnds(takes, sure(sensor).seen)
    return {
      action,
      why,
      predictedPct,
      predictedMaxPct: predictedPct && largest(predictedPct),
      ...(inner ? { at: { lowPct: takes.lowPct, highPct: takes.highPct } } : {}),
    }
  })
  const verdict: Verdict = beyond ? 'service' : actions.length ? 'adjust' : 'leave'
  return {
    stages,
    chainPct,
    chainMaxPct,
    limitPct,
    verdict,
    reason: reasonOf({ verdict, actions, d, chainMaxPct, limitPct }),
    actions,
    unsplit,
  }
}

interface Wanted {
  readonly action: TrimAction
  readonly why: string
  /** What it takes off its stage’s error. */
  readonly takes?: Correction
}
/** In the order of work. */
const ORDER: readonly TrimAction[] = [
  'range-change',
  'zero-trim',
  'sensor-trim',
  'sensor-service',
  'current-trim',
  'output-service',
  'receiver-scale',
]
const STAGE_OF: Readonly<Record<TrimAction, StageName | undefined>> = {
  'range-change': undefined,
  'zero-trim': 'sensor',
  'sensor-trim': 'sensor',
  'sensor-service': 'sensor',
  'current-trim': 'output',
  'output-service': 'output',
  'receiver-scale': 'receiver',
}

const atEnds = (c: Correction, seen: StageSeen): boolean =>
  Math.abs(c.lowPct - Math.min(...seen.inputs)) < 1e-5 && Math.abs(c.highPct - Math.max(...seen.inputs)) < 1e-5

/** The least trim of a stage, whatever it leaves. */
function trimOf({ stage, seen: own }: StageJudged, limitPct: number, seen = own): Wanted {
  if (stage === 'output') return { action: 'current-trim', why: '', takes: endsTrimOf(seen) }
  if (stage === 'receiver') return { action: 'receiver-scale', why: '', takes: endsTrimOf(seen) }
  const [zero, both] = [zeroTrimOf(seen), twoPointTrimOf(seen, limitPct)]
  return zero.leavesPct <= both.leavesPct + 0.05
    ? { action: 'zero-trim', why: '', takes: zero }
    : { action: 'sensor-trim', why: '', takes: both }
}

/** The work at a sensor that errs: zero alone, both ends, two points further in, or none that helps. */
function sensorWork({ seen, errors }: StageJudged, limitPct: number, spread: string): Wanted {
  const zero = zeroTrimOf(seen)
  if (zero.leavesPct <= limitPct + SPARE)
    return {
      action: 'zero-trim',
      takes: zero,
      why:
        `The digital value stands ${pctWords(zero.at0)} of span off where the zero is trimmed, and nearly so at ` +
        'every point: a shift, as mounting makes it. Zero alone mends it.',
    }
  const both = twoPointTrimOf(seen, limitPct)
  if (both.leavesPct > limitPct + SPARE)
    return {
      action: 'sensor-service',
      why:
        `The digital value is bent: the best trim would leave ${both.leavesPct.toFixed(2)} % of span. A trim ` +
        'moves and tilts the line; it cannot straighten it.',
    }
  const bent = atEnds(both, seen)
    ? ''
    : ` It is bent too (${errors.linearityPct.toFixed(2)} % of span beside a straight line): trimmed at its ` +
      `ends it would stay outside, at ${both.lowPct.toFixed(0)} and ${both.highPct.toFixed(0)} % it comes ` +
      'inside.'
  return {
    action: 'sensor-trim',
    takes: both,
    why: `The digital value parts from the applied one, ${spread}: zero and span both.${bent}`,
  }
}

/** The work at an output that errs. */
function outputWork(seen: StageSeen, errors: StageErrors, limitPct: number, spread: string): Wanted {
  const takes = endsTrimOf(seen)
  if (takes.leavesPct > limitPct + SPARE)
    return {
      action: 'output-service',
      why:
        `The current does not follow in a straight line (${errors.linearityPct.toFixed(2)} % of span beside it; ` +
        `trimmed at 4 and 20 mA it would still err by ${takes.leavesPct.toFixed(2)} %): look for a short ` +
        'supply, a leak or a second receiver before the output circuit is blamed.',
    }
  return { action: 'current-trim', takes, why: `The digital value is right, the current is not: ${spread}.` }
}

const points = (d: DiagnoseInput): number[] => d.points.map((p) => (100 * (p.applied - d.lrv)) / (d.urv - d.lrv))

function reasonOf({
  verdict,
  actions,
  d,
  chainMaxPct,
  limitPct,
}: {
  readonly verdict: Verdict
  readonly actions: readonly ActionAdvised[]
  readonly d: DiagnoseInput
  readonly chainMaxPct: number
  readonly limitPct: number
}): string {
  const share = `${d.adjustAbovePct} % of the tolerance, ${limitPct.toFixed(2)} % of span`
  if (verdict === 'leave')
    return (
      `Leave it alone: the worst error of the loop is ${chainMaxPct.toFixed(2)} % of span, inside the site’s ` +
      `adjust limit (${share}). Adjusting what is right only adds doubt.`
    )
  if (verdict === 'service')
    return `No trim can mend this. ${sure(actions.find((a) => a.action.endsWith('service'))).why}`
  const hides =
    chainMaxPct <= limitPct && !actions.some((a) => a.action === 'range-change')
      ? ' As a whole the loop reads right only because two errors hide each other.'
      : ''
  return `${sure(actions[0]).why}${hides}`
}

/** The diagnosis, or why there is none. */
export const diagnoseOr = (d: DiagnoseInput): TrimDiagnosis | Refusal => attempt(() => diagnose(d))
