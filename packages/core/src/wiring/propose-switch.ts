// The wiring that fits a sensor to an input or a load: straight, with a resistor, or through a relay.
import type { Contact, Pole } from '../discrete/index.ts'
import { coreColour } from '../discrete/index.ts'
import type { Conductor, Device, DeviceType, Wiring } from './record.ts'

export interface SwitchArrangement {
  readonly stage: 'PNP' | 'NPN' | 'push-pull' | 'two-wire'
  readonly contact: Contact
  /** Terminals of the sensor by the marks on its leads or pins. */
  readonly terminals: { readonly plus: string; readonly minus: string; readonly signal: string }
  /** Colour convention of its cable. */
  readonly legend: string
  readonly least_V: number
  readonly most_V: number
  /** A load straight on the output, in place of a controller's input. */
  readonly load: boolean
  /** Pole that the input's common, or the load's far end, goes to. */
  readonly common: Pole
  readonly extra?: { readonly to: Pole } | undefined
  readonly relay?:
    { readonly contact: Contact; readonly coilTo: Pole; readonly contactTo: Pole; readonly diode: boolean } | undefined
}

/** A sensor's own current between plus and minus, as a resistance: 24 V and 10 mA are usual, Ω. */
const OWN_OHM = 2400

/** The sensor as a device: its leads as terminals, its output stage between them. */
export function sensorType(a: SwitchArrangement): DeviceType {
  const { plus, minus, signal } = a.terminals
  const twoWire = minus === signal
  return {
    id: 'sensor',
    name: `${a.stage} ${a.contact} sensor`,
    place: 'field',
    role: 'sensor',
    terminals: [
      { id: plus, does: 'supply+' },
      ...(twoWire ? [] : [{ id: minus, does: 'supply-' as const }]),
      { id: signal, does: 'signal-out' },
    ],
    inside: [{ part: 'outputs', stage: a.stage, contact: a.contact, plus, minus, signal }],
    ...(twoWire
      ? {}
      : { power: { from: 'dc', plus, minus, leastV: a.least_V, mostV: a.most_V, ohm: OWN_OHM } as const }),
  }
}

const CABLE_m = 10

/** The proposed wiring of a discrete point. */
export function proposeSwitch(a: SwitchArrangement): Wiring {
  const devices: Device[] = []
  const conductors: Conductor[] = []
  const wire = (from: string, to: string, rest: Partial<Conductor> = {}) =>
    conductors.push({ id: `C${conductors.length + 1}`, from, to, ...rest })
  const field = (terminal: string, to: string) => {
    const colour = coreColour(terminal)
    wire(`SE:${terminal}`, to, { cable: 'W1', core: colour, colour })
  }
  const pole = (p: Pole) => (p === 'positive' ? 'PS:+' : 'PS:−')
  const panel = (p: Pole) => ({ colour: p === 'positive' ? 'red' : 'blue' })
  devices.push({ id: 'SE', type: 'sensor', name: 'Sensor', own: sensorType(a) })
  devices.push({ id: 'PS', type: 'supply-dc', name: '24 V supply' })
  const [end, far] = a.load ? ['LD:X1', 'LD:X2'] : ['DI:I0', 'DI:COM']
  devices.push(a.load ? { id: 'LD', type: 'load-dc', name: 'Load' } : { id: 'DI', type: 'di-card', name: 'Input card' })
  if (a.relay) devices.push({ id: 'K1', type: a.relay.diode ? 'relay' : 'relay-bare', name: 'Relay' })
  if (a.extra) devices.push({ id: 'R1', type: 'extra-resistor', name: 'Resistor' })

  // A1 of the coil is plus: its diode stands there.
  const [coilEnd, coilFar] = a.relay?.coilTo === 'positive' ? ['K1:A2', 'K1:A1'] : ['K1:A1', 'K1:A2']
  const arrives = a.relay ? coilEnd : end
  const { plus, minus, signal } = a.terminals
  if (minus === signal) {
    // Two leads: the stage stands between plus and the input, or between the input and minus.
    const low = !a.relay && a.common === 'positive'
    field(plus, low ? arrives : 'PS:+')
    field(signal, low ? 'PS:−' : arrives)
  } else {
    field(plus, 'PS:+')
    field(minus, 'PS:−')
    field(signal, arrives)
  }
  if (a.relay) {
    wire(coilFar, pole(a.relay.coilTo), panel(a.relay.coilTo))
    wire('K1:11', pole(a.relay.contactTo), panel(a.relay.contactTo))
    wire(a.relay.contact === 'NO' ? 'K1:14' : 'K1:12', end, { colour: 'white' })
  }
  if (a.extra) {
    wire('R1:1', arrives, { colour: 'white' })
    wire('R1:2', pole(a.extra.to), panel(a.extra.to))
  }
  wire(far, pole(a.common), panel(a.common))
  return {
    format: 'calm-loop/wiring-1',
    devices,
    cables: [{ id: 'W1', name: 'Sensor cable', legend: a.legend, length_m: CABLE_m }],
    conductors,
  }
}
