// Before power: what is wrong with a wiring, why, how sure, and what to do.
import { gravestFirst } from '../findings/index.ts'
import { formatQuantity as show } from '../quantity/index.ts'
import { attempt, Refusal } from '../refusal/index.ts'
import { busFindings } from './judge-bus.ts'
import { colourFindings } from './judge-colours.ts'
import { mainsFindings, shieldFindings } from './judge-mains.ts'
import { energise, missingFigures, type Conditions, type Energised } from './energise.ts'
import { finding, type WiringFinding } from './finding.ts'
import { feedOf, outputsOf, type Output } from './loops.ts'
import type { Wiring } from './record.ts'
import { terminalsOf, typeOf } from './types.ts'
import { V, feedFindings, reachFindings } from './judge-feed.ts'
import { bridgeFindings, testTerminalFindings } from './judge-joins.ts'
import { receiverFindings } from './judge-receiver.ts'

export interface Judged {
  readonly findings: readonly WiringFinding[]
  /** Figures not entered yet, without which volts and milliamps cannot be given. */
  readonly needs: readonly string[]
}

/** Conductors that end where there is no terminal, and devices of no known type. */
export function looseFindings(wiring: Wiring): WiringFinding[] {
  const spots = terminalsOf(wiring)
  const found = wiring.conductors.flatMap((c) =>
    [c.from, c.to]
      .filter((ref) => ref !== '' && !spots.has(ref))
      .map((ref) =>
        finding({
          code: 'conductor-to-nothing',
          grade: 'stop',
          where: [c.id],
          what: `Conductor ${c.id} ends at ${ref}, which is not there.`,
          why: 'Its device or terminal was removed. A loose live end can touch anything.',
          action: 'Land the conductor on a terminal, or take it out.',
        }),
      ),
  )
  for (const device of wiring.devices)
    if (!typeOf(device))
      found.push(
        finding({
          code: 'device-unknown',
          grade: 'stop',
          where: [device.id],
          what: `${device.name} (${device.id}) is of a type that is not known here.`,
          why: 'Without its terminals nothing about it can be judged.',
          action: 'Load its device file, or put another device in its place.',
        }),
      )
  return found
}

export function powerFindings(wiring: Wiring, now: Energised): WiringFinding[] {
  const found: WiringFinding[] = []
  for (const device of wiring.devices) {
    const type = typeOf(device)
    if (!type?.power) continue
    const ends = type.power.from === 'dc' ? [type.power.plus, type.power.minus] : [type.power.live, type.power.neutral]
    const [p, m] = ends.map((t) => `${device.id}:${t}`) as [string, string]
    const where = [p, m, device.id]
    if (type.power.from === 'dc') {
      const v = now.between(p, m)
      if (v < -1) {
        found.push(
          finding({
            code: 'supply-reversed',
            grade: 'stop',
            where,
            what: `${device.name} gets its supply the wrong way round: ${V(v)}.`,
            why: 'At best it stays dead, at worst it is destroyed.',
            action: 'Exchange the two conductors at its supply terminals.',
          }),
        )
        continue
      }
      if (v > type.power.mostV) {
        found.push(
          finding({
            code: 'supply-too-high',
            grade: 'stop',
            where,
            what: `${device.name} gets ${V(v)}; it takes at most ${V(type.power.mostV)}.`,
            why: 'It would be destroyed when the power goes on.',
            action: 'Use a supply within its range.',
          }),
        )
        continue
      }
      if (v > 1 && v < type.power.leastV) {
        found.push(
          finding({
            code: 'supply-too-low',
            grade: 'stop',
            where,
            what: `${device.name} gets ${V(v)}; it needs at least ${V(type.power.leastV)}.`,
            why: 'It starts and stops, or never starts.',
            action: 'Use a higher supply or a thicker cable.',
          }),
        )
        continue
      }
    }
    if (!now.powered.get(device.id))
      found.push(
        finding({
          code: 'no-device-power',
          grade: 'stop',
          where,
          what: `${device.name} gets no power of its own.`,
          why: 'Its output is dead until it has.',
          action: 'Wire its supply terminals.',
        }),
      )
  }
  for (const part of now.parts) {
    if (part.kind === 'source' && Math.abs(now.solution.parts[part.id]!.mA) > 1500) {
      const device = wiring.devices.find((d) => part.id.startsWith(`${d.id}/`))
      found.push(
        finding({
          code: 'supply-shorted',
          grade: 'stop',
          where: [part.plus, part.minus, ...(device ? [device.id] : [])],
          what:
            `${device?.name ?? 'The supply'} would be short-circuited: ` +
            `${show(now.solution.parts[part.id]!.mA / 1000, 'A', { decimals: 0 })} in theory.`,
          why: 'The fuse blows or the supply trips the moment the power goes on.',
          action: 'Find the conductor that joins its plus to its minus.',
        }),
      )
    }
    if (part.kind === 'ammeter' && part.id.includes('/') && now.solution.parts[part.id]!.blown)
      found.push(
        finding({
          code: 'fuse-would-blow',
          grade: 'stop',
          where: [part.plus, part.minus],
          what: `The fused terminal ${part.plus.split(':')[0]} would blow.`,
          why: 'More current than its rating flows through it as drawn.',
          action: 'Find the short behind it.',
        }),
      )
  }
  return found
}

/** At least this much resistance must stand between a communicator’s clips, Ω (IEC 61784-1 CPF 9). */
const COMMUNICATION_OHM = 230

function communicationFindings(low: Energised, high: Energised, outputs: readonly Output[]): WiringFinding[] {
  return outputs.flatMap((o) => {
    if (o.kind !== 'sinks') return []
    const [a, b] = [low.solution.parts[o.part], high.solution.parts[o.part]]
    if (!a || !b || b.mA - a.mA < 1) return []
    const ohm = (1000 * (a.volts - b.volts)) / (b.mA - a.mA)
    if (ohm >= COMMUNICATION_OHM) return []
    return [
      finding({
        code: 'communication-resistance',
        grade: 'note',
        where: [o.plus, o.minus],
        what: `The loop has ${show(ohm, 'Ohm', { decimals: 0 })} outside the transmitter.`,
        why:
          'A communicator clipped across it needs at least 230 Ω to talk across; the supply shorts its signal ' +
          'out otherwise.',
        action: 'Put 250 Ω in series at the cabinet and clip on across it, if one is to be used.',
        sure: 'Certain, if a communicator is to be used.',
      }),
    ]
  })
}

/**
 * All findings of a wiring, gravest first. Works on whatever is drawn, right or wrong.
 * @param maxmA highest current the output can be asked for, mA
 */
export function judgeWiring(wiring: Wiring, conditions: Conditions, maxmA: number): Judged {
  const needs = missingFigures(wiring, conditions)
  const structural = [
    ...looseFindings(wiring),
    ...mainsFindings(wiring),
    ...shieldFindings(wiring),
    ...busFindings(wiring),
    ...colourFindings(wiring),
    ...testTerminalFindings(wiring),
  ]
  // Without figures only what can be seen without them is judged; volts would be invented.
  const electrical = attempt(() => electricalFindings(wiring, conditions, maxmA, needs.length > 0))
  if (electrical instanceof Refusal)
    structural.push(
      finding({
        code: 'no-solution',
        grade: 'stop',
        where: [],
        what: 'No voltages satisfy this circuit.',
        why: electrical.message,
        action: 'Undo the last change and look at it again.',
      }),
    )
  else structural.push(...electrical)
  return { findings: gravestFirst(structural) as WiringFinding[], needs }
}

function electricalFindings(
  wiring: Wiring,
  conditions: Conditions,
  maxmA: number,
  incomplete: boolean,
): WiringFinding[] {
  const at = (current: number, start?: Energised) =>
    energise({ wiring, conditions: { ...conditions, mA: current }, start: start?.powered })
  const mid = at(12)
  const found: WiringFinding[] = [...powerFindings(wiring, mid), ...bridgeFindings(wiring, { ...conditions, mA: 12 })]
  const outputs = outputsOf(wiring).filter((o) => mid.powered.get(o.device.id) ?? true)
  let fed = true
  for (const output of outputs) {
    const said = feedFindings(wiring, output, feedOf(wiring, { ...conditions, mA: 12 }, output, mid))
    found.push(...said)
    if (said.length) fed = false
  }
  if (fed && !found.some((f) => f.grade === 'stop')) {
    const [low, high] = [at(4, mid), at(20, mid)]
    found.push(...receiverFindings(wiring, [mid, low, high], outputs))
    if (!incomplete) {
      const most = at(maxmA, mid)
      for (const output of outputs)
        if (output.kind !== 'repeats') found.push(...reachFindings(output, most, conditions, maxmA))
      found.push(...communicationFindings(low, mid, outputs))
    }
  }
  return found
}
