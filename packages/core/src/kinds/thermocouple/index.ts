// A kind of point: a thermocouple with its extension cable and transmitter.
import { convertUnit, formatQuantity as show } from '../../quantity/index.ts'
import { attempt, Refusal } from '../../refusal/index.ts'
import { thermocoupleEmf, thermocoupleRange } from '../../temperature/index.ts'
import type { Knot, Stage, Thread } from '../../thread/index.ts'
import { PLAIN, type CurrentKind, type Figure } from '../kind.ts'
import type { Reader } from '../reader.ts'
import { currentTail, rangeProcess, stageOr } from '../two-wire/index.ts'
import { coupleOf, errorAt, processFrom, reportedFrom, terminals_mV, voltageOfReport, type Couple } from './circuit.ts'
import { fields } from './fields.ts'
import { findingsOf, middleOf } from './findings.ts'
import { sure } from '../../sure/index.ts'

export { coupleOf, type Couple } from './circuit.ts'

const SOURCE = 'IEC 60584-1, reference functions on ITS-90'
const volts = (mV: number) => show(mV, 'mV', { decimals: 3 })
const celsius = (v: number) => show(v, 'degC', { decimals: 1, trim: true })
const unitOf = (r: Reader): string => (r.missing('urv').length ? r.unit('highest') : r.unit('urv'))
/** What the couple still needs; a choice on record that is none of those offered makes none. */
function needsOf(r: Reader): string[] {
  const missing = r.missing('type', 'cable', 'cableType', 'fixedAt')
  return missing.length || coupleOf(r) ? missing : ['a thermocouple and a cable that are known here']
}

function threadOf(r: Reader, c: Couple | undefined): Thread {
  const unit = unitOf(r)
  const knot = (id: string, role: Knot['role'], name: string, explains: string): Knot => ({
    id,
    role,
    name,
    explains,
    quantity: 'temperature',
    unit,
    decimals: 1,
  })
  const digital = knot('digital', 'digital', 'Reported temperature', 'The transmitter’s own digital value.')
  const knots: Knot[] = [
    knot('temperature', 'process', 'Temperature', 'True temperature at the hot junction.'),
    {
      id: 'emf',
      role: 'sensor',
      name: 'At the terminals',
      explains: 'What a millivoltmeter reads at the transmitter’s sensor terminals.',
      quantity: 'voltage',
      unit: 'mV',
      decimals: 3,
    },
    digital,
  ]
  const C = (v: number) => convertUnit(v, unit, 'degC')
  const own = (t: number) => convertUnit(t, 'degC', unit)
  const couple = ['element aged or of another type', 'cable of another type, or crossed', 'not deep enough in the flow']
  const input = ['sensor trim off', 'type set for another element', 'cold junction compensated wrongly']
  const needs = needsOf(r)
  const stages: Stage[] = [
    stageOr('Couple and cable', couple, needs, () => ({
      title: 'Couple and cable',
      causes: couple,
      ready: true,
      forward: (t) => terminals_mV(sure(c), C(t)),
      inverse: (mV) => own(processFrom(sure(c), mV)),
      working: (t) => ({
        title: 'Voltage at the terminals',
        formula: 'V = E(t) − E(head) + what the cable gives from head to terminals',
        numbers:
          `type ${sure(c).type} at ${celsius(C(t))}, head ${celsius(sure(c).head)}, ` +
          `terminals ${celsius(sure(c).terminals)}, ` +
          `cable ${sure(c).cable} = ${volts(terminals_mV(sure(c), C(t)))}`,
        source: SOURCE,
      }),
    })),
    stageOr('Sensor input', input, needs, () => ({
      title: 'Sensor input',
      causes: input,
      ready: true,
      forward: (mV) => own(reportedFrom(sure(c), mV)),
      inverse: (t) => voltageOfReport(sure(c), C(t)),
      working: (mV) => ({
        title: 'Reported temperature',
        formula: 't where E(t) = V + E(cold junction)',
        numbers:
          `${volts(mV)} + ${volts(thermocoupleEmf(sure(c).type, sure(c).compensated))} = ` +
          celsius(reportedFrom(sure(c), mV)),
        source: SOURCE,
      }),
    })),
  ]
  const tail = currentTail(r, digital)
  return { knots: [...knots, ...tail.knots], stages: [...stages, ...tail.stages], ends: tail.ends }
}

function figuresOf(r: Reader, c: Couple | undefined): Figure[] {
  const needs = needsOf(r)
  const emf = (key: 'lrv' | 'urv'): Figure => {
    const label = `At the terminals at ${key === 'lrv' ? '4 mA' : '20 mA'}`
    const base = { id: `emf-${key}`, stage: 'range', label, unit: 'mV', decimals: 3 } as const
    const t = r.in(key, 'degC')
    const missing = [...needs, ...r.missing(key)]
    if (!c || t === undefined || missing.length) return { ...base, needs: missing }
    const value = attempt(() => terminals_mV(c, t))
    if (value instanceof Refusal) return { ...base, says: value.message }
    const numbers = `type ${c.type} at ${celsius(t)}, terminals ${celsius(c.terminals)} = ${volts(value)}`
    return {
      ...base,
      value,
      working: () => ({ title: label, formula: 'V = E(t) − E(terminals)', numbers, source: SOURCE }),
    }
  }
  const label = 'Error that cable and cold junction make at mid range'
  const base = { id: 'joint-error', stage: 'point', label, unit: 'delta_K', decimals: 2 } as const
  const error = c && attempt(() => errorAt(c, middleOf(r)))
  const jointError: Figure =
    error === undefined
      ? { ...base, needs }
      : error instanceof Refusal
        ? { ...base, says: error.message }
        : {
            ...base,
            value: error,
            working: () => ({
              title: label,
              formula: 'reported − true',
              numbers:
                `at ${celsius(middleOf(r))}: ${volts(terminals_mV(sure(c), middleOf(r)))} at the terminals = ` +
                `${show(error, 'delta_K', { decimals: 2, sign: true })}`,
              source: SOURCE,
            }),
          }
  return [jointError, emf('lrv'), emf('urv')]
}

export const thermocouple: CurrentKind = {
  id: 'thermocouple',
  name: 'Thermocouple',
  listed: ['thermocouple'],
  summary: 'A thermocouple of type B, E, J, K, N, R, S or T with its cable and a transmitter; 4–20 mA.',
  family: 'current',
  fields,
  has: PLAIN,
  look(r) {
    const c = coupleOf(r)
    const unit = unitOf(r)
    const limits = c && thermocoupleRange(c.type)
    return {
      thread: threadOf(r, c),
      figures: figuresOf(r, c),
      findings: findingsOf(r, c),
      rangeUnit: unit,
      tripUnit: unit,
      procedures: ['zero-trim', 'sensor-trim'],
      sensorLimits: (of) => ({
        low: limits && convertUnit(limits.lowBack, 'degC', of),
        high: limits && convertUnit(limits.high, 'degC', of),
      }),
      process: () => rangeProcess(r, unit),
    }
  },
  check: {
    works: ['loop-check', 'temperature'],
    trueInput: 'True temperature reached',
    reference: 'dry-block or millivolt simulator',
    process: 'Dry-block temperature',
    cautions: [
      'Tell operations and put the loop in manual: a false temperature drives burners and trips.',
      'Dry block and sensor are hot: burns. A simulator must know the cold junction, or it is wrong by the ' +
        'room’s temperature.',
    ],
  },
}
