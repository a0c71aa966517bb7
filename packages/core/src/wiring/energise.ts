// Power on: the circuit that the wiring makes, and the volts and milliamps at every terminal and conductor of it.
import { endsOf, solveCircuit, topologyOf, type Part, type Solution, type Topology } from '../circuit/index.ts'
import { conducts, stageParts } from '../discrete/index.ts'
import { conductorPart, figure, insidePart, type Conditions } from './conditions.ts'
import { followSwitches, type Followed } from './follow-switches.ts'
import type { Device, DeviceType, Wiring } from './record.ts'
import { refOf, terminalsOf, typeOf, type TerminalSpot } from './types.ts'
import { sure } from '../sure/index.ts'

export { conductorPart, insidePart, missingFigures, type Conditions } from './conditions.ts'

/** A conductor inside the panel, its two clamps included, Ω. */
export const PANEL_WIRE_OHM = 0.02
export const EARTH = 'earth'
/** What the test diode takes of the transmitter’s lift-off voltage, which is stated across plus and minus, V. */
const TEST_DIODE_V = 0.72

/** Changes made to the circuit before it is solved: a meter put in, a fault. */
export type Alter = (parts: Part[]) => Part[]

export interface Energised {
  readonly parts: readonly Part[]
  readonly solution: Solution
  /** Of the devices that need power: whether they have it. */
  readonly powered: ReadonlyMap<string, boolean>
  /** Whether devices in it follow others, so that it must be solved more than once. */
  readonly follows: boolean
  /** Volts to earth, or to `floatsOn`; undefined for a terminal that is not in the wiring or in no circuit. */
  volts(ref: string): number | undefined
  /** For a terminal whose circuit is nowhere joined to earth: the terminal that its volts are counted from. */
  floatsOn(ref: string): string | undefined
  /** Volts between two terminals, whatever either circuit floats on. */
  between(plus: string, minus: string): number
  /** mA from a conductor’s first end to its second. */
  milliamps(conductorId: string): number | undefined
}

/** Ends of a conductor that are really there. */
function landed(wiring: Wiring, spots: ReadonlyMap<string, TerminalSpot>) {
  return wiring.conductors.filter((c) => spots.has(c.from) && spots.has(c.to))
}

export function conductorOhm(wiring: Wiring, cableId: string | undefined, conditions: Conditions): number {
  const cable = cableId === undefined ? undefined : wiring.cables.find((c) => c.id === cableId)
  if (!cable) return PANEL_WIRE_OHM
  const ohm =
    cable.length_m === undefined
      ? (conditions.coreOhm ?? 0) * (cable.share ?? 1)
      : (conditions.coreOhmPerM ?? 0) * cable.length_m
  return Math.max(ohm, PANEL_WIRE_OHM)
}

type Link = { readonly from: string; readonly to: string }

/** Terminals that are one piece of copper with `start`, over the conductors and `more` links. */
export function netOf(wiring: Wiring, start: readonly string[], more: readonly Link[] = []): Set<string> {
  const net = new Set(start)
  const links = [...wiring.conductors, ...more]
  for (let grown = true; grown;) {
    grown = false
    for (const { from, to } of links) {
      if (!from || !to || net.has(from) === net.has(to)) continue
      net.add(from).add(to)
      grown = true
    }
  }
  return net
}

/** Roles of devices that pass on whatever they are given: a fuse or a resistor is no end of the mains. */
const PASSING = ['joint', 'fuse', 'resistor', 'barrier']

function passedOn(wiring: Wiring): Link[] {
  return wiring.devices.flatMap((device) => {
    const type = typeOf(device)
    if (!type || !PASSING.includes(type.role)) return []
    return type.inside.flatMap((p) =>
      p.part === 'joins' || p.part === 'fuse' || p.part === 'resists'
        ? [{ from: refOf(device.id, p.a), to: refOf(device.id, p.b) }]
        : [],
    )
  })
}

/** Terminals that mains live and mains neutral reach. */
export interface Mains {
  readonly live: ReadonlySet<string>
  readonly neutral: ReadonlySet<string>
}
export function mainsOf(wiring: Wiring): Mains {
  const links = passedOn(wiring)
  const feeds = [...terminalsOf(wiring)].filter(([, s]) => s.type.role === 'mains')
  const net = (does: string) =>
    netOf(
      wiring,
      feeds.filter(([, s]) => s.does === does).map(([ref]) => ref),
      links,
    )
  return { live: net('live'), neutral: net('neutral') }
}

/** Whether a device has mains at its live and neutral terminals, either way round. */
export function hasMains(type: DeviceType, device: Device, mains: Mains): boolean {
  if (type.power?.from !== 'ac') return false
  const [l, n] = [refOf(device.id, type.power.live), refOf(device.id, type.power.neutral)]
  return (mains.live.has(l) && mains.neutral.has(n)) || (mains.live.has(n) && mains.neutral.has(l))
}

interface Drawn {
  readonly wiring: Wiring
  readonly conditions: Conditions
  readonly spots: ReadonlyMap<string, TerminalSpot>
}
function partsOf({ wiring, conditions, spots }: Drawn, alive: (device: Device) => boolean, followed: Followed): Part[] {
  const { repeated, picked, idle } = followed
  const parts: Part[] = []
  for (const device of wiring.devices) {
    const type = typeOf(device)
    if (!type) continue
    const at = (terminal: string) => refOf(device.id, terminal)
    const value = (v: number | string, standard: number) => figure(v, device, type, conditions) ?? standard
    const live = alive(device)
    if (type.power?.from === 'dc')
      parts.push({
        kind: 'resistor',
        id: `${device.id}/power`,
        a: at(type.power.plus),
        b: at(type.power.minus),
        ohm: type.power.ohm,
      })
    type.inside.forEach((p, i) => {
      const id = insidePart(device.id, i)
      switch (p.part) {
        case 'transmitter': {
          const [plus, minus] = [at(p.plus), at(p.minus)]
          if (!live) return parts.push({ kind: 'switch', id, a: plus, b: minus, closed: false })
          const diode = type.inside.some((d) => d.part === 'diode' && d.anode === p.minus)
          const liftOffV = Math.max(0.5, (conditions.figures['liftOff'] ?? 10.5) - (diode ? TEST_DIODE_V : 0))
          return parts.push({
            kind: 'loop-transmitter',
            id,
            plus,
            minus,
            mA: conditions.mA,
            liftOffV,
            reverse: p.reverse,
          })
        }
        case 'drives':
        case 'repeats': {
          const mA = !live ? 0 : p.part === 'drives' ? conditions.mA : (repeated.get(id) ?? 0)
          return parts.push({
            kind: 'current-output',
            id,
            plus: at(p.plus),
            minus: at(p.minus),
            mA,
            maxV: value(p.maxV, 15),
          })
        }
        case 'feeds':
          if (!live) return parts.push({ kind: 'switch', id, a: at(p.plus), b: at(p.minus), closed: false })
          return parts.push({ kind: 'source', id, plus: at(p.plus), minus: at(p.minus), volts: value(p.volts, 24) })
        case 'resists': {
          const ohm = value(p.ohm, 250)
          return parts.push({ kind: 'resistor', id, a: at(p.a), b: at(p.b), ohm: ohm === 0 ? 1e9 : ohm })
        }
        case 'joins':
          return parts.push({ kind: 'switch', id, a: at(p.a), b: at(p.b), closed: true })
        case 'fuse':
          return parts.push({ kind: 'ammeter', id, plus: at(p.a), minus: at(p.b), ohm: p.ohm, fusemA: p.mA })
        case 'diode':
          return parts.push({ kind: 'diode', id, anode: at(p.anode), cathode: at(p.cathode) })
        case 'outputs': {
          const of = (key: string) => device.figures?.[key] ?? conditions.figures[key] ?? 0
          const conducting = live && conducts(p.contact, conditions.target ?? false)
          if (conducting && idle.has(id)) return undefined
          const ends = { plus: at(p.plus), minus: at(p.minus), signal: at(p.signal) }
          const leak = of('leakage')
          return parts.push(
            ...stageParts(id, p.stage === 'two-wire' ? 'PNP' : p.stage, ends, {
              conducting,
              residualV: of('residual'),
              leakOhm: live && leak > 0 ? (1000 * (conditions.figures['supply'] ?? 24)) / leak : undefined,
            }).parts,
          )
        }
        case 'contact':
          return parts.push({
            kind: 'switch',
            id,
            a: at(p.a),
            b: at(p.b),
            closed: (p.rest === 'open') === picked.has(device.id),
          })
        case 'earths':
          if (device.figures?.['earthed'] === 0) return undefined
          return parts.push({ kind: 'resistor', id, a: at(p.a), b: EARTH, ohm: 0.01 })
      }
    })
  }
  for (const c of landed(wiring, spots))
    parts.push({
      kind: 'resistor',
      id: conductorPart(c.id),
      a: c.from,
      b: c.to,
      ohm: conductorOhm(wiring, c.cable, conditions),
    })
  return parts
}

type DcPower = Extract<NonNullable<DeviceType['power']>, { from: 'dc' }>

/**
 * Whether a device has a voltage at its DC terminals that it can live on; it may stand half as much again before it is
 * destroyed.
 */
function isFed(solution: Solution, deviceId: string, power: DcPower): boolean {
  const at = (terminal: string) => solution.nodes[refOf(deviceId, terminal)] ?? 0
  const v = at(power.plus) - at(power.minus)
  return v >= power.leastV && v <= power.mostV * 1.5
}

/**
 * Volts and milliamps everywhere, with every device that gets power alive. Powering and repeating devices are
 * followed until nothing
 * changes. Figures not yet entered count as usual values; ask `missingFigures` first.
 * @param start devices taken as powered at first (from a like circuit); without it all start dead, as at power-on
 * @param frozen keep `start` as it is, whatever the voltages: for asking what a single source adds
 * @throws Refusal `no-solution`, `invalid-input`
 */
export function energise({
  wiring,
  conditions,
  alter = (parts) => parts,
  start,
  frozen = false,
}: {
  readonly wiring: Wiring
  readonly conditions: Conditions
  readonly alter?: Alter
  readonly start?: ReadonlyMap<string, boolean> | undefined
  readonly frozen?: boolean
}): Energised {
  const spots = terminalsOf(wiring)
  const mains = mainsOf(wiring)
  const needy = wiring.devices.flatMap((device) => {
    const type = typeOf(device)
    return type?.power ? [{ device, type, power: type.power }] : []
  })
  let powered = new Map(
    needy.map(({ device, type }) => [device.id, start?.get(device.id) ?? hasMains(type, device, mains)]),
  )
  const followed: Followed = { repeated: new Map(), picked: new Set(), idle: new Set() }
  const { repeated } = followed
  let last: { parts: Part[]; solution: Solution }
  for (let round = 0; ; round++) {
    const parts = alter(partsOf({ wiring, conditions, spots }, (d) => powered.get(d.id) ?? true, followed))
    const solution = solveCircuit({ ground: EARTH, parts })
    last = { parts, solution }
    let changed = false
    const next = new Map(
      needy.map(({ device, type, power }) => {
        if (power.from === 'ac') return [device.id, hasMains(type, device, mains)]
        return [device.id, isFed(solution, device.id, power)]
      }),
    )
    if (!frozen) for (const [id, on] of next) if (powered.get(id) !== on) changed = true
    for (const device of wiring.devices)
      typeOf(device)?.inside.forEach((p, i) => {
        if (p.part !== 'repeats') return
        const input = sure(typeOf(device)).inside.findIndex((x) => x.part === 'resists' && x.id === p.of)
        const mA = Math.max(0, solution.parts[insidePart(device.id, input)]?.mA ?? 0)
        const id = insidePart(device.id, i)
        if (next.get(device.id) !== false && Math.abs((repeated.get(id) ?? 0) - mA) > 1e-6) {
          repeated.set(id, mA)
          changed = true
        }
      })
    if (followSwitches(wiring, conditions, solution, followed)) changed = true
    if (!changed || round >= 8) break
    if (!frozen) powered = next
  }
  const follows =
    repeated.size > 0 ||
    wiring.devices.some((d) => typeOf(d)?.inside.some((p) => p.part === 'outputs' || p.part === 'contact'))
  return { ...last, powered, follows, ...readers(last.parts, last.solution, spots) }
}

/** A part that joins less than this leaves its two sides apart, Ω. */
const APART_OHM = 5e8

/** Circuits that are nowhere joined to earth: each node of them, and the node that their volts are counted from. */
function floating(parts: readonly Part[]): Map<string, string> {
  const near = new Map<string, string[]>()
  const joined = (a: string, b: string) => {
    near.set(a, [...(near.get(a) ?? []), b])
    near.set(b, [...(near.get(b) ?? []), a])
  }
  for (const part of parts) {
    const [a, b] = endsOf(part)
    const apart = (part.kind === 'switch' && !part.closed) || ('ohm' in part && part.ohm > APART_OHM)
    if (!apart) joined(a, b)
  }
  const found = new Map<string, string>()
  const seen = new Set<string>()
  const reach = (start: string): string[] => {
    const island = [start]
    seen.add(start)
    for (const node of island)
      for (const next of near.get(node) ?? [])
        if (!seen.has(next)) {
          seen.add(next)
          island.push(next)
        }
    return island
  }
  reach(EARTH)
  // Counted from the minus of what feeds it, as a person would hold the black lead.
  const minuses = parts.flatMap((p) => (p.kind === 'source' || p.kind === 'current-output' ? [p.minus] : []))
  for (const start of minuses) {
    if (seen.has(start)) continue
    for (const node of reach(start)) found.set(node, start)
  }
  return found
}

const readers = (parts: readonly Part[], solution: Solution, spots: ReadonlyMap<string, unknown>) => {
  let islands: Map<string, string> | undefined
  const floatsOn = (ref: string) => (islands ??= floating(parts)).get(ref)
  return {
    floatsOn,
    volts: (ref: string) => {
      if (!spots.has(ref)) return undefined
      const from = floatsOn(ref)
      return (solution.nodes[ref] ?? 0) - (from === undefined ? 0 : (solution.nodes[from] ?? 0))
    },
    between: (plus: string, minus: string) => (solution.nodes[plus] ?? 0) - (solution.nodes[minus] ?? 0),
    milliamps: (id: string) => solution.parts[conductorPart(id)]?.mA,
  }
}

/**
 * Solves variants of an energised wiring quickly: as long as every device keeps (or stays without) its power, the
 * circuit alone is
 * solved again; otherwise the whole.
 */
export function variantsOf(wiring: Wiring, conditions: Conditions, base: Energised) {
  const spots = terminalsOf(wiring)
  const fed = wiring.devices.flatMap((device) => {
    const power = typeOf(device)?.power
    if (power?.from !== 'dc') return []
    return [{ id: device.id, power }]
  })
  // How a variant hangs together is worked out once for all that hang together alike: it costs more than solving one.
  const topologies = new Map<string, Topology>()
  const topologyFor = (parts: readonly Part[]): Topology => {
    const key = parts.map((p) => `${p.kind} ${endsOf(p).join(' ')}`).join()
    const known = topologies.get(key) ?? topologyOf({ ground: EARTH, parts })
    topologies.set(key, known)
    return known
  }
  return (alter: Alter): Energised => {
    if (base.follows) return energise({ wiring, conditions, alter, start: base.powered })
    const parts = alter([...base.parts])
    const solution = solveCircuit({ ground: EARTH, parts }, topologyFor(parts))
    if (fed.some(({ id, power }) => isFed(solution, id, power) !== base.powered.get(id)))
      return energise({ wiring, conditions, alter, start: base.powered })
    return { parts, solution, powered: base.powered, follows: false, ...readers(parts, solution, spots) }
  }
}
