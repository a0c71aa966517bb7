// A kind of point: a flow meter that gives pulses by volume (turbine, vortex, magnetic), with 4–20 mA beside them.
import { finding, type Finding } from '../../findings/index.ts'
import { formatQuantity as show } from '../../quantity/index.ts'
import type { Knot, Stage, Thread } from '../../thread/index.ts'
import { withCutoff } from '../../thread/index.ts'
import { convertUnit } from '../../quantity/index.ts'
import { PLAIN, type CurrentKind, type Field, type Figure } from '../kind.ts'
import type { Reader } from '../reader.ts'
import {
  currentTail,
  cutoffIn,
  identifyFields,
  rangeFields,
  rangeProcess,
  stageOr,
  tripFields,
  wireFields,
} from '../two-wire/index.ts'
import { sure } from '../../sure/index.ts'

const USUAL = 'm3/h'
const flow = { type: 'quantity', quantity: 'volume-flow', unit: USUAL } as const

const fields: readonly Field[] = [
  ...identifyFields,
  ...wireFields,
  {
    key: 'principle',
    stage: 'point',
    group: 'Meter',
    type: 'choice',
    label: 'Principle',
    required: true,
    help: 'Turbine and vortex meters do not measure below a least flow; a magnetic one needs a conducting liquid.',
    options: ['turbine', 'vortex', 'magnetic', 'other'].map((value) => ({ value, label: value })),
  },
  {
    key: 'pulses',
    stage: 'point',
    group: 'Factor',
    type: 'quantity',
    quantity: 'count',
    unit: 'counts',
    label: 'Pulses',
    help: 'From the tag or the certificate, with every decimal.',
    required: true,
  },
  {
    key: 'perVolume',
    stage: 'point',
    group: 'Factor',
    type: 'quantity',
    quantity: 'volume',
    unit: 'l',
    label: 'For a volume of',
    help: 'The volume that so many pulses stand for.',
    default: '1 l',
  },
  {
    ...flow,
    key: 'least',
    stage: 'point',
    group: 'Meter',
    label: 'Least flow',
    help: 'Below it the meter is not within its own tolerance.',
  },
  {
    ...flow,
    key: 'most',
    stage: 'point',
    group: 'Meter',
    label: 'Highest flow',
    help: 'Above it bearings or sensor suffer.',
  },
  {
    key: 'inputMost',
    stage: 'point',
    group: 'Counter',
    type: 'quantity',
    quantity: 'frequency',
    unit: 'Hz',
    label: 'Highest frequency that the counter takes',
    help: 'Pulses that come faster are lost without a word.',
  },
  ...rangeFields('volume-flow', USUAL),
  {
    ...flow,
    key: 'cutoff',
    stage: 'range',
    group: 'Transmitter',
    label: 'Low-flow cutoff',
    help: 'Below it the meter reports no flow.',
    default: `0 ${USUAL}`,
  },
  ...tripFields('volume-flow', USUAL),
]

/** Pulses in a cubic metre, 1/m³; undefined while not entered or not above 0. */
export function pulsesPerCubicMetre(r: Reader): number | undefined {
  const [pulses, volume] = [r.in('pulses', 'counts'), r.in('perVolume', 'm3')]
  return pulses !== undefined && volume !== undefined && pulses > 0 && volume > 0 ? pulses / volume : undefined
}

/** Frequency, Hz, of a flow in m³/h, and back. Source: a pulse stands for a volume, so frequency = flow · factor. */
export const frequencyOf = (m3ph: number, perM3: number): number => (m3ph / 3600) * perM3
export const flowOf = (hz: number, perM3: number): number => (hz * 3600) / perM3

const unitOf = (r: Reader): string => (r.missing('urv').length ? USUAL : r.unit('urv'))
const needsOf = (r: Reader): string[] => {
  const missing = r.missing('pulses', 'perVolume')
  return missing.length || pulsesPerCubicMetre(r) !== undefined ? missing : ['a factor above 0']
}

function threadOf(r: Reader): Thread {
  const unit = unitOf(r)
  const k = pulsesPerCubicMetre(r)
  const knot = (id: string, role: Knot['role'], name: string, explains: string): Knot => ({
    id,
    role,
    name,
    explains,
    quantity: 'volume-flow',
    unit,
    decimals: 1,
  })
  const digital = knot('digital', 'digital', 'Reported flow', 'The meter’s own digital value.')
  const knots: Knot[] = [
    knot('flow', 'process', 'Volume flow', 'True flow through the meter.'),
    {
      id: 'pulses',
      role: 'sensor',
      name: 'Pulses',
      explains: 'What a frequency counter reads at the pulse output.',
      quantity: 'frequency',
      unit: 'Hz',
      decimals: 2,
    },
    digital,
  ]
  const m3ph = (v: number) => convertUnit(v, unit, USUAL)
  const own = (v: number) => convertUnit(v, USUAL, unit)
  const body = [
    'factor copied wrong',
    'bearings, shedder bar or electrodes worn or dirty',
    'pipe not full, gas in the liquid',
    'straight run too short',
  ]
  const reckons = ['meter holds another factor than the record', 'pulses lost or picked up twice']
  const factor = () => show(sure(k) / 1000, 'counts', { decimals: 4, trim: true })
  const stages: Stage[] = [
    stageOr('Meter body', body, needsOf(r), () => ({
      title: 'Meter body',
      causes: body,
      ready: true,
      forward: (v) => frequencyOf(m3ph(v), sure(k)),
      inverse: (hz) => own(flowOf(hz, sure(k))),
      working: (v) => ({
        title: 'Frequency of the pulses',
        formula: 'f = Q · factor',
        numbers: `${show(v, unit)} × ${factor()} per l = ${show(frequencyOf(m3ph(v), sure(k)), 'Hz', { decimals: 3 })}`,
        source: 'Factor as entered',
      }),
    })),
    withCutoff(
      stageOr('Transmitter', reckons, needsOf(r), () => ({
        title: 'Transmitter',
        causes: reckons,
        ready: true,
        forward: (hz) => own(flowOf(hz, sure(k))),
        inverse: (v) => frequencyOf(m3ph(v), sure(k)),
      })),
      cutoffIn(r, unit),
    ),
  ]
  const tail = currentTail(r, digital)
  return { knots: [...knots, ...tail.knots], stages: [...stages, ...tail.stages], ends: tail.ends }
}

function figuresOf(r: Reader): Figure[] {
  const k = pulsesPerCubicMetre(r)
  const made = (
    head: Omit<Figure, 'value' | 'needs' | 'working'>,
    value: number | undefined,
    needs: string[],
    { formula, numbers }: { formula: string; numbers: () => string },
  ): Figure =>
    value === undefined
      ? { ...head, needs }
      : {
          ...head,
          value,
          working: () => ({
            title: head.label,
            formula,
            numbers: `${numbers()} = ${show(value, head.unit, { decimals: head.decimals ?? 3 })}`,
            source: 'Factor as entered',
          }),
        }
  const at = (key: 'lrv' | 'urv') => {
    const value = r.in(key, USUAL)
    const label = `Frequency at ${key === 'lrv' ? '4 mA' : '20 mA'}`
    return made(
      { id: `hz-${key}`, stage: 'range', label, unit: 'Hz', decimals: 2 },
      k === undefined || value === undefined ? undefined : frequencyOf(value, k),
      [...needsOf(r), ...r.missing(key)],
      { formula: 'f = Q · factor', numbers: () => show(sure(value), USUAL, { trim: true }) },
    )
  }
  const one = { id: 'one-pulse', stage: 'point', label: 'One pulse stands for', unit: 'l', decimals: 6 } as const
  return [
    made(one, k === undefined ? undefined : 1000 / k, needsOf(r), {
      formula: 'V = 1 / factor',
      numbers: () => '1 l / pulses per l',
    }),
    at('lrv'),
    at('urv'),
  ]
}

function findingsOf(r: Reader): Finding[] {
  const found: Finding[] = []
  const k = pulsesPerCubicMetre(r)
  const stop = (f: Omit<Finding, 'grade' | 'sure'>) => found.push(finding({ grade: 'stop', ...f }))
  if ((r.in('pulses', 'counts') ?? 1) <= 0 || (r.in('perVolume', 'm3') ?? 1) <= 0)
    stop({
      code: 'factor-not-positive',
      fields: ['pulses', 'perVolume'],
      what: 'The factor is not above 0.',
      why: 'No flow could be counted.',
      action: 'Copy it from the tag.',
    })
  const [urv, lrv, least, most] = ['urv', 'lrv', 'least', 'most'].map((key) => r.in(key, USUAL))
  const top = urv === undefined || lrv === undefined ? undefined : Math.max(urv, lrv)
  const limit = r.in('inputMost', 'Hz')
  if (k !== undefined && top !== undefined && limit !== undefined && frequencyOf(top, k) > limit)
    stop({
      code: 'pulses-too-fast',
      fields: ['pulses', 'perVolume', 'urv', 'inputMost'],
      what:
        `Full flow gives ${show(frequencyOf(top, k), 'Hz', { decimals: 1 })}, the counter takes ` +
        `${show(limit, 'Hz', { trim: true })}.`,
      why: 'Pulses that come faster are lost: the total is short without a word.',
      action: 'Scale the pulses to a larger volume, or use a faster input.',
    })
  const n = (v: number) => show(v, USUAL, { trim: true })
  if (most !== undefined && top !== undefined && top > most)
    found.push({
      code: 'range-beyond-meter',
      grade: 'look',
      fields: ['urv', 'most'],
      what: `The range ends at ${n(top)}, the meter at ${n(most)}.`,
      why: 'Beyond it bearings or sensor suffer, and its tolerance does not hold.',
      sure: 'Certain, if the nameplate was copied right.',
      action: 'End the range at the meter’s highest flow.',
    })
  const cutoff = r.in('cutoff', USUAL) ?? 0
  if (least !== undefined && least > 0 && cutoff < least / 2 && ['turbine', 'vortex'].includes(r.text('principle')))
    found.push({
      code: 'cutoff-below-least',
      grade: 'note',
      fields: ['cutoff', 'least'],
      what: `The cutoff is ${n(cutoff)}, the meter measures from ${n(least)}.`,
      why: 'What it shows between the two is not within its tolerance.',
      sure: 'Likely.',
      action: 'Raise the cutoff, or mind it when small flows are read.',
    })
  return found
}

export const pulseFlow: CurrentKind = {
  id: 'pulse-flow',
  name: 'Flow, pulses by volume',
  listed: ['pulse', 'turbine', 'turbine flow', 'vortex', 'vortex flow', 'magnetic flow', 'mag flow'],
  summary: 'A turbine, vortex or magnetic meter with a factor in pulses per volume; 4–20 mA beside its pulses.',
  family: 'current',
  fields,
  has: PLAIN,
  look(r) {
    const unit = unitOf(r)
    return {
      thread: threadOf(r),
      figures: figuresOf(r),
      findings: findingsOf(r),
      rangeUnit: unit,
      tripUnit: unit,
      // Only a meter that measures at standstill has a zero to be taken.
      procedures: r.text('principle') === 'magnetic' ? ['flow-zero'] : [],
      process: () => rangeProcess(r, unit),
    }
  },
  check: {
    works: ['loop-check'],
    trueInput: 'True flow, or the flow that the simulated frequency stands for',
    reference: 'frequency generator or reference meter',
    process: 'Flow',
    cautions: [
      'Tell operations and put the loop in manual: a false flow drives valves and totals.',
      'Hot or pressurised pipe: use a frequency in the place of the sensor where the flow cannot be moved.',
    ],
  },
}
