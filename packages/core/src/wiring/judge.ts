// Before power: what is wrong with a wiring, why, how sure, and what to do.
import { gravestFirst } from '../findings/index.ts'
import { formatQuantity as show } from '../quantity/index.ts'
import { attempt, Refusal } from '../refusal/index.ts'
import { busFindings } from './judge-bus.ts'
import { colourFindings } from './judge-colours.ts'
import { mainsFindings, shieldFindings } from './judge-mains.ts'
import { powerFindings } from './judge-power.ts'
import { energise, missingFigures, type Conditions, type Energised } from './energise.ts'
import { finding, type WiringFinding } from './finding.ts'
import { feedOf, outputsOf, type Output } from './loops.ts'
import type { Wiring } from './record.ts'
import { terminalsOf, typeOf } from './types.ts'
import { feedFindings, reachFindings } from './judge-feed.ts'
import { channelFindings } from './judge-channels.ts'
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
    ...channelFindings(wiring, conditions),
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
  const found: WiringFinding[] = [
    ...powerFindings(wiring, mid, conditions),
    ...bridgeFindings(wiring, { ...conditions, mA: 12 }),
  ]
  const outputs = outputsOf(wiring).filter((o) => mid.powered.get(o.device.id) ?? true)
  let fed = true
  for (const output of outputs) {
    const said = feedFindings(wiring, output, feedOf(wiring, { ...conditions, mA: 12 }, output, mid), conditions)
    found.push(...said)
    if (said.length) fed = false
  }
  if (fed && !found.some((f) => f.grade === 'stop')) {
    const [low, high] = [at(4, mid), at(20, mid)]
    found.push(...receiverFindings(wiring, [mid, low, high], outputs, conditions.channel))
    if (!incomplete) {
      const most = at(maxmA, mid)
      for (const output of outputs)
        if (output.kind !== 'repeats') found.push(...reachFindings(output, most, conditions, maxmA))
      found.push(...communicationFindings(low, mid, outputs))
    }
  }
  return found
}
