// The device types and colour conventions that come with the product, as tables.
import colourRows from './colour-conventions.json' with { type: 'json' }
import typeRows from './device-types.json' with { type: 'json' }
import { FUNCTIONS, type Device, type DeviceType, type TerminalFunction, type Wiring } from './record.ts'
import { sure } from '../sure/index.ts'

export const DEVICE_TYPES = typeRows as readonly DeviceType[]
const byId = new Map(DEVICE_TYPES.map((t) => [t.id, t]))

/** A device’s type: its own, or the built-in one; undefined where neither is known. */
export const typeOf = (device: Device): DeviceType | undefined => device.own ?? byId.get(device.type)
export const builtIn = (id: string): DeviceType => sure(byId.get(id))

export interface ColourConvention {
  readonly id: string
  readonly name: string
  readonly source: string
  /** Meaning by colour. */
  readonly colours: Readonly<Record<string, string>>
}
export const COLOUR_CONVENTIONS = colourRows as unknown as readonly ColourConvention[]
export const conventionOf = (id: string | undefined): ColourConvention =>
  COLOUR_CONVENTIONS.find((c) => c.id === id) ?? sure(COLOUR_CONVENTIONS.at(-1))

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
