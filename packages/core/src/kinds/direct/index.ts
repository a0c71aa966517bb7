// Kinds of point whose transmitter gives the measured value as it is: pressure, flow, pH.
import type { Finding } from '../../findings/index.ts'
import { formatQuantity as show, type QuantityName } from '../../quantity/index.ts'
import { straightStage, withCutoff, type Knot, type Stage } from '../../thread/index.ts'
import type { ProcedureId } from '../../procedure/index.ts'
import { PLAIN, type CurrentKind, type Field, type Figure } from '../kind.ts'
import type { Reader } from '../reader.ts'
import {
  currentTail,
  cutoffIn,
  identifyFields,
  manifoldField,
  rangeFields,
  rangeProcess,
  tripFields,
  wireFields,
} from '../two-wire/index.ts'
import { BUFFERS, buffersFor } from './buffers-for.ts'
import { electrode } from './electrode.ts'
import { redox } from './redox.ts'
import { cutoff } from './cutoff.ts'
import { limitFindings, limits } from './limits.ts'
import { inSentence } from '../../words/index.ts'

interface Measured {
  readonly works: CurrentKind['check']['works']
  readonly brings?: CurrentKind['check']['brings']
  readonly id: string
  readonly name: string
  readonly summary: string
  readonly listed: readonly string[]
  readonly quantity: QuantityName
  readonly unit: string
  readonly decimals: number
  /** What stands at the process, e.g. `Pressure`. */
  readonly process: string
  readonly causes: readonly string[]
  readonly reference: string
  readonly cautions: readonly string[]
  readonly procedures: readonly ProcedureId[]
  /** What this kind has besides: entries, figures, faults, a knot between process and digital value. */
  readonly more?: {
    readonly fields: readonly Field[]
    figures?(r: Reader): readonly Figure[]
    findings?(r: Reader): readonly Finding[]
    sensor?(r: Reader, process: Knot): { readonly knot: Knot; readonly stages: readonly [Stage, Stage] }
  }
}

function directKind(m: Measured): CurrentKind {
  const fields: readonly Field[] = [
    ...identifyFields,
    ...wireFields,
    ...limits(m),
    ...(m.quantity === 'pressure' ? [manifoldField] : []),
    ...(m.more?.fields ?? []),
    ...rangeFields(m.quantity, m.unit),
    ...tripFields(m.quantity, m.unit),
  ]
  const unitOf = (r: Reader) => (r.missing('urv').length ? m.unit : r.unit('urv'))
  return {
    id: m.id,
    name: m.name,
    summary: m.summary,
    listed: m.listed,
    family: 'current',
    fields,
    has: PLAIN,
    look(r) {
      const unit = unitOf(r)
      const knot = (id: string, role: Knot['role'], name: string, explains: string): Knot => ({
        id,
        role,
        name,
        explains,
        quantity: m.quantity,
        unit,
        decimals: m.quantity === 'length' && unit === 'm' ? 3 : m.decimals,
      })
      const digital = knot('digital', 'digital', 'Reported value', 'The transmitter’s own digital value.')
      const tail = currentTail(r, digital)
      const same = (v: number) => ({
        title: 'Reported value',
        formula: 'reported = measured',
        numbers: `${show(v, unit)} = ${show(v, unit)}`,
        source: 'A sensor without error reports what is there',
      })
      const process = knot('process', 'process', m.process, `True ${inSentence(m.process)} at the sensor.`)
      const sensor = m.more?.sensor?.(r, process)
      const plain = withCutoff(
        straightStage({ title: 'Sensor', causes: m.causes, from: [0, 1], to: [0, 1], working: same }),
        cutoffIn(r, unit),
      )
      return {
        thread: {
          knots: [process, ...(sensor ? [sensor.knot] : []), digital, ...tail.knots],
          stages: [...(sensor?.stages ?? [plain]), ...tail.stages],
          ends: tail.ends,
        },
        figures: m.more?.figures?.(r) ?? [],
        findings: [...limitFindings(r, unit), ...(m.more?.findings?.(r) ?? [])],
        rangeUnit: unit,
        tripUnit: unit,
        procedures: m.procedures,
        sensorLimits: (of) => ({ low: r.in('sensorLow', of), high: r.in('sensorHigh', of) }),
        process: () => rangeProcess(r, unit),
      }
    },
    check: {
      works: m.works,
      ...(m.brings ? { brings: m.brings } : {}),
      trueInput: `True ${inSentence(m.process)} reached`,
      reference: m.reference,
      process: m.process,
      cautions: m.cautions,
    },
  }
}

const manual = 'Tell operations and put the loop in manual: a false value drives valves and trips.'

export const directKinds: readonly CurrentKind[] = [
  {
    procedures: ['zero-trim', 'sensor-trim'],
    id: 'pressure',
    works: ['loop-check', 'pressure'],
    name: 'Pressure or differential pressure',
    listed: ['pressure', 'differential pressure', 'differential', 'dp'],
    summary: 'A pressure transmitter whose range is a pressure; 4–20 mA.',
    quantity: 'pressure',
    unit: 'mbar',
    decimals: 1,
    process: 'Pressure',
    reference: 'pressure calibrator',
    causes: ['zero shifted by mounting', 'impulse line blocked or not full', 'sensor trim off'],
    cautions: [
      manual,
      'Pressure, hot or corrosive contents: isolate and vent before a line is opened, in the order of the ' +
        'site’s procedure.',
    ],
  },
  {
    procedures: ['flow-zero'],
    id: 'volume-flow',
    works: ['loop-check'],
    name: 'Volume flow',
    listed: ['flow', 'volume flow'],
    summary: 'A flow meter that reports a volume flow; 4–20 mA.',
    quantity: 'volume-flow',
    unit: 'm3/h',
    decimals: 1,
    process: 'Flow',
    reference: 'reference meter or simulated flow',
    causes: ['meter data entered wrong', 'zero not taken', 'poor signal or part-filled pipe'],
    more: cutoff('volume-flow', 'm3/h'),
    cautions: [
      manual,
      'Hot or pressurised pipe, work at height: use the meter’s own simulation where the process cannot be moved.',
    ],
  },
  {
    procedures: ['flow-zero'],
    id: 'mass-flow',
    works: ['loop-check'],
    name: 'Mass flow',
    listed: ['mass flow'],
    summary: 'A mass flow meter that reports a mass flow; 4–20 mA.',
    quantity: 'mass-flow',
    unit: 'kg/h',
    decimals: 0,
    process: 'Mass flow',
    reference: 'reference meter or simulated flow',
    causes: ['calibration constant entered wrong', 'zero not taken', 'gas in the liquid'],
    more: cutoff('mass-flow', 'kg/h'),
    cautions: [manual, 'Hot or corrosive contents: use the meter’s own simulation where the process cannot be moved.'],
  },
  {
    procedures: ['ph-calibration'],
    id: 'ph',
    works: ['loop-check', 'ph'],
    brings: buffersFor,
    name: 'pH',
    listed: ['ph'],
    summary: 'A pH electrode with its transmitter; 4–20 mA.',
    quantity: 'acidity',
    unit: 'pH',
    decimals: 2,
    process: 'pH',
    reference: 'buffer',
    causes: ['electrode worn', 'buffer or temperature wrong', 'glass dirty or dry'],
    more: electrode,
    cautions: [manual, 'Corrosive contents: goggles and gloves; rinse before and after each buffer.'],
  },
  {
    procedures: ['redox-offset'],
    id: 'orp',
    works: ['loop-check', 'ph'],
    brings: () => [{ what: 'redox solution in date', each: false, instead: BUFFERS }],
    name: 'Redox potential (ORP)',
    listed: ['orp', 'redox'],
    summary: 'A redox electrode with its transmitter; 4–20 mA.',
    quantity: 'voltage',
    unit: 'mV',
    decimals: 0,
    process: 'Redox potential',
    reference: 'redox solution',
    causes: ['metal coated', 'reference poisoned or empty', 'solution old'],
    more: redox,
    cautions: [
      manual,
      'Corrosive contents, poisonous redox solutions: goggles and gloves; a cyano solution never meets acid.',
    ],
  },
].map((m) => directKind(m as Measured))
