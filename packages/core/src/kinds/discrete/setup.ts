// Entries of a discrete point as the circuit they describe; nothing is computed from what is impossible.
import {
  CONNECTOR_PINS,
  coilPole,
  contactPole,
  fitOf,
  INPUT_TYPES,
  operateLimits,
  relayFit,
  TARGET_METALS,
  terminalsOfSensor,
  verdictOf,
  type Contact,
  type InputReading,
  type OperateLimits,
  type OutputStage,
  type Pole,
  type Relay,
  type SwitchCase,
  type SwitchInput,
  type SwitchSensor,
} from '../../discrete/index.ts'
import type { Finding } from '../../findings/index.ts'
import type { DrawnState, SwitchArrangement } from '../../wiring/index.ts'
import type { Reader } from '../reader.ts'
import type { Between, Lane, SwitchRun } from '../switch-run.ts'
import { sure } from '../../sure/index.ts'

export interface SwitchSetup {
  /** The bare pair: sensor on input or load, nothing between. Undefined while incomplete or impossible. */
  readonly entered: SwitchCase | undefined
  readonly between: Between
  readonly extra: { readonly to: Pole; readonly ohm: number } | undefined
  readonly relay: Omit<Relay, 'contact'>
  readonly needs: readonly string[]
  /** Entries that no sensor or input could have. */
  readonly impossible: readonly Finding[]
  readonly arrangement: SwitchArrangement
}

const BETWEENS: readonly Between[] = ['nothing', 'bias resistor', 'bleeder', 'relay, NO contact', 'relay, NC contact']
export const relayContact = (between: Between): Contact | undefined =>
  between === 'relay, NO contact' ? 'NO' : between === 'relay, NC contact' ? 'NC' : undefined

const stop = (f: Omit<Finding, 'grade' | 'sure'>): Finding => ({ grade: 'stop', sure: 'Certain.', ...f })

function impossibleOf(r: Reader): Finding[] {
  const found: Finding[] = []
  const below = (key: string, unit: string, zero: boolean) => {
    const v = r.in(key, unit)
    return v !== undefined && (v < 0 || (zero && v === 0))
  }
  const wrong = [
    ...(['supply', 'supplyLeast', 'supplyMost', 'onMin', 'coilVolts', 'inputAtV'] as const).filter((k) =>
      below(k, 'V', true),
    ),
    ...(['residual', 'offMax'] as const).filter((k) => below(k, 'V', false)),
    ...(
      ['maxOut', 'loadCurrent', 'coilCurrent', 'contactMost', 'inputmA', 'leastCurrent', 'shortTime', 'inrush'] as const
    ).filter((k) => below(k, 'mA', true)),
    ...(below('leakage', 'mA', false) ? ['leakage'] : []),
    ...(below('loadPower', 'W', true) ? ['loadPower'] : []),
    ...(below('nameMost', 'counts', true) ? ['nameMost'] : []),
    ...(['inputOhm', 'extraOhm'] as const).filter((k) => below(k, 'Ohm', true)),
    ...(['rated', 'face', 'targetSide'] as const).filter((k) => below(k, 'mm', true)),
    ...(['distanceTolerance', 'differentialMost'] as const).filter((k) => below(k, '%', true)),
    ...(['idealCycle', 'longCycle'] as const).filter((k) => below(k, 's', true)),
  ]
  if (wrong.length)
    found.push(
      stop({
        code: 'not-positive',
        fields: wrong,
        what: `Below zero or zero: ${wrong.map((k) => r.label(k)).join(', ')}.`,
        why: 'No such part exists, so nothing is computed with it.',
        action: 'Correct the sign or the figure.',
      }),
    )
  const [least, most] = [r.in('supplyLeast', 'V'), r.in('supplyMost', 'V')]
  if (least !== undefined && most !== undefined && least > most)
    found.push(
      stop({
        code: 'supply-range-reversed',
        fields: ['supplyLeast', 'supplyMost'],
        what: 'The lowest supply is above the highest.',
        why: 'No supply could ever suit this sensor.',
        action: 'Exchange the two, or read the nameplate again.',
      }),
    )
  const [on, off] = [r.in('onMin', 'V'), r.in('offMax', 'V')]
  if (r.text('inputType') === 'own' && on !== undefined && off !== undefined && off >= on)
    found.push(
      stop({
        code: 'thresholds-reversed',
        fields: ['onMin', 'offMax'],
        what: 'The input would be surely off at a voltage at which it is surely on.',
        why: 'Both thresholds are volts across the input; off lies below on.',
        action: 'Exchange the two, or read the data sheet again.',
      }),
    )
  return found
}

function outputOf(r: Reader): OutputStage | undefined {
  const text = r.text('output')
  return text === 'dry contact' ? 'two-wire' : text === '' ? undefined : (text as OutputStage)
}

/** What the load takes at the supply, mA: as its label says it, in milliamps or in watts. */
export function loadOf(r: Reader): number | undefined {
  const [watts, supply] = [r.in('loadPower', 'W'), r.in('supply', 'V')]
  if (r.text('loadGiven') !== 'watts') return r.in('loadCurrent', 'mA')
  return watts === undefined || !supply ? undefined : (1000 * watts) / supply
}

/** Resistance of an input of its own figures, Ω: as the data sheet says it, or from its current at a voltage. */
function inputOhmOf(r: Reader): number | undefined {
  const [mA, at] = [r.in('inputmA', 'mA'), r.in('inputAtV', 'V')]
  if (r.text('inputGiven') !== 'a current') return r.in('inputOhm', 'Ohm')
  return mA === undefined || at === undefined || mA <= 0 ? undefined : (1000 * at) / mA
}

function inputOf(r: Reader, common: Pole, supplyV: number): SwitchInput | undefined {
  if (r.text('drives') === 'load') {
    const mA = loadOf(r)
    // A load works surely from 80 % of its voltage and surely not below 20 %.
    return mA === undefined
      ? undefined
      : { common, ohm: (1000 * supplyV) / mA, onMinV: 0.8 * supplyV, offMaxV: 0.2 * supplyV }
  }
  const row = INPUT_TYPES.find((t) => t.id === r.text('inputType'))
  if (row) return { common, ohm: row.ohm, onMinV: row.onMinV, offMaxV: row.offMaxV }
  const [ohm, onMinV, offMaxV] = [inputOhmOf(r), r.in('onMin', 'V'), r.in('offMax', 'V')]
  return ohm === undefined || onMinV === undefined || offMaxV === undefined
    ? undefined
    : { common, ohm, onMinV, offMaxV }
}

function sensorOf(r: Reader, output: ReturnType<typeof outputOf>, contact: 'NO' | 'NC'): SwitchSensor | undefined {
  const isContact = r.text('output') === 'dry contact'
  return (
    output && {
      output,
      contact,
      residualV: isContact ? 0 : (r.in('residual', 'V') ?? 0),
      leakage_mA: isContact ? 0 : (r.in('leakage', 'mA') ?? 0),
    }
  )
}

const NEEDED = [
  'output',
  'contact',
  'maxOut',
  'supply',
  'common',
  'inputOhm',
  'onMin',
  'offMax',
  'inputmA',
  'loadCurrent',
  'loadPower',
  'extraOhm',
  'extraTo',
]

/** The sensor on its input or load; undefined while something is missing or impossible. */
function enteredOf(r: Reader, sensor: SwitchSensor | undefined, common: Pole): SwitchSetup['entered'] {
  const [supplyV, maxOut_mA] = [r.in('supply', 'V'), r.in('maxOut', 'mA')]
  const input = supplyV === undefined ? undefined : inputOf(r, common, supplyV)
  if (!sensor || !input || supplyV === undefined || maxOut_mA === undefined) return undefined
  const load = r.text('drives') === 'load' ? { load_mA: sure(loadOf(r)) } : {}
  return { circuit: { sensor, supplyV, input }, maxOut_mA, ...load }
}

/** A resistor between: the bias of a mismatch, or a bleeder. */
function extraOf(r: Reader, between: SwitchSetup['between']): SwitchSetup['extra'] {
  const ohm = between === 'bias resistor' || between === 'bleeder' ? r.in('extraOhm', 'Ohm') : undefined
  return ohm === undefined ? undefined : { to: r.text('extraTo') === 'positive' ? 'positive' : 'negative', ohm }
}

const relayOf = (r: Reader): SwitchSetup['relay'] => ({
  coilV: r.in('coilVolts', 'V') ?? 24,
  coil_mA: r.in('coilCurrent', 'mA') ?? 10,
  contactMax_mA: r.in('contactMost', 'mA') ?? 6000,
})

/** What the entries describe. */
export function setupOf(r: Reader): SwitchSetup {
  const impossible = impossibleOf(r)
  const output = outputOf(r)
  const stage = output ?? 'PNP'
  const contact = r.text('contact') === 'NC' ? 'NC' : 'NO'
  const common: Pole = r.text('common') === 'positive' ? 'positive' : 'negative'
  const between = BETWEENS.find((b) => b === r.text('between')) ?? 'nothing'
  const needs = r.missing(...NEEDED)
  const extra = extraOf(r, between)
  const pins = CONNECTOR_PINS.find((p) => p.id === r.text('connector')) ?? sure(CONNECTOR_PINS[0])
  const by = relayContact(between)
  const possible = impossible.length === 0 && needs.length === 0
  return {
    entered: possible ? enteredOf(r, sensorOf(r, output, contact), common) : undefined,
    between,
    extra,
    relay: relayOf(r),
    needs,
    impossible,
    arrangement: {
      stage,
      contact,
      terminals: terminalsOfSensor(pins, stage, contact),
      legend: output === 'two-wire' ? 'sensor-two-wire' : pins.id === 'leads-older' ? 'sensor-older' : 'iec-sensor',
      least_V: r.in('supplyLeast', 'V') ?? 10,
      most_V: r.in('supplyMost', 'V') ?? 30,
      load: r.text('drives') === 'load',
      common,
      ...(extra ? { extra: { to: extra.to } } : {}),
      ...(by
        ? {
            relay: {
              contact: by,
              coilTo: coilPole(stage),
              contactTo: contactPole(common),
              diode: r.text('diode') !== 'none',
            },
          }
        : {}),
    },
  }
}

/** Figures of the wiring desk's parts. */
export function figuresOf(setup: SwitchSetup, r: Reader): Record<string, number | undefined> {
  const c = setup.entered?.circuit
  return {
    supply: r.in('supply', 'V'),
    residual: c?.sensor.residualV,
    leakage: c?.sensor.leakage_mA,
    inputOhm: c?.input.ohm,
    loadOhm: c?.input.ohm,
    extraOhm: setup.extra?.ohm,
    coilOhm: (1000 * setup.relay.coilV) / setup.relay.coil_mA,
    coilV: setup.relay.coilV,
  }
}

function lane(r: Reader, target: boolean, reading: InputReading, pickedUp: boolean | undefined): Lane {
  const lamp = r.text('lamp')
  const on = reading.state === 'undefined' ? undefined : reading.state === 'on'
  return {
    ...reading,
    target,
    sensorLamp:
      lamp === 'none' || r.text('output') === 'dry contact'
        ? undefined
        : lamp === 'shows the target'
          ? target
          : reading.conducting,
    pickedUp,
    inputLamp: on,
    controller: on === undefined ? undefined : on !== (r.text('logic') === 'inverts the input'),
  }
}

/** The two lanes by formula, or as the drawn circuit gives them. */
export function lanesOf(
  r: Reader,
  setup: SwitchSetup,
  drawn: { present: DrawnState; absent: DrawnState } | undefined,
): SwitchRun['lanes'] {
  const { entered, extra, between, relay } = setup
  if (!entered) return undefined
  const { circuit } = entered
  if (drawn) {
    const { onMinV, offMaxV } = circuit.input
    const read = (target: boolean, d: DrawnState) =>
      lane(
        r,
        target,
        {
          ...d,
          state: !d.coilSure ? 'undefined' : d.inputV >= onMinV ? 'on' : d.inputV <= offMaxV ? 'off' : 'undefined',
        },
        d.pickedUp,
      )
    return { present: read(true, drawn.present), absent: read(false, drawn.absent) }
  }
  const contact = relayContact(between)
  if (contact) {
    const fit = relayFit(circuit, { ...relay, contact })
    const coil = (x: InputReading) => (x.state === 'undefined' ? undefined : x.state === 'on')
    return {
      // The signal wire is on the coil then.
      present: lane(r, true, { ...fit.present, signalV: fit.coil.present.signalV }, coil(fit.coil.present)),
      absent: lane(r, false, { ...fit.absent, signalV: fit.coil.absent.signalV }, coil(fit.coil.absent)),
    }
  }
  const fit = fitOf({ ...circuit, extraResistor: extra })
  return { present: lane(r, true, fit.present, undefined), absent: lane(r, false, fit.absent, undefined) }
}

/** Works, works inverted, undefined, cannot work, or too heavy, from the two lanes. */
export function verdictOfLanes(lanes: NonNullable<SwitchRun['lanes']>, maxOut_mA: number): SwitchRun['verdict'] {
  const { present, absent } = lanes
  if (Math.max(present.sensor_mA, absent.sensor_mA) > maxOut_mA) return 'overloaded'
  const states = [present.state, absent.state]
  const compatible = states.includes('on') && states.includes('off')
  return verdictOf({
    present,
    absent,
    compatible,
    inverted: compatible ? (present.state === 'on') !== present.conducting : null,
  })
}

/** Expected and allowed distances; undefined for a sensor without, or while something is missing. */
export function distanceOf(r: Reader): OperateLimits | undefined {
  const inductive = r.text('sensing') === 'inductive, metal target'
  if (!inductive && r.text('sensing') !== 'magnet, light or other') return undefined
  const rated = r.in('rated', 'mm')
  const metal = inductive ? TARGET_METALS.find((m) => m.id === r.text('metal')) : TARGET_METALS[0]
  if (rated === undefined || rated <= 0 || !metal) return undefined
  const face = r.in('face', 'mm')
  return operateLimits({
    rated_mm: rated,
    metalFactor: metal.typical,
    ...(face !== undefined ? { face_mm: face } : {}),
  })
}
