// What a typed or read figure at a gate is taken for, and why it may be refused.
import { bufferPh } from '../analysis/index.ts'
import { errorOfSpan, LOOP_SPAN_mA } from '../check/error-of-span.ts'
import { convertUnit, formatQuantity, parseQuantity, unitOf, type QuantityName } from '../quantity/index.ts'
import { attempt, Refusal } from '../refusal/index.ts'
import { electrodeFits, onOneLine, phFit, phPoints, recognisedAt } from './electrode-taken.ts'
import { flowOfApplied } from './applied.ts'
import { refuse } from './refuse.ts'
import type { ProcedureEvent, SteadyEvidence } from './events.ts'
import type { RunState } from './state.ts'
import type { Step, Terms } from './steps.ts'
import { sure } from '../sure/index.ts'

const NEAR_TARGET_PCT = 10
const MOST_DAMPING_s = 600
/** An electrode has taken the temperature of its buffer when it moves by no more over the window, K. */
const MOST_DRIFT_K = 0.2

function loopCurrent(value_mA: number, typed: string): number {
  return value_mA >= 0 && value_mA <= 25
    ? value_mA
    : refuse('not-a-loop-current', `${typed} is not a loop current: 0 to 25 mA. Check the unit of the meter.`)
}

/** A figure as typed, in the unit a step wants. Volts across a known shunt count as a current. @throws Refusal */
export function valueFor(
  typed: string | undefined,
  quantity: QuantityName,
  unit: string,
  terms: Pick<Terms, 'shunt_Ohm'>,
): number {
  const text = typed?.trim() ?? ''
  if (text === '') return refuse('value-missing', `A figure is wanted here, in ${unitOf(unit).label}.`)
  const read = parseQuantity(text, { quantity, unit })
  if (read.ok) {
    const value = convertUnit(read.value, read.unit, unit)
    return unit === 'mA' ? loopCurrent(value, text) : value
  }
  if (unit === 'mA' && read.code === 'wrong-quantity') {
    const volts = parseQuantity(text, { quantity: 'voltage', unit: 'V' })
    if (volts.ok && !terms.shunt_Ohm)
      return refuse(
        'shunt-unknown',
        'Volts were typed, but the shunt across which they were read is not entered. Type the current, or ' +
          'enter the receiver shunt under Wire.',
      )
    if (volts.ok) return loopCurrent((convertUnit(volts.value, volts.unit, 'V') / sure(terms.shunt_Ohm)) * 1000, text)
  }
  return refuse(read.code === 'wrong-quantity' ? 'wrong-quantity' : 'not-a-figure', `“${text}”: ${read.says}`)
}

export const spanOf = (t: Terms) => Math.abs(t.urv - t.lrv)
const withUnit = (v: number, t: Terms) => formatQuantity(v, t.unit, { decimals: t.decimals + 1, trim: true })

export function outsideSensor(value: number, t: Terms): void {
  const [low, high] = [t.sensorLow ?? -Infinity, t.sensorHigh ?? Infinity]
  if (value < low || value > high)
    refuse(
      'outside-sensor',
      `${withUnit(value, t)} lies outside the sensor’s limits, ${withUnit(low, t)} to ${withUnit(high, t)}. ` +
        'Applied, it would tell nothing and may harm the sensor.',
    )
}

/** What a `reading` step should find, where that is known. */
export function expectedAt(state: RunState, step: Step): number | undefined {
  const met = step.expectedFrom === undefined ? undefined : state.values[step.expectedFrom]
  return met ?? step.reads?.expected
}

/** Correction that a `plausible` step judges, per cent of span; undefined where it is not a matter of one figure. */
export function correctionPct(state: RunState, step: Step): number | undefined {
  const id = step.judges?.[0]
  const reading = id === undefined ? undefined : state.steps.find((s) => s.id === id)
  if (!reading || reading.reads?.what === 'electrode') return undefined
  const [read, expected] = [state.values[sure(id)], expectedAt(state, reading)]
  if (read === undefined || expected === undefined) return undefined
  return errorOfSpan(read, expected, sure(reading.reads).what === 'current' ? LOOP_SPAN_mA : spanOf(state.terms))
}

type Pass = Extract<ProcedureEvent, { do: 'pass' }>

type Values = Readonly<Record<string, number>>

function foundTaken(state: RunState, event: Pass): void {
  const least = state.procedure === 'sensor-trim' || state.procedure === 'current-trim' ? 2 : 1
  if ((event.points?.length ?? 0) < least)
    refuse(
      'as-found-missing',
      `As found is missing: put at least ${least === 1 ? 'one point' : 'two points'} on record before ` +
        'anything is adjusted. Afterwards nobody can know how it was.',
    )
}

/** Without a link nothing is sampled: how still it stood is seen by eye, and said. */
export const BY_EYE: SteadyEvidence = { state: 'stable', driftPct: 0, noisePct: 0, window_s: 0, samples: 0 }
export const isByEye = ({ samples }: Pick<SteadyEvidence, 'samples'>): boolean => samples === 0

function steadyTaken(event: Pass): void {
  const s = event.steady ?? refuse('not-steady', 'Nobody has looked at the reading yet.')
  const words = {
    waiting: 'the window is not full yet',
    moving:
      `it still moves by ${Math.abs(s.driftPct).toFixed(3)} % of span over ${s.window_s} s` +
      (s.toGoPct === undefined ? '' : `, some ${Math.abs(s.toGoPct).toFixed(3)} % to go`),
    noisy: `it scatters by ${s.noisePct.toFixed(3)} % of span`,
    stable: '',
  }[s.state]
  if (isByEye(s)) {
    if (!event.words?.trim()) refuse('words-missing', 'Say on what it stood still, and for how long.')
    return
  }
  if (s.state !== 'stable') refuse('not-steady', `Not stable: ${words}. Wait, or look for the cause.`)
  if (Math.abs(s.tempDrift_K ?? 0) > MOST_DRIFT_K)
    refuse(
      'not-steady',
      `Not stable: the electrode’s temperature still moves, by ${Math.abs(sure(s.tempDrift_K)).toFixed(2)} K over ` +
        `${s.window_s} s, now ${(s.temp_C ?? 0).toFixed(1)} °C. Wait until it has that of the buffer.`,
    )
}

function appliedTaken(t: Terms, step: Step, event: Pass): Values {
  const value = flowOfApplied(event.typed, t) ?? valueFor(event.typed, t.quantity, t.unit, t)
  const target = sure(step.target)
  outsideSensor(value, t)
  if (Math.abs(value - target) > (spanOf(t) * NEAR_TARGET_PCT) / 100)
    refuse(
      'far-from-target',
      `${withUnit(value, t)} is far from the ${withUnit(target, t)} wanted here. Apply a value near ` +
        'it, or correct what was typed.',
    )
  return { [step.id]: value }
}

function readingTaken(state: RunState, step: Step, event: Pass): Values {
  const { terms: t } = state
  const reads = sure(step.reads)
  const value = valueFor(event.typed, reads.quantity, reads.unit, t)
  if (reads.what === 'electrode') {
    const which = step.gives ? recognisedAt(state, step, value, event.words) : {}
    const values = { ...state.values, ...which, [step.id]: value }
    electrodeFits(phPoints({ terms: t, values }), t.recognise && !step.gives ? t.buffers : [])
    return { [step.id]: value, ...which }
  }
  const expected = expectedAt(state, step)
  if (!step.verifies || expected === undefined) return { [step.id]: value }
  const errorPct = (100 * (value - expected)) / (reads.what === 'current' ? 16 : spanOf(t))
  if (Math.abs(errorPct) > t.tolerancePct + 1e-9)
    refuse(
      'not-verified',
      `It still reads ${errorPct > 0 ? '+' : '−'}${Math.abs(errorPct).toFixed(2)} % of span off, ` +
        `outside ± ${t.tolerancePct} %. Read again; if it stays, cancel: this run did not mend it.`,
    )
  return { [step.id]: value }
}

/** What passing a step adds to the values. @throws Refusal when its gate stays shut */
export function taken(state: RunState, step: Step, event: Pass): Values {
  const { terms: t } = state
  switch (step.kind) {
    case 'confirm':
      return {}
    case 'words':
      if (!event.words?.trim()) refuse('words-missing', `This gate asks: ${step.asks}.`)
      return {}
    case 'as-found':
      foundTaken(state, event)
      return {}
    case 'steady':
      steadyTaken(event)
      return {}
    case 'apply':
      return appliedTaken(t, step, event)
    case 'buffer': {
      const temp = valueFor(event.typed, 'temperature', 'degC', t)
      const named = step.asks === undefined ? (t.buffers ?? []) : [step.asks]
      const phs = named.map((b) => attempt(() => bufferPh(b, temp, t.ownBuffers)))
      const known = phs.find((ph) => !(ph instanceof Refusal))
      if (!known) throw sure(phs.find((ph) => ph instanceof Refusal))
      return { [step.id]: temp, ...(step.gives && !(known instanceof Refusal) ? { [step.gives]: known.ph } : {}) }
    }
    case 'reading':
      return readingTaken(state, step, event)
    case 'plausible':
      return plausibleOf(state, step)
    default:
      return refuse('wrong-event', `The gate “${step.title}” is not passed that way.`)
  }
}

function plausibleOf(state: RunState, step: Step): Readonly<Record<string, number>> {
  const { terms: t, procedure } = state
  if (procedure === 'range-change') {
    const [low, high] = [t.toLow ?? t.lrv, t.toHigh ?? t.urv]
    if (low === high) refuse('zero-span', 'The new range has no span: the current could never leave 4 mA.')
    for (const v of [low, high]) outsideSensor(v, t)
    return {}
  }
  if (procedure === 'receiver-scale') {
    if ((t.toLow ?? t.lrv) === (t.toHigh ?? t.urv))
      refuse('zero-span', 'The new scale has no span: the screen could never move.')
    return {}
  }
  if (procedure === 'damping-change') {
    const s = t.toDamping_s ?? -1
    if (!(s >= 0 && s <= MOST_DAMPING_s))
      refuse('out-of-range', `Damping is from 0 to ${MOST_DAMPING_s} s; ${s} s is not.`)
    return {}
  }
  if (procedure === 'ph-calibration') {
    const fit = phFit(state)
    if (fit.verdict === 'replace')
      refuse(
        'electrode-worn-out',
        `Slope ${fit.slopePercent.toFixed(1)} % of the ideal, offset ${fit.offset_mV.toFixed(1)} mV: no ` +
          'calibration can mend this electrode. Clean it and try again, or replace it.',
      )
    if (t.recognise) onOneLine(state, fit)
    return { slope: fit.slope_mVperPh, offset: fit.offset_mV, slopePercent: fit.slopePercent }
  }
  const correction = correctionPct(state, step)
  if (correction === undefined) return refuse('value-missing', 'The reading that is to be judged was not taken.')
  if (Math.abs(correction) > t.plausiblePct + 1e-9)
    refuse(
      'implausible',
      `The correction would be ${Math.abs(correction).toFixed(2)} % of span, above the limit of ` +
        `${t.plausiblePct} %. Something else is wrong: a valve not shut or not open, a leg not full, the wrong ` +
        'range, a damaged sensor. Find it before anything is written.',
    )
  return { [`correction-${step.id}`]: correction }
}
