// A kind of point: a resistance thermometer with a two-wire transmitter in its head.
import type { Finding } from '../../findings/index.ts'
import { convertUnit, formatQuantity as show, fromSi, toSi } from '../../quantity/index.ts'
import { attempt, Refusal } from '../../refusal/index.ts'
import type { Knot, Stage } from '../../thread/index.ts'
import { PLAIN, type CurrentKind, type Figure } from '../kind.ts'
import type { Reader } from '../reader.ts'
import { processFindings } from '../temperature/process-range.ts'
import { currentTail, rangeProcess, stageOr, tripBandsAsDifferences } from '../two-wire/index.ts'
import { CONSTANTS, fields } from './fields.ts'
import { elementNeeds, elementOf, kelvinOf, knownElement, type Element } from './element.ts'
import { sure } from '../../sure/index.ts'

const ohms = (v: number) => show(v, 'Ohm')
const celsius = (v: number) => show(v, 'degC', { trim: true })

function threadOf(r: Reader) {
  const unit = r.missing('urv').length ? r.unit('highest') : r.unit('urv')
  const element = elementOf(r)
  const usable = element instanceof Refusal ? undefined : element
  const known = () => sure(usable)
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
  const C = (v: number) => (unit === 'degC' ? v : fromSi(toSi(v, unit), 'degC'))
  const fromC = (t: number) => (unit === 'degC' ? t : fromSi(toSi(t, 'degC'), unit))
  const knots: Knot[] = [
    knot('temperature', 'process', 'Temperature', 'True temperature at the element.'),
    {
      id: 'resistance',
      role: 'sensor',
      name: 'Resistance',
      explains: 'What an ohmmeter reads at the transmitter’s sensor terminals.',
      quantity: 'resistance',
      unit: 'Ohm',
      decimals: 2,
    },
    digital,
  ]
  const elementCauses = [
    'element aged or of another type',
    'moisture or a bad joint in the leads',
    'sensor not deep enough in the flow',
  ]
  const inputCauses = ['sensor trim off', 'input type set for another element', 'lead compensation wrong']
  const needs = element instanceof Refusal ? ['an element that can be read'] : elementNeeds(r)
  const stages: Stage[] = [
    stageOr('Element and leads', elementCauses, needs, () => ({
      title: 'Element and leads',
      causes: elementCauses,
      ready: true,
      forward: (t) => {
        const { real, leads_Ohm, heating_K } = known()
        return real.ohm(C(t) + heating_K) + leads_Ohm
      },
      inverse: (ohm) => {
        const { real, leads_Ohm, heating_K } = known()
        return fromC(real.temp(ohm - leads_Ohm) - heating_K)
      },
      working: (t) => {
        const { real, leads_Ohm, heating_K } = known()
        return {
          title: 'Resistance at the terminals',
          formula: 'R(t) of the element, warmed by its current, and what of the leads is not taken out',
          numbers:
            `${r.text('element')} at ${celsius(C(t))}${heating_K ? ` + ${show(heating_K, 'delta_K')}` : ''}` +
            `${leads_Ohm ? `, leads ${ohms(leads_Ohm)}` : ''} = ${ohms(real.ohm(C(t) + heating_K) + leads_Ohm)}`,
          source: real.source,
        }
      },
    })),
    stageOr('Sensor input', inputCauses, needs, () => ({
      title: 'Sensor input',
      causes: inputCauses,
      ready: true,
      forward: (ohm) => fromC(known().taken.temp(ohm)),
      inverse: (t) => known().taken.ohm(C(t)),
      working: (ohm) => ({
        title: 'Reported temperature',
        formula: 't from R by the element that the transmitter takes it for',
        numbers: `${ohms(ohm)} = ${celsius(known().taken.temp(ohm))}`,
        source: known().taken.source,
      }),
    })),
  ]
  const tail = currentTail(r, digital)
  return { knots: [...knots, ...tail.knots], stages: [...stages, ...tail.stages], ends: tail.ends }
}

/** Above this an error of the sensor is worth a word, K. */
const WORTH_K = 0.1

/** What the leads, the current and a transmitter that is not matched make of the temperature. */
function errorFindings(r: Reader, e: Element): Finding[] {
  const found: Finding[] = []
  const [lrv = 0, urv = 100] = ['lrv', 'urv'].map((k) => r.in(k, 'degC'))
  const middle = (lrv + urv) / 2
  const error = kelvinOf(e, e.leads_Ohm, middle)
  const off = `${show(Math.abs(error), 'delta_K', { decimals: 1 })} too ${error > 0 ? 'hot' : 'cold'}`
  if (e.leads_Ohm && r.text('leads') === '2')
    found.push({
      code: 'two-wire-leads',
      grade: 'look',
      fields: ['leads', 'leadOhm'],
      what: `Two sensor leads of ${ohms(e.leads_Ohm)} read ${off}.`,
      why: 'With two wires the leads’ resistance cannot be told from the element’s.',
      sure: 'Certain.',
      action: 'Use three or four wires, or trim the sensor with its own leads.',
    })
  else if (Math.abs(error) >= WORTH_K)
    found.push({
      code: 'leads-unlike',
      grade: 'look',
      fields: ['leadDiff'],
      what: `Leads that differ by ${ohms(e.leads_Ohm)} read ${off}.`,
      why: 'Three wires take out what the leads have in common, no more.',
      sure: 'Certain.',
      action: 'Tighten or renew the joint that has the more, or use four wires.',
    })
  if (Math.abs(e.heating_K) >= WORTH_K)
    found.push({
      code: 'self-heating',
      grade: 'look',
      fields: ['selfHeating'],
      what: `The measuring current makes it read ${show(e.heating_K, 'delta_K', { decimals: 2 })} too hot.`,
      why: 'The element warms what it measures; the more the stiller the medium.',
      sure: 'As sure as the data sheet’s medium is like this one.',
      action: 'Set a smaller measuring current, or bring the element where it flows.',
    })
  if (e.taken !== e.real) {
    const made = attempt(() => e.taken.temp(e.real.ohm(middle)) - middle)
    found.push({
      code: 'not-matched',
      grade: 'look',
      fields: ['matched'],
      what:
        made instanceof Refusal
          ? 'The transmitter does not hold the constants of this element.'
          : `Without its constants it is off by ${show(made, 'delta_K', { decimals: 2, sign: true })} ` +
            `at ${celsius(middle)}.`,
      why: 'The transmitter takes a standard element for this one.',
      sure: 'Certain, if the constants were copied right.',
      action: 'Enter R₀, A, B and C in the transmitter, and read them back.',
    })
  }
  return found
}

function findingsOf(r: Reader): Finding[] {
  const found: Finding[] = []
  const element = elementOf(r)
  if (element instanceof Refusal)
    return [
      {
        code: element.code,
        grade: 'stop',
        fields: ['element', 'ownTable', ...CONSTANTS.map((c) => c.key)],
        what: element.message,
        why: 'Without it no resistance is a temperature.',
        sure: 'Certain.',
        action: 'Copy it again from the certificate.',
      },
      ...processFindings(r),
    ]
  const curve = element?.real
  const [lrv, urv] = ['lrv', 'urv'].map((k) => r.in(k, 'degC'))
  for (const [key, t] of [
    ['lrv', lrv],
    ['urv', urv],
  ] as const)
    if (t !== undefined && curve && (t < curve.low_C || t > curve.high_C))
      found.push({
        code: 'outside-platinum',
        grade: 'stop',
        fields: [key],
        what: `${celsius(t)} lies outside ${curve.low_C} to ${celsius(curve.high_C)}.`,
        why: 'The element is not known there.',
        sure: `Certain (${curve.source}).`,
        action: 'Choose a range value inside.',
      })
  found.push(...processFindings(r))
  return element ? [...found, ...errorFindings(r, element)] : found
}

function figuresOf(r: Reader): Figure[] {
  const element = elementOf(r)
  const ends = (['lrv', 'urv'] as const).map((key) => {
    const label = `Resistance at ${key === 'lrv' ? '4 mA' : '20 mA'}`
    const t = r.in(key, 'degC')
    const base = { id: `ohm-${key}`, stage: 'range', label, unit: 'Ohm', decimals: 2 } as const
    const needs = [...r.missing(key), ...elementNeeds(r)]
    if (element instanceof Refusal) return { ...base, says: element.message }
    if (t === undefined || element === undefined) return { ...base, needs }
    const { real, leads_Ohm, heating_K } = element
    const ohm = attempt(() => real.ohm(t + heating_K) + leads_Ohm)
    if (ohm instanceof Refusal) return { ...base, says: ohm.message }
    return {
      ...base,
      value: ohm,
      working: () => ({
        title: label,
        formula: 'R(t) of the element, and what of the leads is not taken out',
        numbers: `${r.text('element')} at ${celsius(t)}${leads_Ohm ? ` + ${ohms(leads_Ohm)}` : ''} = ${ohms(ohm)}`,
        source: real.source,
      }),
    }
  })
  return [...ends, ...settling(r)]
}

/** Natural logarithm of a hundred: after so many time constants a step is followed to 1 %. */
const TO_ONE_PERCENT = Math.log(100)
function settling(r: Reader): Figure[] {
  const tau = r.in('timeConstant', 's')
  if (tau === undefined || !(tau >= 0)) return []
  const label = 'Follows a step to 1 % in'
  const value = TO_ONE_PERCENT * tau
  return [
    {
      id: 'settles',
      stage: 'point',
      label,
      unit: 's',
      decimals: 0,
      value,
      working: () => ({
        title: label,
        formula: 't = τ · ln 100',
        numbers: `${show(tau, 's')} × ${TO_ONE_PERCENT.toFixed(3)} = ${show(value, 's', { decimals: 0 })}`,
        source: 'First-order lag',
      }),
    },
  ]
}

export const rtdHead: CurrentKind = {
  id: 'rtd-head',
  name: 'Resistance thermometer',
  listed: ['rtd', 'pt100', 'pt 100', 'resistance thermometer'],
  summary: 'A platinum or nickel element with a two-wire transmitter in its connection head.',
  family: 'current',
  version: 2,
  migrate: tripBandsAsDifferences,
  fields,
  has: PLAIN,
  look: (r) => ({
    thread: threadOf(r),
    figures: figuresOf(r),
    findings: findingsOf(r),
    rangeUnit: r.unit('urv'),
    tripUnit: r.unit('urv'),
    procedures: ['zero-trim', 'sensor-trim'],
    sensorLimits: (unit) => {
      const curve = knownElement(r)?.real
      return {
        low: curve && convertUnit(curve.low_C, 'degC', unit),
        high: curve && convertUnit(curve.high_C, 'degC', unit),
      }
    },
    process: () => rangeProcess(r, r.missing('urv').length ? r.unit('highest') : r.unit('urv')),
  }),
  check: {
    works: ['loop-check', 'temperature'],
    trueInput: 'True temperature reached',
    reference: 'dry-block display',
    process: 'Dry-block temperature',
    cautions: [
      'Tell operations and put the loop in manual: a false temperature drives burners and trips.',
      'Dry block and sensor are hot: burns. Let them cool before handling.',
    ],
  },
}
