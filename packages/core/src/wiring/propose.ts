// The wiring that fits an arrangement: devices, cables and conductors, every core on its right terminal.
import type { Cable, Conductor, Device, Wiring } from './record.ts'

/** How a sensor is wired to the controller that reads it. */
export const SENSOR_INTERFACES = ['RS-485 and supply pair', 'coaxial', 'own terminals'] as const
export type SensorInterface = (typeof SENSOR_INTERFACES)[number]

/** The two devices of each, and what joins them: terminal of the sensor, terminal of the controller, colour. */
const SENSOR_WIRING: Readonly<
  Record<
    SensorInterface,
    { types: readonly [string, string]; legend: string; cores: readonly (readonly [string, string, string])[] }
  >
> = {
  'RS-485 and supply pair': {
    types: ['bus-sensor', 'sensor-in-485'],
    legend: 'bus-red-green',
    cores: [
      ['24+', 'S+', 'white'],
      ['24−', 'S−', 'blue'],
      ['D+', 'D+', 'red'],
      ['D−', 'D−', 'green'],
      ['C', 'C', 'black'],
    ],
  },
  coaxial: {
    types: ['sensor-coax', 'sensor-in-coax'],
    legend: 'unmarked',
    cores: [
      ['X', 'X', 'white'],
      ['SC', 'SC', 'black'],
    ],
  },
  'own terminals': {
    types: ['sensor-leads', 'sensor-in-leads'],
    legend: 'unmarked',
    cores: [
      ['1', '1', 'white'],
      ['2', '2', 'black'],
      ['3', '3', 'red'],
    ],
  },
}

/** The interface that a device gives a sensor; undefined for any other device. */
export const interfaceOfType = (type: string): SensorInterface | undefined =>
  SENSOR_INTERFACES.find((i) => SENSOR_WIRING[i].types[1] === type)

export interface Arrangement {
  readonly output:
    'two-wire' | 'three-wire' | 'four-wire active' | 'four-wire passive' | 'isolated, fed by jumper' | 'digital bus'
  readonly receiver: 'card supplies loop' | 'passive card' | 'converter, channel 1' | 'converter, channel 2'
  readonly power: 'dc' | 'mains'
  readonly between: 'nothing' | 'barrier' | 'isolator'
  readonly junction: boolean
  /** A second receiver, in series with the first. */
  readonly second: boolean
  /** Resistance of the second receiver, and of the isolator's input, Ω. */
  readonly secondBurden: number
  readonly isolatorBurden: number
  /** Series resistance to be put into the loop (or shared by the barrier’s channels), Ω. */
  readonly otherSeries: number
  /** The channel of the converter takes a voltage: a resistor stands across it. */
  readonly voltageInput?: boolean
  /** How the sensor hangs on its controller, where it is not one with the transmitter. */
  readonly sensor?: SensorInterface
  /** Live and neutral colours. */
  readonly acLegend: 'iec-ac' | 'na-ac'
  /** Colours of the signal pair, by convention. */
  readonly pairLegend: keyof typeof PAIR_COLOURS
}

/** Colours of a signal pair, and of the supply beside it where the cable carries one. */
const PAIR_COLOURS = {
  'pair-black-white': { plus: 'white', minus: 'black', third: 'red', fourth: 'green' },
  'dc-red-black': { plus: 'red', minus: 'black', third: 'brown', fourth: 'green' },
} as const

export const PLAIN: Arrangement = {
  output: 'two-wire',
  receiver: 'card supplies loop',
  power: 'dc',
  between: 'nothing',
  junction: true,
  second: false,
  secondBurden: 50,
  isolatorBurden: 50,
  otherSeries: 0,
  acLegend: 'iec-ac',
  pairLegend: 'pair-black-white',
}

const OUTPUT_TYPE: Record<Arrangement['output'], Record<'dc' | 'mains', string>> = {
  'two-wire': { dc: 'two-wire', mains: 'two-wire' },
  'three-wire': { dc: 'three-wire', mains: 'three-wire' },
  'four-wire active': { dc: 'active-dc', mains: 'active-ac' },
  'four-wire passive': { dc: 'passive-dc', mains: 'passive-ac' },
  'isolated, fed by jumper': { dc: 'isolated-dc', mains: 'isolated-ac' },
  'digital bus': { dc: 'bus-sensor', mains: 'bus-sensor' },
}

/** Where the run of one line stands, and how many cores each cable has so far. */
class Bench {
  readonly devices: Device[] = []
  readonly cables: Cable[] = []
  readonly conductors: Conductor[] = []
  add(id: string, type: string, name: string, figures?: Record<string, number>): void {
    this.devices.push({ id, type, name, ...(figures ? { figures } : {}) })
  }
  wire(from: string, to: string, rest: Omit<Conductor, 'id' | 'from' | 'to' | 'ferrule'> = {}): void {
    this.conductors.push({ id: `C${this.conductors.length + 1}`, from, to, ...rest })
  }
}

/** A line from the field to the cabinet: through the junction box and the barrier where there are. */
interface Line {
  readonly field: string
  readonly cabinet: string
  readonly core: string
  readonly colour: string
  /** Channel of the barrier. */
  readonly channel?: 1 | 2 | undefined
}

function run(b: Bench, a: Arrangement, lines: readonly Line[], bus: boolean): void {
  const legend = bus ? 'bus-red-green' : a.pairLegend
  b.cables.push(
    ...(a.junction
      ? [
          { id: 'W1', name: 'Field cable', legend, share: 0.1 },
          { id: 'W2', name: 'Home run', legend, share: 0.9 },
        ]
      : [{ id: 'W1', name: 'Field cable', legend, share: 1 }]),
  )
  if (a.junction) b.add('JB', 'junction', 'Junction box')
  const barrier = a.between === 'barrier'
  const home = a.junction ? 'W2' : 'W1'
  lines.forEach((line, i) => {
    const core = { core: line.core, colour: line.colour }
    let at = line.field
    if (a.junction) {
      b.wire(at, `JB:${i + 1}`, { cable: 'W1', ...core })
      at = `JB:${i + 1}`
    }
    if (barrier && line.channel) {
      b.wire(at, `BR:${line.channel}`, { cable: home, ...core })
      b.wire(`BR:${line.channel + 2}`, line.cabinet, core)
    } else b.wire(at, line.cabinet, { cable: home, ...core })
  })
  // Earthed at the cabinet only: the field end is cut back and insulated.
  const shield = { core: 'shield', colour: 'shield' }
  if (a.junction) {
    b.wire('JB:6', '', { cable: 'W1', ...shield })
    b.wire('JB:6', 'EB:E1', { cable: home, ...shield })
  } else b.wire('EB:E1', '', { cable: home, ...shield })
}

/** What runs from the field to the cabinet: the signal, and a supply of its own where the device has none. */
function linesOf(b: Bench, a: Arrangement, w: Way, arrives: string): Line[] {
  const { bus, active, jumper, needsDc, fedBy } = w
  const returns = w.input.minus
  const pair = PAIR_COLOURS[a.pairLegend]
  const plus = { core: pair.plus, colour: pair.plus }
  const minus = { core: pair.minus, colour: pair.minus }
  const lines: Line[] = []
  if (bus) {
    lines.push(
      { field: 'TX:D+', cabinet: 'RX:D+', core: 'red', colour: 'red' },
      { field: 'TX:D−', cabinet: 'RX:D−', core: 'green', colour: 'green' },
      { field: 'TX:C', cabinet: 'RX:C', core: 'black', colour: 'black' },
    )
  } else if (active) {
    const [out, back] = a.output === 'three-wire' ? ['TX:S', ''] : ['TX:I+', 'TX:I−']
    lines.push({ field: out, cabinet: arrives, ...plus, channel: 1 })
    if (back) lines.push({ field: back, cabinet: returns, ...minus, channel: 2 })
  } else {
    const [p, m] = a.output === 'two-wire' ? ['TX:+', 'TX:−'] : ['TX:I+', 'TX:I−']
    if (jumper) {
      b.wire('TX:A+', p, { colour: 'red' })
      lines.push({ field: m, cabinet: arrives, ...plus, channel: 1 })
      lines.push({ field: 'TX:A−', cabinet: returns, ...minus, channel: 2 })
    } else {
      lines.push({ field: p, cabinet: fedBy === 'card' ? 'RX:24V' : 'PS:+', ...plus, channel: 1 })
      lines.push({ field: m, cabinet: arrives, ...minus, channel: 2 })
    }
  }
  if (needsDc) {
    const [p, m] = a.output === 'three-wire' ? ['TX:+', 'TX:0V'] : ['TX:24+', 'TX:24−']
    const [fed, back] = bus ? ['white', 'blue'] : [pair.third, pair.fourth]
    lines.push({ field: p, cabinet: 'PS:+', core: fed, colour: fed })
    lines.push({ field: m, cabinet: 'PS:−', core: back, colour: back })
  }
  return lines
}

const isBus = (a: Arrangement) => a.output === 'digital bus'
const hasResistor = (a: Arrangement) => a.otherSeries > 0 && a.between !== 'barrier' && !isBus(a)

/** What the choices of an arrangement come to. */
interface Way {
  readonly bus: boolean
  readonly active: boolean
  readonly jumper: boolean
  readonly mains: boolean
  /** A supply of its own for the device. */
  readonly needsDc: boolean
  readonly converter: boolean
  readonly channel: string
  readonly isolator: boolean
  readonly cardFeeds: boolean
  /** The device takes its current from elsewhere. */
  readonly sinks: boolean
  readonly fedBy: 'device' | 'card' | 'supply'
  /** Where the signal arrives in the cabinet, and where it goes back. */
  readonly input: { readonly plus: string; readonly minus: string }
}

function wayOf(a: Arrangement): Way {
  const bus = isBus(a)
  const active = a.output === 'four-wire active' || a.output === 'three-wire'
  const jumper = a.output === 'isolated, fed by jumper'
  const mains = a.power === 'mains' && (a.output.startsWith('four-wire') || jumper)
  const converter = a.receiver.startsWith('converter')
  const channel = a.receiver.endsWith('2') ? '2' : '1'
  const isolator = a.between === 'isolator' && !bus
  const cardFeeds = a.receiver === 'card supplies loop' && !bus
  const sinks = !bus && !active
  return {
    bus,
    active,
    jumper,
    mains,
    needsDc: a.output !== 'two-wire' && !mains,
    converter,
    channel,
    isolator,
    cardFeeds,
    sinks,
    // Who feeds the current: the card, unless something else has to.
    fedBy: !sinks || jumper ? 'device' : cardFeeds && !isolator ? 'card' : 'supply',
    input: isolator ? { plus: 'ISO:1+', minus: 'ISO:2−' } : receiverInput(cardFeeds, converter, channel),
  }
}

/** The device in the field, and what receives it in the cabinet. */
function addEnds(b: Bench, a: Arrangement, power: 'mains' | 'dc'): void {
  const ends = { termination: 120 }
  const bus = isBus(a)
  b.add('TX', OUTPUT_TYPE[a.output][power], bus ? 'Sensor' : 'Transmitter', bus ? ends : undefined)
  if (bus) b.add('RX', 'bus-display', 'Display', ends)
  else if (a.receiver.startsWith('converter')) {
    b.add('RX', 'converter', 'Converter', ends)
    b.add('DSP', 'bus-display', 'Display', ends)
  } else b.add('RX', a.receiver === 'card supplies loop' ? 'card-supplies' : 'card-passive', 'Input card')
}

/** What stands between them, and what feeds and earths them. */
function addBetween(b: Bench, a: Arrangement, supply: boolean): void {
  const bus = isBus(a)
  const barrier = a.between === 'barrier' && !bus
  if (supply) b.add('PS', 'supply-dc', '24 V supply')
  if (a.between === 'isolator' && !bus) b.add('ISO', 'isolator', 'Isolator', { burden: a.isolatorBurden })
  if (barrier) b.add('BR', 'barrier', 'Barrier', { channelOhm: Math.max(a.otherSeries / 2, 0.01) })
  b.add('EB', 'earth-bar', 'Earth bar')
  if (barrier) b.wire('EB:E2', 'BR:PE', { colour: 'green-yellow' })
  if (hasResistor(a)) b.add('R1', 'series-resistor', 'Series resistor')
  if (a.second && !bus) b.add('IND', 'indicator', 'Loop indicator', { burden: a.secondBurden })
}

/** Where the line arrives: it passes resistor and second receiver before it reaches the first. */
function backwards(b: Bench, a: Arrangement, input: string): string {
  const link = { colour: 'white' }
  let arrives = input
  if (a.second) {
    b.wire('IND:−', arrives, link)
    arrives = 'IND:+'
  }
  if (hasResistor(a)) {
    b.wire('R1:2', arrives, link)
    arrives = 'R1:1'
  }
  return arrives
}

/**
 * The proposed wiring: one and only one loop supply, receivers in series, the shield earthed at the cabinet only, bus
 * terminated at its two
 * ends only.
 */
export function propose(a: Arrangement): Wiring {
  const b = new Bench()
  const w = wayOf(a)
  addEnds(b, a, w.mains ? 'mains' : 'dc')
  addBetween(b, a, w.fedBy === 'supply' || w.needsDc || w.converter || w.bus || w.isolator)
  const arrives = w.bus ? w.input.plus : backwards(b, a, w.input.plus)
  run(b, a, linesOf(b, a, w, arrives), w.bus)
  if (w.mains) feedFromMains(b, a)
  if (a.sensor && !w.bus) hangSensor(b, a.sensor)
  closeReturn(b, a, w)
  if (w.converter && !w.bus) wireConverter(b)
  if (w.converter && !w.bus && a.voltageInput) {
    b.add('RS', 'range-resistor', 'Resistor across the input')
    b.wire('RS:+', `RX:${w.channel}+`, { colour: 'white' })
    b.wire('RS:−', `RX:${w.channel}−`, { colour: 'black' })
  }
  if (w.bus) {
    b.wire('PS:+', 'RX:24+', { colour: 'red' })
    b.wire('PS:−', 'RX:24−', { colour: 'black' })
  }
  return { format: 'calm-loop/wiring-1', devices: b.devices, cables: b.cables, conductors: b.conductors }
}

function hangSensor(b: Bench, how: SensorInterface): void {
  const { types, legend, cores } = SENSOR_WIRING[how]
  const ends = how === 'RS-485 and supply pair' ? { termination: 120 } : undefined
  b.add('SE', types[0], 'Sensor', ends)
  b.add('SI', types[1], 'Sensor terminals', ends)
  b.cables.push({ id: 'W7', name: 'Sensor cable', legend, length_m: 20 })
  for (const [sensor, controller, colour] of cores)
    b.wire(`SE:${sensor}`, `SI:${controller}`, { cable: 'W7', core: colour, colour })
}

function feedFromMains(b: Bench, a: Arrangement): void {
  b.add('AC', 'mains', 'Mains feed')
  b.cables.push({ id: 'W9', name: 'Mains cable', legend: a.acLegend, length_m: 10 })
  const [l, n, e] = a.acLegend === 'iec-ac' ? ['brown', 'blue', 'green-yellow'] : ['black', 'white', 'green']
  for (const [terminal, colour] of [
    ['L', l],
    ['N', n],
    ['PE', e],
  ] as const)
    b.wire(`AC:${terminal}`, `TX:${terminal}`, { cable: 'W9', core: colour, colour })
}

function receiverInput(cardFeeds: boolean, converter: boolean, channel: string) {
  if (converter) return { plus: `RX:${channel}+`, minus: `RX:${channel}−` }
  return cardFeeds ? { plus: 'RX:IN', minus: 'RX:0V' } : { plus: 'RX:IN+', minus: 'RX:IN−' }
}

/** What closes the loop in the cabinet: back to the supply, and from the isolator on to the receiver. */
function closeReturn(b: Bench, a: Arrangement, w: Way): void {
  const back = { colour: 'black' }
  if (w.sinks && w.fedBy === 'supply') b.wire(w.input.minus, 'PS:−', back)
  if (a.output === 'three-wire') b.wire(w.input.minus, 'PS:−', back)
  if (w.isolator) {
    b.wire('PS:+', 'ISO:24+', { colour: 'red' })
    b.wire('PS:−', 'ISO:24−', back)
    const next = receiverInput(w.cardFeeds, w.converter, w.channel)
    b.wire('ISO:3+', next.plus, { colour: 'white' })
    b.wire('ISO:4−', next.minus, back)
  }
}

function wireConverter(b: Bench): void {
  b.wire('PS:+', 'RX:24+', { colour: 'red' })
  b.wire('PS:−', 'RX:24−', { colour: 'black' })
  b.cables.push({ id: 'W5', name: 'Bus cable', legend: 'bus-red-green', length_m: 20 })
  b.wire('RX:D+', 'DSP:D+', { cable: 'W5', core: 'red', colour: 'red' })
  b.wire('RX:D−', 'DSP:D−', { cable: 'W5', core: 'green', colour: 'green' })
  b.wire('RX:C', 'DSP:C', { cable: 'W5', core: 'black', colour: 'black' })
  b.wire('PS:+', 'DSP:24+', { colour: 'red' })
  b.wire('PS:−', 'DSP:24−', { colour: 'black' })
}
