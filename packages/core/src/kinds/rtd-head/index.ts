// A kind of point: a platinum resistance thermometer with a two-wire transmitter in its head.
import type { Finding } from '../../findings/index.ts'
import { convertUnit, formatQuantity as show, fromSi, toSi } from '../../quantity/index.ts'
import { attempt, Refusal } from '../../refusal/index.ts'
import { rtdResistance, rtdTemperature } from '../../temperature/index.ts'
import type { Knot, Stage } from '../../thread/index.ts'
import { PLAIN, type CurrentKind, type Figure } from '../kind.ts'
import type { Reader } from '../reader.ts'
import { processFindings } from '../temperature/process-range.ts'
import { currentTail, rangeProcess, stageOr, tripBandsAsDifferences } from '../two-wire/index.ts'
import { fields } from './fields.ts'
import { sure } from '../../sure/index.ts'

const ohms = (v: number) => show(v, 'Ohm')
const celsius = (v: number) => show(v, 'degC', { trim: true })

/** Resistance of the element at 0 °C, and what the leads add, Ω. */
function elementOf(r: Reader): { r0: number; leads: number | undefined } {
  return { r0: Number(r.text('element').slice(2)) || 100, leads: r.text('leads') === '2' ? r.in('leadOhm', 'Ohm') : 0 }
}

function threadOf(r: Reader) {
  const unit = r.missing('urv').length ? r.unit('highest') : r.unit('urv')
  const { r0, leads } = elementOf(r)
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
  const needs = r.missing('leads', 'leadOhm')
  const stages: Stage[] = [
    stageOr('Element and leads', elementCauses, needs, () => ({
      title: 'Element and leads',
      causes: elementCauses,
      ready: true,
      forward: (t) => rtdResistance(C(t), r0) + sure(leads),
      inverse: (ohm) => fromC(rtdTemperature(ohm - sure(leads), r0)),
      working: (t) => ({
        title: 'Resistance at the terminals',
        formula: 'R = R₀ · (1 + A·t + B·t² + C·(t − 100 °C)·t³), C below 0 °C only',
        numbers:
          `${ohms(r0)} at 0 °C, at ${celsius(C(t))}${leads ? `, leads ${ohms(leads)}` : ''} = ` +
          `${ohms(rtdResistance(C(t), r0) + sure(leads))}`,
        source: 'IEC 60751, Callendar–Van Dusen',
      }),
    })),
    stageOr('Sensor input', inputCauses, needs, () => ({
      title: 'Sensor input',
      causes: inputCauses,
      ready: true,
      forward: (ohm) => fromC(rtdTemperature(ohm, r0)),
      inverse: (t) => rtdResistance(C(t), r0),
      working: (ohm) => ({
        title: 'Reported temperature',
        formula: 't from R by the inverse of IEC 60751',
        numbers: `${ohms(ohm)} = ${celsius(rtdTemperature(ohm, r0))}`,
        source: 'IEC 60751, Callendar–Van Dusen',
      }),
    })),
  ]
  const tail = currentTail(r, digital)
  return { knots: [...knots, ...tail.knots], stages: [...stages, ...tail.stages], ends: tail.ends }
}

function findingsOf(r: Reader): Finding[] {
  const found: Finding[] = []
  const { r0, leads } = elementOf(r)
  const [lrv, urv] = ['lrv', 'urv'].map((k) => r.in(k, 'degC'))
  for (const [key, t] of [
    ['lrv', lrv],
    ['urv', urv],
  ] as const)
    if (t !== undefined && (t < -200 || t > 850))
      found.push({
        code: 'outside-platinum',
        grade: 'stop',
        fields: [key],
        what: `${celsius(t)} lies outside −200 to 850 °C.`,
        why: 'A platinum thermometer is not defined there.',
        sure: 'Certain (IEC 60751).',
        action: 'Choose a range value inside.',
      })
  found.push(...processFindings(r))
  if (leads)
    found.push({
      code: 'two-wire-leads',
      grade: 'look',
      fields: ['leads', 'leadOhm'],
      what: `Two sensor leads of ${ohms(leads)} read ${show(leads / (r0 * 0.00385), 'degC', { decimals: 1 })} too hot.`,
      why: 'With two wires the leads’ resistance cannot be told from the element’s.',
      sure: 'Certain.',
      action: 'Use three or four wires, or trim the sensor with its own leads.',
    })
  return found
}

function figuresOf(r: Reader): Figure[] {
  const { r0, leads } = elementOf(r)
  return (['lrv', 'urv'] as const).map((key) => {
    const label = `Resistance at ${key === 'lrv' ? '4 mA' : '20 mA'}`
    const t = r.in(key, 'degC')
    const base = { id: `ohm-${key}`, stage: 'range', label, unit: 'Ohm', decimals: 2 } as const
    const needs = r.missing(key, 'leads', 'leadOhm')
    if (t === undefined || leads === undefined || needs.length) return { ...base, needs }
    const ohm = attempt(() => rtdResistance(t, r0) + leads)
    if (ohm instanceof Refusal) return { ...base, says: ohm.message }
    return {
      ...base,
      value: ohm,
      working: () => ({
        title: label,
        formula: 'R(t) after IEC 60751, plus leads',
        numbers: `${r.text('element')} at ${celsius(t)}${leads ? ` + ${ohms(leads)}` : ''} = ${ohms(ohm)}`,
        source: 'IEC 60751',
      }),
    }
  })
}

export const rtdHead: CurrentKind = {
  id: 'rtd-head',
  name: 'Resistance thermometer',
  summary: 'A platinum element with a two-wire transmitter in its connection head.',
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
    // A platinum thermometer is defined from −200 to 850 °C (IEC 60751).
    sensorLimits: (unit) => ({ low: convertUnit(-200, 'degC', unit), high: convertUnit(850, 'degC', unit) }),
    process: () => rangeProcess(r, r.missing('urv').length ? r.unit('highest') : r.unit('urv')),
  }),
  check: {
    trueInput: 'True temperature reached',
    reference: 'dry-block display',
    process: 'Dry-block temperature',
    cautions: [
      'Tell operations and put the loop in manual: a false temperature drives burners and trips.',
      'Dry block and sensor are hot: burns. Let them cool before handling.',
    ],
  },
}
