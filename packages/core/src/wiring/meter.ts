// A meter put to the loop: what to set, where the leads go, what it will show, and what another display would mean.
import { formatQuantity as show } from '../quantity/index.ts'
import { conductorPart, energise, mainsOf, type Alter, type Conditions, type Energised } from './energise.ts'
import type { Wiring } from './record.ts'
import { terminalsOf } from './types.ts'

export type Placement =
  /** The conductor is lifted at one end and the meter put between: red to the side the current comes from. */
  | { readonly how: 'series'; readonly conductor: string; readonly end: 'from' | 'to' }
  /** Across two terminals, set to volts. */
  | { readonly how: 'volts'; readonly red: string; readonly black: string }
  /** Across two terminals, set to mA: right across a test diode, wrong across almost anything else. */
  | { readonly how: 'milliamps'; readonly red: string; readonly black: string }
  /** A clamp around a conductor, its arrow pointing from the first end to the second. */
  | { readonly how: 'clamp'; readonly conductor: string }

/** A usual hand meter. */
export const METER = { shuntOhm: 5, fusemA: 440, voltsOhm: 1e7 } as const
/** What a process clamp resolves, mA. */
export const CLAMP_STEP_mA = 0.05

export interface Meaning {
  readonly shows: string
  readonly means: string
}

export interface MeterReading {
  readonly jack: string
  readonly function: string
  readonly redTo: string
  readonly blackTo: string
  /** Steps in their order. */
  readonly steps: readonly string[]
  readonly quantity: 'V' | 'mA'
  /**
   * What the display will show at this moment, sign included; 0 after its fuse has blown; null where it is not
   * computed.
   */
  readonly value: number | null
  readonly display: string
  readonly blown: boolean
  /** Why not to do it; absent where it is safe. */
  readonly danger?: string
  /** Whether power must be off while the meter goes in. */
  readonly powerOff: boolean
  readonly meanings: readonly Meaning[]
  /** The loop with the meter in it. */
  readonly energised: Energised
}

const METER_ID = 'meter'
const CUT = 'meter:cut'

/** The circuit with the meter in it. */
export function withMeter(placement: Placement): Alter {
  return (parts) => {
    switch (placement.how) {
      case 'series': {
        const id = conductorPart(placement.conductor)
        const cut = parts.find((p) => p.id === id)
        if (cut?.kind !== 'resistor') return parts
        const [a, b] = placement.end === 'from' ? [CUT, cut.b] : [cut.a, CUT]
        const at = placement.end === 'from' ? cut.a : cut.b
        return [
          ...parts.filter((p) => p.id !== id),
          { ...cut, a, b },
          { kind: 'ammeter', id: METER_ID, plus: CUT, minus: at, ohm: METER.shuntOhm, fusemA: METER.fusemA },
        ]
      }
      case 'volts':
        return [
          ...parts,
          { kind: 'voltmeter', id: METER_ID, plus: placement.red, minus: placement.black, ohm: METER.voltsOhm },
        ]
      case 'milliamps':
        return [
          ...parts,
          {
            kind: 'ammeter',
            id: METER_ID,
            plus: placement.red,
            minus: placement.black,
            ohm: METER.shuntOhm,
            fusemA: METER.fusemA,
          },
        ]
      case 'clamp':
        return parts
    }
  }
}

const seriesMeanings = (expected: number): Meaning[] => [
  {
    shows: '0.00 mA',
    means:
      'Loop open, no supply, transmitter reversed or dead, or this meter’s own fuse is blown: try it on volts ' +
      'across the gap.',
  },
  {
    shows: 'the same with a minus',
    means: 'The leads are exchanged. Nothing is hurt; the current flows the other way through the meter.',
  },
  { shows: 'about half', means: 'A second path: two receivers in parallel, or a leak to earth before the meter.' },
  {
    shows: `stuck below ${show(expected, 'mA', { decimals: 1 })}`,
    means: 'The transmitter has not its lift-off voltage: supply too low or too much resistance.',
  },
  { shows: '3.6 mA or less, 21 mA or more', means: 'The transmitter signals a fault of its own.' },
  { shows: 'over range', means: 'More than the meter’s range: a short, or the wrong range.' },
  { shows: 'a few hundredths, unsteady', means: 'AC is selected: a steady DC current shows as almost nothing.' },
]

const voltMeanings = (expected: number, shunt: boolean): Meaning[] => [
  {
    shows: '0.00 V',
    means: shunt
      ? 'No current, or the shunt is missing and the input shorted.'
      : 'No voltage between these terminals, or the meter is set to AC.',
  },
  { shows: 'the same with a minus', means: 'The leads are exchanged, or the current runs the other way.' },
  {
    shows: 'about half',
    means: shunt
      ? 'The shunt is doubled (two in parallel), or half the current goes elsewhere.'
      : 'Something in the loop takes its share: a high resistance or a second receiver.',
  },
  {
    shows: 'the whole supply',
    means: shunt
      ? 'The shunt is open: the input sees the supply through the transmitter.'
      : 'The loop is open on the far side of these terminals.',
  },
  {
    shows: `stuck near ${show(expected, 'V', { decimals: 2 })}`,
    means: 'The transmitter does not follow: hold, fixed current, or too little voltage.',
  },
  { shows: 'over range', means: 'More than DC volts of this loop: mains. Step back and isolate.' },
]

const terminalWords = (ref: string) => `terminal ${ref}`

type Placed<H extends Placement['how']> = Extract<Placement, { how: H }>
/** What a placement is read from: the wiring, solved without the meter and with it. */
interface Solved {
  readonly wiring: Wiring
  readonly now: Energised
  readonly energised: Energised
  readonly solved: Energised['solution']['parts'][string] | undefined
}
const mA = (v: number) => show(v === 0 ? 0 : v, 'mA', { decimals: 2 })

/** In series, in the place of a lifted core. */
function inSeries({ wiring, now, energised, solved }: Solved, placement: Placed<'series'>): MeterReading {
  const conductor = wiring.conductors.find((c) => c.id === placement.conductor)
  const at = conductor ? conductor[placement.end] : ''
  // Red goes where the current comes from.
  const through = now.milliamps(placement.conductor) ?? 0
  const comesFromConductor = placement.end === 'to' ? through >= 0 : through <= 0
  const raw = solved?.blown ? 0 : (solved?.mA ?? 0)
  const value = comesFromConductor ? raw : -raw
  const [redTo, blackTo] = comesFromConductor
    ? [`lifted core of ${placement.conductor}`, terminalWords(at)]
    : [terminalWords(at), `lifted core of ${placement.conductor}`]
  return {
    jack: 'mA',
    function: 'DC mA',
    redTo,
    blackTo,
    quantity: 'mA',
    value,
    display: mA(value),
    blown: solved?.blown ?? false,
    powerOff: true,
    energised,
    steps: [
      'Loop in manual, operations told. Power off, proved dead.',
      'Red lead into the mA jack, black into COM. Not the A jack, not the V jack.',
      'Function DC mA, range above 22 mA.',
      `Lift the core of ${placement.conductor} at ${terminalWords(at)}.`,
      `Red to the ${redTo}, black to the ${blackTo}.`,
      'Power on. Read. Change neither jack nor function while it is in circuit.',
      'Power off before the leads come off; land the core again and pull on it.',
    ],
    meanings: seriesMeanings(value),
    ...(solved?.blown
      ? { danger: 'More current than the meter’s fuse carries flows here: the fuse blows. Do not try it.' }
      : {}),
  }
}

/** Across two terminals, set to volts. */
function acrossVolts({ wiring, energised, solved }: Solved, placement: Placed<'volts'>): MeterReading {
  const spots = terminalsOf(wiring)
  const mains = mainsOf(wiring)
  const ends = [placement.red, placement.black]
  const ac = ends.some((ref) => mains.live.has(ref) || mains.neutral.has(ref))
  const data = ends.some((ref) => spots.get(ref)?.does.startsWith('bus'))
  // Never a 0 that nobody computed: at the mains it could kill.
  const value = ac || data ? null : (solved?.volts ?? 0)
  const unknown = !ac
    ? 'not computed: data'
    : ends.every((ref) => !mains.live.has(ref))
      ? 'a few volts, treat as live'
      : 'mains voltage'
  const shunt = energised.parts.some(
    (p) =>
      p.kind === 'resistor' &&
      p.id.includes('/') &&
      [p.a, p.b].includes(placement.red) &&
      [p.a, p.b].includes(placement.black),
  )
  return {
    jack: 'V',
    function: ac ? 'AC V' : 'DC V',
    redTo: terminalWords(placement.red),
    blackTo: terminalWords(placement.black),
    quantity: 'V',
    value,
    display: value === null ? unknown : show(value === 0 ? 0 : value, 'V', { decimals: 2 }),
    blown: false,
    powerOff: false,
    energised,
    steps: [
      'Red lead into the V jack, black into COM. Take the lead out of the mA jack first.',
      `Function ${ac ? 'AC' : 'DC'} V.`,
      `Black to ${terminalWords(placement.black)}, then red to ${terminalWords(placement.red)}. Touch ` +
        'nothing else.',
      ...(ac
        ? ['Only with a permit and by a licensed person. Read without holding the probes’ tips.']
        : shunt
          ? ['Divide by the resistor’s value: its tolerance counts in the result.']
          : ['Read, and compare with what is expected.']),
    ],
    meanings: value === null ? [] : voltMeanings(value, shunt),
    ...(ac ? { danger: 'Mains: only a licensed person, with leads and meter rated for it (CAT III or better).' } : {}),
  }
}

/** What a meter set to mA does where volts stand. */
function dangerOf(at: {
  readonly placement: Placed<'milliamps'>
  readonly live: boolean
  readonly blown: boolean
  /** At a test diode, where it is meant to be. */
  readonly test: boolean
  readonly before: number
  readonly value: number
}): Pick<MeterReading, 'danger'> {
  if (at.live) return { danger: 'Mains on a meter set to mA: it can explode in the hand. Never.' }
  if (at.blown)
    return {
      danger:
        `Set to mA the meter is ${METER.shuntOhm} Ω across ` +
        `${show(Math.abs(at.before), 'V', { decimals: 1 })}: its ${METER.fusemA} mA fuse blows. A real ` +
        'one may flash over, and a cheap one has no fuse there.',
    }
  if (at.test) return {}
  return {
    danger:
      `The meter joins ${at.placement.red} and ${at.placement.black} with ${METER.shuntOhm} Ω: it shows ` +
      `${mA(at.value)} and the loop reads false while it is there.`,
  }
}

/** Across two terminals, set to mA: a danger everywhere but at a test diode. */
function acrossMilliamps({ wiring, now, energised, solved }: Solved, placement: Placed<'milliamps'>): MeterReading {
  const spots = terminalsOf(wiring)
  const blown = solved?.blown ?? false
  const value = blown ? 0 : (solved?.mA ?? 0)
  const mains = mainsOf(wiring)
  const live = [placement.red, placement.black].some((ref) => mains.live.has(ref) || mains.neutral.has(ref))
  const before = now.between(placement.red, placement.black)
  const [a, b] = [spots.get(placement.red), spots.get(placement.black)]
  const test = a?.device === b?.device && [a?.does, b?.does].includes('test+')
  return {
    jack: 'mA',
    function: 'DC mA',
    redTo: terminalWords(placement.red),
    blackTo: terminalWords(placement.black),
    quantity: 'mA',
    value,
    display: mA(value),
    blown,
    powerOff: false,
    energised,
    steps: test
      ? [
          'Red lead into the mA jack, black into COM. Function DC mA.',
          `Red to ${terminalWords(placement.red)}, black to ${terminalWords(placement.black)}. The loop ` +
            'is not broken.',
          'Read. The meter takes the current that the diode carried; its own drop must stay under 0.4 V.',
        ]
      : ['Do not. A meter set to mA is a piece of wire with a fuse in it.'],
    meanings: seriesMeanings(value),
    ...dangerOf({ placement, live, blown, test, before, value }),
  }
}

/** Around one conductor, which is not touched. */
function clamped({ wiring, now }: Solved, placement: Placed<'clamp'>): MeterReading {
  const exact = now.milliamps(placement.conductor) ?? 0
  const value = Math.round(exact / CLAMP_STEP_mA) * CLAMP_STEP_mA
  const conductor = wiring.conductors.find((c) => c.id === placement.conductor)
  return {
    jack: 'none',
    function: 'DC mA clamp, zeroed beside the conductor',
    redTo: `arrow towards ${conductor?.to ?? ''}`,
    blackTo: 'one conductor only in the jaw',
    quantity: 'mA',
    value: value === 0 ? 0 : value,
    display: mA(value === 0 ? 0 : value),
    blown: false,
    powerOff: false,
    energised: now,
    steps: [
      'Zero the clamp next to the conductor, the jaw closed and empty.',
      `Close it around ${placement.conductor} alone, its arrow towards ${conductor?.to ?? 'the far end'}.`,
      'Read. It is coarse: count on ± 0.2 mA, and on the earth’s field for as much again if the clamp is ' +
        'turned after zeroing.',
    ],
    meanings: [
      { shows: '0.0 mA', means: 'No current, or both cores are in the jaw and cancel.' },
      { shows: 'the same with a minus', means: 'The arrow points against the current.' },
      { shows: 'half or double', means: 'Two conductors in the jaw, or the conductor is wound twice.' },
      { shows: 'drifting', means: 'Not zeroed here: magnetised jaw or a motor close by.' },
    ],
  }
}

/** What the meter shows where it is put, and all that belongs to putting it there. @throws Refusal of the solver */
export function placeMeter(
  wiring: Wiring,
  conditions: Conditions,
  placement: Placement,
  base?: Energised,
): MeterReading {
  const energised = energise({ wiring, conditions, alter: withMeter(placement), start: base?.powered })
  const now = base ?? energise({ wiring, conditions })
  const found: Solved = { wiring, now, energised, solved: energised.solution.parts[METER_ID] }
  switch (placement.how) {
    case 'series':
      return inSeries(found, placement)
    case 'volts':
      return acrossVolts(found, placement)
    case 'milliamps':
      return acrossMilliamps(found, placement)
    case 'clamp':
      return clamped(found, placement)
  }
}
