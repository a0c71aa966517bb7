// Changes to a wiring, each giving a new wiring: land a conductor elsewhere, connect, take out, put a device in.
import { Refusal } from '../refusal/index.ts'
import type { z } from 'zod'
import { OwnLegend, type ChannelKind, type Conductor, type Device, type DeviceType, type Wiring } from './record.ts'
import { builtIn, terminalsOf } from './types.ts'

const nextId = (taken: readonly string[], stem: string): string => {
  for (let n = 1; ; n++) if (!taken.includes(`${stem}${n}`)) return `${stem}${n}`
}

const refuseUnknown = (wiring: Wiring, ref: string): void => {
  if (ref !== '' && !terminalsOf(wiring).has(ref)) throw new Refusal('no-such-terminal', `There is no terminal ${ref}.`)
}

/**
 * Lands one end of a conductor on another terminal; `''` cuts it back. @throws Refusal `no-such-terminal`,
 * `same-terminal`
 */
export function landConductor(wiring: Wiring, id: string, end: 'from' | 'to', ref: string): Wiring {
  refuseUnknown(wiring, ref)
  return {
    ...wiring,
    conductors: wiring.conductors.map((c) => {
      if (c.id !== id) return c
      if (ref !== '' && ref === c[end === 'from' ? 'to' : 'from'])
        throw new Refusal('same-terminal', 'Both ends of a conductor cannot be on one terminal.')
      return { ...c, [end]: ref }
    }),
  }
}

/** A new conductor between two terminals. @throws Refusal `no-such-terminal`, `same-terminal` */
export function connect(wiring: Wiring, from: string, to: string, rest: Partial<Conductor> = {}): Wiring {
  for (const ref of [from, to]) refuseUnknown(wiring, ref)
  if (from === to) throw new Refusal('same-terminal', 'Both ends of a conductor cannot be on one terminal.')
  const id = nextId(
    wiring.conductors.map((c) => c.id),
    'C',
  )
  return { ...wiring, conductors: [...wiring.conductors, { id, from, to, ...rest }] }
}

export const takeOut = (wiring: Wiring, id: string): Wiring => ({
  ...wiring,
  conductors: wiring.conductors.filter((c) => c.id !== id),
})

/** Changes what stands on record about a conductor besides its ends. */
export const describe = (
  wiring: Wiring,
  id: string,
  what: Partial<Pick<Conductor, 'cable' | 'core' | 'colour' | 'ferrule'>>,
): Wiring => ({ ...wiring, conductors: wiring.conductors.map((c) => (c.id === id ? { ...c, ...what } : c)) })

/** A device more: of a built-in type, or bringing its own. */
export function addDevice(wiring: Wiring, type: string | DeviceType, name?: string): Wiring {
  const own = typeof type === 'string' ? undefined : type
  const of = own ?? builtIn(type as string)
  const id = nextId(
    wiring.devices.map((d) => d.id),
    'D',
  )
  const device: Device = { id, type: of.id, name: name ?? of.name, ...(own ? { own } : {}) }
  return { ...wiring, devices: [...wiring.devices, device] }
}

/** Takes a device away. Its conductors stay, with a loose end, until they are landed or taken out. */
export const removeDevice = (wiring: Wiring, id: string): Wiring => ({
  ...wiring,
  devices: wiring.devices.filter((d) => d.id !== id),
})

/** Sets a channel of a device. */
export const setChannel = (wiring: Wiring, id: string, channel: string, kind: ChannelKind): Wiring => ({
  ...wiring,
  devices: wiring.devices.map((d) => (d.id === id ? { ...d, set: { ...d.set, [channel]: kind } } : d)),
})

export const setDeviceFigure = (wiring: Wiring, id: string, key: string, value: number): Wiring => ({
  ...wiring,
  devices: wiring.devices.map((d) => (d.id === id ? { ...d, figures: { ...d.figures, [key]: value } } : d)),
})

/** The convention that a cable’s colours follow, in place of what it had. */
export const setLegend = (wiring: Wiring, cable: string, legend: string): Wiring => ({
  ...wiring,
  cables: wiring.cables.map((c) => {
    if (c.id !== cable) return c
    const { own: _, ...rest } = c
    return { ...rest, legend }
  }),
})

/**
 * A legend of a cable’s own. @throws Refusal `legend-unreadable` for a colour that is there twice, is empty, or means
 * nothing
 */
export function setOwnLegend(wiring: Wiring, cable: string, rows: z.infer<typeof OwnLegend>): Wiring {
  const read = OwnLegend.safeParse(rows.map((r) => ({ colour: r.colour.trim(), means: r.means.trim() })))
  if (!read.success) {
    const [issue] = read.error.issues
    throw new Refusal('legend-unreadable', `The legend cannot be taken: ${issue?.message ?? 'it is empty'}.`)
  }
  return { ...wiring, cables: wiring.cables.map((c) => (c.id === cable ? { ...c, own: read.data } : c)) }
}

/**
 * A device that behaves like a built-in one and has its own terminal names.
 * @param names own name by the built-in terminal's id
 * @throws Refusal `device-unreadable` for two terminals of one name or none
 */
export function renamedType(
  base: DeviceType,
  id: string,
  name: string,
  names: Readonly<Record<string, string>>,
): DeviceType {
  const own = (terminal: string) => names[terminal]?.trim() || terminal
  const all = base.terminals.map((t) => own(t.id))
  const twice = all.find((n, i) => all.indexOf(n) !== i)
  if (twice !== undefined) throw new Refusal('device-unreadable', `Two terminals are called “${twice}”.`)
  const bad = all.find((n) => n.includes(':') || n.length > 10)
  if (bad !== undefined)
    throw new Refusal('device-unreadable', `“${bad}” cannot be a terminal’s name: at most 10 characters, no colon.`)
  const KEYS = ['plus', 'minus', 'signal', 'a', 'b', 'anode', 'cathode', 'live', 'neutral']
  const renamed = <T extends object>(part: T): T =>
    Object.fromEntries(Object.entries(part).map(([k, v]) => [k, KEYS.includes(k) ? own(v as string) : v])) as T
  return {
    ...base,
    id,
    name,
    terminals: base.terminals.map((t) => ({ ...t, id: own(t.id) })),
    inside: base.inside.map(renamed),
    ...(base.channels ? { channels: base.channels.map(renamed) } : {}),
    ...(base.power ? { power: renamed(base.power) } : {}),
  }
}
