// Single faults that a loop can have, each as a change to its circuit, some with one figure that has to be found.
import type { Part } from '../circuit/index.ts'
import { conductorPart, EARTH, PANEL_WIRE_OHM, type Alter, type Energised } from './energise.ts'
import { outputsOf, shuntsOf } from './loops.ts'
import type { Fault, FaultKind, Priors } from './fault.ts'
import { PRIORS } from './priors.ts'
import type { Wiring } from './record.ts'
import { terminalsOf } from './types.ts'
import { inSentence } from '../words/index.ts'
import { sure } from '../sure/index.ts'

const change =
  (id: string, to: (part: Part) => Part | readonly Part[]): Alter =>
  (parts) =>
    parts.flatMap((p) => (p.id === id ? to(p) : [p]))
const add =
  (part: Part): Alter =>
  (parts) => [...parts, part]
const join = (id: string, a: string, b: string, ohm: number): Alter => add({ kind: 'resistor', id, a, b, ohm })

/** Every single fault that this wiring can have. `base` is the loop as drawn. */
export function faultsOf(wiring: Wiring, base: Energised, priors: Priors = PRIORS): Fault[] {
  const spots = terminalsOf(wiring)
  const faults: Fault[] = []
  const put = ({
    kind,
    id,
    says,
    where,
    alter,
    figure,
  }: {
    readonly kind: FaultKind
    readonly id: string
    readonly says: string
    readonly where: readonly string[]
    readonly alter: Fault['alter']
    readonly figure?: Fault['figure'] | undefined
  }) =>
    faults.push({
      id: `${kind} ${id}`.trim(),
      kind,
      says,
      where,
      usual: priors[kind],
      alter,
      ...(figure ? { figure } : {}),
    })

  put({
    kind: 'none',
    id: '',
    says: 'Nothing: as drawn, the loop would read this',
    where: [],
    alter: () => (parts) => parts,
  })

  const dc = wiring.conductors.filter(
    (c) =>
      spots.has(c.from) &&
      spots.has(c.to) &&
      c.core !== 'shield' &&
      !['live', 'neutral', 'earth'].includes(sure(spots.get(c.from)).does) &&
      !['live', 'neutral', 'earth'].includes(sure(spots.get(c.to)).does) &&
      !sure(spots.get(c.from)).does.startsWith('bus') &&
      !sure(spots.get(c.to)).does.startsWith('bus'),
  )
  for (const c of dc) {
    const id = conductorPart(c.id)
    put({
      kind: 'open',
      id: c.id,
      says: `Conductor ${c.id} (${c.from} to ${c.to}) is open`,
      where: [c.id, c.from, c.to],
      alter: () => change(id, (p) => ({ ...p, ohm: 1e9 }) as Part),
    })
    put({
      kind: 'cable-long',
      id: c.id,
      says: `Conductor ${c.id} has too much resistance: bad joint or longer cable`,
      where: [c.id],
      alter: (ohm) => change(id, (p) => (p.kind === 'resistor' ? { ...p, ohm: p.ohm + ohm } : p)),
      figure: { low: 5, high: 3000, unit: 'Ohm', decades: true },
    })
  }

  // Earth faults and leaks act at a node, so one for each piece of copper will do.
  const carriers = dc.filter((c) => c.cable !== undefined)
  const nodes = new Map<string, string>()
  for (const c of carriers) for (const ref of [c.from, c.to]) if (!nodes.has(ref)) nodes.set(ref, c.id)
  for (const [ref, conductor] of nodes) {
    const says = `${ref} (conductor ${conductor})`
    put({
      kind: 'short-earth',
      id: ref,
      says: `${says} touches earth`,
      where: [ref, conductor],
      alter: (ohm) => join('fault', ref, EARTH, ohm),
      figure: {
        low: 0.1,
        high: 1000,
        unit: 'Ohm',
        decades: true,
      },
    })
    put({
      kind: 'leak-earth',
      id: ref,
      says: `${says} leaks to earth: moisture`,
      where: [ref, conductor],
      alter: (ohm) => join('fault', ref, EARTH, ohm),
      figure: {
        low: 1000,
        high: 200_000,
        unit: 'Ohm',
        decades: true,
      },
    })
  }
  const ends = [...nodes.keys()]
  for (let i = 0; i < ends.length; i++)
    for (let j = i + 1; j < ends.length; j++) {
      const [a, b] = [ends[i]!, ends[j]!]
      const device = a.split(':')[0]
      // Two cores touch where they lie side by side: at the same device.
      if (device !== b.split(':')[0]) continue
      put({
        kind: 'short-pair',
        id: `${a} ${b}`,
        says: `${a} and ${b} touch`,
        where: [a, b],
        alter: (ohm) => join('fault', a, b, ohm),
        figure: {
          low: 0.1,
          high: 1000,
          unit: 'Ohm',
          decades: true,
        },
      })
      put({
        kind: 'leak-pair',
        id: `${a} ${b}`,
        says: `Moisture between ${a} and ${b}`,
        where: [a, b],
        alter: (ohm) => join('fault', a, b, ohm),
        figure: {
          low: 1000,
          high: 200_000,
          unit: 'Ohm',
          decades: true,
        },
      })
    }

  for (const o of outputsOf(wiring)) {
    const name = inSentence(o.device.name)
    const landed = dc.filter((c) => [c.from, c.to].some((ref) => ref.split(':')[0] === o.device.id))
    const at = (does: string) =>
      spots.get(`${o.device.id}:${o.device.id}`) ??
      [...spots].find(([, s]) => s.device === o.device && s.does === does)?.[0]
    const pair = o.kind === 'sinks' ? [at('loop+') ?? o.plus, at('loop-') ?? o.minus] : [o.plus, o.minus]
    if (landed.length >= 2)
      put({
        kind: 'reversed',
        id: o.device.id,
        says: `Plus and minus are exchanged at the ${name}`,
        where: [o.device.id, ...(pair as string[])],
        alter: () => {
          const [p, m] = pair as [string, string]
          const turn = (ref: string) => (ref === p ? m : ref === m ? p : ref)
          return (parts) =>
            parts.map((part) =>
              part.id.startsWith('w:') && part.kind === 'resistor'
                ? { ...part, a: turn(part.a), b: turn(part.b) }
                : part,
            )
        },
      })
    const drive = (mA: number) => change(o.part, (p) => ('mA' in p ? { ...p, mA } : p))
    put({
      kind: 'transmitter-low',
      id: o.device.id,
      says: `The ${name} signals a fault, low`,
      where: [o.device.id],
      alter: (mA) => drive(mA),
      figure: {
        low: 3.2,
        high: 3.7,
        unit: 'mA',
        decades: false,
      },
    })
    put({
      kind: 'transmitter-high',
      id: o.device.id,
      says: `The ${name} signals a fault, high`,
      where: [o.device.id],
      alter: (mA) => drive(mA),
      figure: {
        low: 20.9,
        high: 23,
        unit: 'mA',
        decades: false,
      },
    })
    put({
      kind: 'transmitter-dead',
      id: o.device.id,
      says: `The ${name} is dead: it lets no current through`,
      where: [o.device.id],
      alter: () => drive(0),
    })
  }

  for (const part of base.parts) {
    const device = wiring.devices.find((d) => part.id.startsWith(`${d.id}/`))
    if (!device) continue
    const where = [device.id]
    if (part.kind === 'source') {
      const name = inSentence(device.name)
      put({
        kind: 'supply-missing',
        id: part.id,
        says: `The ${name} gives no voltage`,
        where,
        alter: () => change(part.id, (p) => ({ ...p, volts: 0, seriesOhm: 1000 }) as Part),
      })
      put({
        kind: 'supply-low',
        id: part.id,
        says: `The ${name} gives too little`,
        where,
        alter: (volts) => change(part.id, (p) => ({ ...p, volts }) as Part),
        figure: {
          low: 3,
          high: part.volts * 0.95,
          unit: 'V',
          decades: false,
        },
      })
    }
    if (part.kind === 'ammeter')
      put({
        kind: 'fuse-blown',
        id: part.id,
        says: `The fuse ${device.id} is blown`,
        where,
        alter: () => change(part.id, (p) => ({ kind: 'switch', id: p.id, a: part.plus, b: part.minus, closed: false })),
      })
  }

  for (const s of shuntsOf(wiring)) {
    const shunt = base.parts.find((p) => p.id === s.part)
    if (shunt?.kind !== 'resistor') continue
    const name = inSentence(s.device.name)
    const where = [s.plus, s.minus, s.device.id]
    const ohms = (ohm: number) => change(s.part, (p) => ({ ...p, ohm }) as Part)
    put({
      kind: 'shunt-missing',
      id: s.part,
      says: `The shunt of the ${name} is missing or open`,
      where,
      alter: () => ohms(1e7),
    })
    put({
      kind: 'shunt-doubled',
      id: s.part,
      says: `The shunt of the ${name} is doubled: a second one in parallel`,
      where,
      alter: () => ohms(shunt.ohm / 2),
    })
    put({
      kind: 'shunt-wrong',
      id: s.part,
      says: `The shunt of the ${name} has another value`,
      where,
      alter: (ohm) => ohms(ohm),
      figure: {
        low: shunt.ohm / 6,
        high: shunt.ohm * 4,
        unit: 'Ohm',
        decades: true,
      },
    })
    // A second supply gets into a loop where it is closed: at the receiver.
    const landing = dc.find((c) => c.from === s.plus || c.to === s.plus)
    if (landing && sure(spots.get(s.plus)).type.role === 'receiver')
      put({
        kind: 'supply-second',
        id: s.part,
        says: `A second supply stands in the loop at the ${name}`,
        where,
        alter: (volts) =>
          change(conductorPart(landing.id), (p) => {
            if (p.kind !== 'resistor') return p
            const [near, far] = p.a === s.plus ? [p.a, p.b] : [p.b, p.a]
            return [
              {
                kind: 'resistor',
                id: p.id,
                a: p.a === far ? far : 'fault:in',
                b: p.b === far ? far : 'fault:in',
                ohm: p.ohm,
              },
              { kind: 'source', id: 'fault', plus: near, minus: 'fault:in', volts, seriesOhm: PANEL_WIRE_OHM },
            ] as Part[]
          }),
        figure: { low: 12, high: 36, unit: 'V', decades: false },
      })
  }
  return faults
}
