// Range stage of a two-wire point: faults of the entries that hold whatever it measures.
import type { Finding, FindingCode } from '../../findings/index.ts'
import { formatQuantity as show } from '../../quantity/index.ts'
import type { MovableProcess } from '../kind.ts'
import type { Reader } from '../reader.ts'
import { channelAt, controllerEnds, inputTypeOf, isConverter, shareAt } from './input-type.ts'

type Stop = Omit<Finding, 'grade' | 'sure'>

/** Ends that are one, and figures that no filter or limit can have. */
function spanFindings(r: Reader, unit: string, scaleUnit: string): Finding[] {
  const findings: Finding[] = []
  const [lrv, urv] = [r.in('lrv', unit), r.in('urv', unit)]
  const [low, high] = controllerEnds(r, scaleUnit)
  const stop = (f: Stop) => findings.push({ grade: 'stop', sure: 'Certain.', ...f })
  if (lrv !== undefined && lrv === urv)
    stop({
      code: 'range-zero-span',
      fields: ['lrv', 'urv'],
      what: 'Lower and upper range value are equal.',
      why: 'The current could never leave 4 mA: there is no span.',
      action: 'Enter two different values.',
    })
  if (low !== undefined && low === high)
    stop({
      code: 'receiver-zero-span',
      fields: ['receiverLow', 'receiverHigh'],
      what: 'The controller shows the same value at 4 and at 20 mA.',
      why: 'The screen could never move.',
      action: 'Enter the two ends of the controller’s scale.',
    })
  const counted = r.text('cardCounts') === 'shown'
  const [cl, ch] = counted ? [r.in('countsLow', 'counts'), r.in('countsHigh', 'counts')] : []
  if (cl !== undefined && cl === ch)
    stop({
      code: 'counts-zero-span',
      fields: ['countsLow', 'countsHigh'],
      what: 'The card’s counts at 4 and at 20 mA are equal.',
      why: 'The reading could never move.',
      action: 'Take both from the card’s manual.',
    })
  if ((r.in('tolerance', '%') ?? 1) <= 0)
    stop({
      code: 'tolerance-not-positive',
      fields: ['tolerance'],
      what: 'The tolerance is not above 0 %.',
      why: 'No loop could ever pass.',
      action: 'Enter the largest error the process can live with.',
    })
  if ((r.in('damping', 's') ?? 0) < 0)
    stop({
      code: 'damping-negative',
      fields: ['damping'],
      what: 'The damping is below 0 s.',
      why: 'No filter works that way.',
      action: 'Enter 0 s or more.',
    })
  return findings
}

/** Whether two scales, each from 4 to 20 mA, run opposite ways. */
const runOpposite = ([a, b]: readonly [number, number], [c, d]: readonly [number, number]): boolean =>
  b - a > 0 !== d - c > 0

/** The transmitter's range against the controller's scale, where both speak of one quantity. */
function endsFindings(r: Reader, unit: string): Finding[] {
  const [lrv, urv] = [r.in('lrv', unit), r.in('urv', unit)]
  const [low, high] = controllerEnds(r, unit)
  if (lrv === undefined || urv === undefined || low === undefined || high === undefined) return []
  if (lrv === urv || low === high) return []
  const apart = Math.max(Math.abs(low - lrv), Math.abs(high - urv))
  if (apart <= 1e-6 * Math.abs(urv - lrv)) return []
  const scale = (v: number) => show(v, unit, { trim: true })
  if (runOpposite([lrv, urv], [low, high]))
    return [
      {
        code: 'ends-reversed',
        grade: 'look',
        fields: ['lrv', 'urv', 'receiverLow', 'receiverHigh'],
        what:
          `The transmitter sends ${scale(lrv)} to ${scale(urv)}, the controller shows ${scale(low)} to ` +
          `${scale(high)}: they run opposite ways.`,
        why:
          `At 4 mA the transmitter means ${scale(lrv)} and the operator reads ${scale(low)}; at 20 mA ${scale(urv)} ` +
          `and ${scale(high)}. That they agree somewhere between is chance.`,
        sure: 'Nearly certain.',
        action: 'Exchange the two ends of one of them.',
      },
    ]
  return [
    {
      code: 'ends-disagree',
      grade: 'look',
      fields: ['lrv', 'urv', 'receiverLow', 'receiverHigh'],
      what:
        `The transmitter sends ${scale(lrv)} to ${scale(urv)}, the controller shows ${scale(low)} to ` +
        `${scale(high)}.`,
      why:
        `Halfway up, at 12 mA, the transmitter means ${scale((lrv + urv) / 2)} and the operator reads ` +
        `${scale((low + high) / 2)}.`,
      sure: 'Probable; on purpose only where the controller converts.',
      action: 'Make both ends of the wire agree.',
    },
  ]
}

/** Another scale on the same wire against the one it repeats. */
function repeaterFindings(r: Reader, unit: string, shown?: string): Finding[] {
  const findings: Finding[] = []
  const scaleUnit = shown ?? unit
  type Pair = readonly [number | undefined, number | undefined]
  const readAt = (what: string, fields: readonly string[], [a, b]: Pair, code: FindingCode) => {
    const [c, d] = shown ? controllerEnds(r, scaleUnit) : [r.in('lrv', unit), r.in('urv', unit)]
    if (a === undefined || b === undefined || c === undefined || d === undefined || a === b || c === d) return
    const apart = Math.max(Math.abs(a - c), Math.abs(b - d))
    if (apart <= 1e-6 * Math.abs(d - c)) return
    const scale = (v: number) => show(v, scaleUnit, { trim: true })
    findings.push({
      code,
      grade: 'look',
      fields,
      what:
        `From 4 to 20 mA the ${what} shows ${scale(a)} to ${scale(b)}, ` +
        `${shown ? 'the controller' : 'the transmitter'} ${scale(c)} to ${scale(d)}.`,
      why: runOpposite([a, b], [c, d])
        ? `They run opposite ways: at 4 mA it shows ${scale(a)} where ${scale(c)} is meant, at 20 mA ${scale(b)} ` +
          `where ${scale(d)} is.`
        : `Halfway up, at 12 mA, it shows ${scale((a + b) / 2)} where ${scale((c + d) / 2)} is meant.`,
      sure: 'Nearly certain.',
      action: 'Set its scale to the same two values.',
    })
  }
  if (r.text('second') === 'loop indicator')
    readAt(
      'loop indicator',
      ['indicatorLow', 'indicatorHigh'],
      [r.in('indicatorLow', scaleUnit), r.in('indicatorHigh', scaleUnit)],
      'indicator-disagrees',
    )
  if (isConverter(r))
    readAt(
      'converter channel',
      ['inputType', 'channelLow', 'channelHigh'],
      [channelAt(r, 4, scaleUnit), channelAt(r, 20, scaleUnit)],
      'channel-disagrees',
    )
  return findings
}

/** Of the channel's scale: below and above it a signal is no longer read. */
const OVERDRIVEN = 1.05
const UNDERDRIVEN = -0.05
const HALF_USED = 0.55

/** The loop's 4 to 20 mA against the input that reads it. */
function inputFindings(r: Reader): Finding[] {
  const type = inputTypeOf(r)
  const shunt = r.in('shunt', 'Ohm')
  if (!type || (type.takes === 'voltage' && (shunt === undefined || shunt <= 0))) return []
  const [low, high] = [shareAt(type, 4, shunt ?? 1), shareAt(type, 20, shunt ?? 1)]
  const read = (mA: number) =>
    type.takes === 'current' ? show(mA, 'mA', { trim: true }) : show((mA * (shunt ?? 1)) / 1000, 'V', { trim: true })
  const outside = high > OVERDRIVEN || low < UNDERDRIVEN
  if (!outside && high - low > HALF_USED) return []
  return [
    {
      code: 'signal-outside-input',
      grade: outside ? 'stop' : 'look',
      fields: ['inputType', 'shunt'],
      what: `The loop gives this input ${read(4)} to ${read(20)}, and it takes ${type.name}.`,
      why: outside
        ? 'Beyond its scale it shows the end of it, or a fault, whatever the loop carries.'
        : 'Most of its scale is never used: it reads coarsely, and a scale entered for all of it reads wrong.',
      sure: 'Certain, if resistor and input type are entered right.',
      action:
        type.takes === 'current' ? 'Set the input to mA of the loop.' : 'Use 250 Ω for 1–5 V, or another input type.',
    },
  ]
}

/**
 * Faults of the range entries that hold for every kind. @param shown unit of the receiver, where it shows another
 * quantity
 */
export function rangeFindings(r: Reader, unit: string, shown?: string): Finding[] {
  const findings = [
    ...spanFindings(r, unit, shown ?? unit),
    ...(shown ? [] : endsFindings(r, unit)),
    ...repeaterFindings(r, unit, shown),
    ...inputFindings(r),
  ]
  const fault = r.in('faultCurrent', 'mA')
  const action = r.text('faultAction')
  if (fault !== undefined && ((action === 'low' && fault > 3.6) || (action === 'high' && fault < 21)))
    findings.push({
      code: 'fault-current-in-range',
      grade: 'look',
      fields: ['faultAction', 'faultCurrent'],
      what: `${show(fault, 'mA', { trim: true })} is not a fault signal in the ${action} direction.`,
      why: 'The controller would take a broken transmitter for a measurement.',
      sure: 'Certain after NAMUR NE 43; some older cards differ.',
      action: action === 'low' ? 'Set it to 3.6 mA or less.' : 'Set it to 21 mA or more.',
    })
  return findings
}

/** A process that the bench can move a little beyond both ends of the range. Undefined while the range is. */
export function rangeProcess(r: Reader, unit: string): MovableProcess | undefined {
  const [a, b] = [r.in('lrv', unit), r.in('urv', unit)]
  if (a === undefined || b === undefined || a === b) return undefined
  const span = Math.abs(b - a)
  return {
    lowest: Math.min(a, b) - span * 0.02,
    highest: Math.max(a, b) + span * 0.02,
    ratePerSecond: span / 12,
    scatter: span * 0.003,
  }
}

/** The cutoff as entered, in a unit; undefined where the kind has none or it is none. */
export function cutoffIn(r: Reader, unit: string): number | undefined {
  const value = r.has('cutoff') ? r.in('cutoff', unit) : undefined
  return value !== undefined && value > 0 ? value : undefined
}
