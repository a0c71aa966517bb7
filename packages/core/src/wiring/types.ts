// The device types and colour conventions that come with the product, as tables.
import colourRows from './colour-conventions.json' with { type: 'json' }
import typeRows from './device-types.json' with { type: 'json' }
import {
  FUNCTIONS,
  type Cable,
  type ChannelKind,
  type Device,
  type Inside,
  type DeviceType,
  type TerminalFunction,
  type Wiring,
} from './record.ts'
import { sure } from '../sure/index.ts'

export const DEVICE_TYPES = typeRows as readonly DeviceType[]
const byId = new Map(DEVICE_TYPES.map((t) => [t.id, t]))

/** What a channel is set to. */
export const channelKind = (device: Device, channel: NonNullable<DeviceType['channels']>[number]): ChannelKind => {
  const set = device.set?.[channel.id]
  return set && channel.can.includes(set) ? set : sure(channel.can[0])
}

type Channel = NonNullable<DeviceType['channels']>[number]
interface ChannelMakes {
  readonly does: readonly [plus: TerminalFunction, minus: TerminalFunction]
  inside(c: Channel): Inside[]
}
const CHANNEL_MAKES: Readonly<Record<ChannelKind, ChannelMakes>> = {
  'current, active': {
    does: ['out+', 'out-'],
    inside: ({ plus, minus }) => [{ part: 'drives', plus, minus, maxV: 'maxV' }],
  },
  'current, passive': {
    does: ['loop+', 'loop-'],
    inside: ({ plus, minus }) => [{ part: 'transmitter', plus, minus, reverse: 'blocks' }],
  },
  'pulse or frequency, passive': {
    does: ['signal-out', 'common'],
    // An open collector: it joins its plus to its minus while a pulse lasts.
    inside: ({ plus, minus }) => [{ part: 'outputs', stage: 'NPN', contact: 'NO', plus, minus, signal: plus }],
  },
  'relay contact': { does: ['contact', 'contact'], inside: () => [] },
  'resistance thermometer input': {
    does: ['in+', 'in-'],
    inside: ({ id, plus, minus }) => [{ part: 'resists', id: `thermometer ${id}`, a: plus, b: minus, ohm: 1e7 }],
  },
  off: { does: ['through', 'through'], inside: () => [] },
}

/** A type with its channels as they are set: terminals and what is inside follow. */
function withChannels(type: DeviceType, device: Device): DeviceType {
  if (!type.channels?.length) return type
  const of = (terminal: string) =>
    type.channels?.flatMap((c) => {
      const { does } = CHANNEL_MAKES[channelKind(device, c)]
      return c.plus === terminal ? [does[0]] : c.minus === terminal ? [does[1]] : []
    })[0]
  return {
    ...type,
    terminals: type.terminals.map((t) => ({ ...t, does: of(t.id) ?? t.does })),
    inside: [...type.inside, ...type.channels.flatMap((c) => CHANNEL_MAKES[channelKind(device, c)].inside(c))],
  }
}

/** A device’s type: its own, or the built-in one, its channels as set; undefined where neither is known. */
export function typeOf(device: Device): DeviceType | undefined {
  const type = device.own ?? byId.get(device.type)
  return type && withChannels(type, device)
}
export const builtIn = (id: string): DeviceType => sure(byId.get(id))

export interface ColourConvention {
  readonly id: string
  readonly name: string
  readonly source: string
  /** Meaning by colour. */
  readonly colours: Readonly<Record<string, string>>
}
export const COLOUR_CONVENTIONS = colourRows as unknown as readonly ColourConvention[]
/** What a cable’s colours mean: by a legend of its own, else by the convention it follows. */
export function conventionOf(cable: Pick<Cable, 'legend' | 'own'>): ColourConvention {
  if (cable.own)
    return {
      id: OWN_LEGEND,
      name: 'a legend of its own',
      source: 'Entered for this cable',
      colours: Object.fromEntries(cable.own.map((row) => [row.colour, row.means])),
    }
  return COLOUR_CONVENTIONS.find((c) => c.id === cable.legend) ?? sure(COLOUR_CONVENTIONS.at(-1))
}
/** Id of the legend of a cable that brings its own. */
export const OWN_LEGEND = 'own'
/** Words that a colour can mean, as the judging of colours reads them. */
export const MEANINGS = [...new Set(COLOUR_CONVENTIONS.flatMap((c) => Object.values(c.colours)))] as readonly string[]

/** Insulation colours as they are drawn. */
export const INSULATION: Readonly<Record<string, string>> = {
  black: '#1b1b1b',
  white: '#f6f4ee',
  red: '#c8261f',
  brown: '#7a4a24',
  blue: '#2f6fc1',
  'dark blue': '#1d3a78',
  green: '#2f8a45',
  'green-yellow': '#5fa62f',
  grey: '#8a8d8f',
  yellow: '#e6c619',
  orange: '#e07b1a',
  violet: '#7b4aa0',
  shield: '#9a9a92',
}

export interface TerminalSpot {
  readonly device: Device
  readonly type: DeviceType
  readonly terminal: string
  readonly does: TerminalFunction
}
export const refOf = (deviceId: string, terminal: string): string => `${deviceId}:${terminal}`

/** Every terminal of the wiring by its reference, such as `PS:+`. */
export function terminalsOf(wiring: Wiring): Map<string, TerminalSpot> {
  const spots = new Map<string, TerminalSpot>()
  for (const device of wiring.devices) {
    const type = typeOf(device)
    for (const t of type?.terminals ?? [])
      spots.set(refOf(device.id, t.id), { device, type: sure(type), terminal: t.id, does: t.does })
  }
  return spots
}

/** What the terminal is for, in words. */
export const functionWords = (does: TerminalFunction): string => FUNCTIONS[does].words

/** Whether anything lands on a terminal. */
export const isWired = (wiring: Wiring, ref: string): boolean =>
  wiring.conductors.some((c) => (c.from === ref && c.to !== '') || (c.to === ref && c.from !== ''))

/** Whether a terminal is there to be earthed. */
export const isEarth = (wiring: Wiring, ref: string): boolean => {
  const does = terminalsOf(wiring).get(ref)?.does
  return does !== undefined && FUNCTIONS[does].domain === 'earth'
}

/**
 * Whether volts at a terminal mean anything: not on the mains, nor on a data pair, nor where nothing is connected to a
 * joint or an open contact.
 */
export function hasVolts(
  wiring: Wiring,
  mains: { readonly live: ReadonlySet<string>; readonly neutral: ReadonlySet<string> },
  ref: string,
  does: TerminalFunction,
): boolean {
  if (mains.live.has(ref) || mains.neutral.has(ref) || does === 'live' || does === 'neutral') return false
  if (does === 'bus+' || does === 'bus-' || does === 'bus-common') return false
  return (does !== 'through' && does !== 'contact') || wiring.conductors.some((c) => c.from === ref || c.to === ref)
}
