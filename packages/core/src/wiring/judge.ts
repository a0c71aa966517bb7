// Before power: what is wrong with a wiring, why, how sure, and what to do.
import { gravestFirst } from '../findings/index.ts'
import { formatQuantity as show } from '../quantity/index.ts'
import { attempt, Refusal } from '../refusal/index.ts'
import { busFindings } from './judge-bus.ts'
import { colourFindings } from './judge-colours.ts'
import { mainsFindings, shieldFindings } from './judge-mains.ts'
import { energise, missingFigures, type Conditions, type Energised } from './energise.ts'
import { finding, type WiringFinding } from './finding.ts'
import { feedOf, outputsOf, shuntsOf, type Feed, type Output } from './loops.ts'
import type { Wiring } from './record.ts'
import { terminalsOf, typeOf } from './types.ts'
import { inSentence } from '../words/index.ts'

export interface Judged {
  readonly findings: readonly WiringFinding[]
  /** Figures not entered yet, without which volts and milliamps cannot be given. */
  readonly needs: readonly string[]
}

const V = (v: number) => show(v, 'V', { decimals: 1 })
const mA = (v: number) => show(v, 'mA', { decimals: 2 })

/** Conductors that end where there is no terminal, and devices of no known type. */
export function looseFindings(wiring: Wiring): WiringFinding[] {
  const spots = terminalsOf(wiring)
  const found = wiring.conductors.flatMap((c) =>
    [c.from, c.to]
      .filter((ref) => ref !== '' && !spots.has(ref))
      .map((ref) =>
        finding(
          'conductor-to-nothing',
          'stop',
          [c.id],
          `Conductor ${c.id} ends at ${ref}, which is not there.`,
          'Its device or terminal was removed. A loose live end can touch anything.',
          'Land the conductor on a terminal, or take it out.',
        ),
      ),
  )
  for (const device of wiring.devices)
    if (!typeOf(device))
      found.push(
        finding(
          'device-unknown',
          'stop',
          [device.id],
          `${device.name} (${device.id}) is of a type that is not known here.`,
          'Without its terminals nothing about it can be judged.',
          'Load its device file, or put another device in its place.',
        ),
      )
  return found
}

/**
 * An isolated output that its own 24 V could feed, with nothing on its plus: whoever looks at its display thinks that
 * it works.
 */
const isUnfed = (wiring: Wiring, output: Output): boolean =>
  output.kind === 'sinks' &&
  typeOf(output.device)!.terminals.some((t) => t.does === 'feeds+') &&
  !wiring.conductors.some((c) => c.from === output.plus || c.to === output.plus)

function feedFindings(wiring: Wiring, output: Output, feed: Feed): WiringFinding[] {
  const where = [output.plus, output.minus, output.device.id]
  const name = inSentence(output.device.name)
  if (output.kind !== 'sinks') {
    if (!feed.closed)
      return [
        finding(
          'loop-open',
          'stop',
          where,
          `The current of the ${name} has no way back: the loop is open.`,
          'An output that drives nothing leaves the receiver at 0 mA.',
          'Lead both conductors of the output to one receiver input.',
        ),
      ]
    if (feed.sources.length)
      return [
        finding(
          'two-loop-supplies',
          'stop',
          where,
          `The ${name} drives the loop itself, and a supply of ${V(feed.openV)} stands in it too.`,
          'Two supplies in one loop fight: the reading is wrong and either can be damaged.',
          'Use the receiver’s passive input, or take the other supply out of the loop.',
        ),
      ]
    return []
  }
  const aiding = feed.sources.filter((s) => s.volts > 0)
  if (feed.sources.length > 1)
    return [
      finding(
        'two-loop-supplies',
        'stop',
        where,
        aiding.length === feed.sources.length
          ? `Two supplies stand in series in this loop: ${V(feed.openV)} in all.`
          : `Two supplies stand against each other in this loop: ${V(feed.openV)} is left.`,
        'One and only one supply may feed a loop. Together they overstress it; against each other nothing flows.',
        'Take one of them out: either the card’s own supply or the separate one.',
      ),
    ]
  if (!feed.closed && !isUnfed(wiring, output))
    return [
      finding(
        'loop-open',
        'stop',
        where,
        `The loop of the ${name} is not closed.`,
        'Without a closed path no current flows, whatever the supply.',
        'Follow plus from the supply and minus from the receiver: one conductor is missing or ends at another ' +
          'terminal.',
      ),
    ]
  if (isUnfed(wiring, output) || (!feed.sources.length && Math.abs(feed.openV) < 1))
    return [
      finding(
        'no-loop-supply',
        'stop',
        where,
        `Nothing feeds the loop of the ${name}.`,
        'A passive output only lets current through. Its display may work and the loop still be dead.',
        'Feed it from a card that supplies the loop, from a separate supply, or by the jumper from its own 24 V.',
      ),
    ]
  if (feed.openV < -1)
    return [
      finding(
        'reversed-polarity',
        'stop',
        where,
        `The ${name} would see ${V(feed.openV)}: its plus and minus are exchanged.`,
        'It stays at 0 mA; one without protection conducts backwards and is damaged.',
        'Exchange the two conductors at its terminals, with the power off.',
      ),
    ]
  return []
}

/** Lift-off or compliance, at the highest current that the loop can be asked for. */
function reachFindings(output: Output, atMost: Energised, conditions: Conditions, maxmA: number): WiringFinding[] {
  const got = atMost.solution.parts[output.part]
  if (!got || Math.abs(got.mA) >= maxmA * 0.999) return []
  const where = [output.plus, output.minus, output.device.id]
  if (output.kind === 'sinks') {
    const liftOff = conditions.figures['liftOff']
    return [
      finding(
        'lift-off-not-met',
        'stop',
        where,
        `Asked for ${mA(maxmA)}, the ${inSentence(output.device.name)} is left with ${V(got.volts)} and ` +
          `reaches ${mA(got.mA)}${liftOff === undefined ? '' : `; it needs ${V(liftOff)}`}.`,
        'It reads right at 4 mA and sticks at some higher current, so a high value or an alarm is never seen.',
        'Raise the supply, shorten or thicken the cable, or take resistance out of the loop.',
      ),
    ]
  }
  return [
    finding(
      'beyond-compliance',
      'stop',
      where,
      `Asked for ${mA(maxmA)}, the output reaches its ${V(got.volts)} and drives ${mA(got.mA)}.`,
      'The load is more than the output can drive: it reads right low and sticks high.',
      'Take resistance out of the loop, or use an isolator.',
    ),
  ]
}

/** Receivers that do not get the whole current of the loop. */
function receiverFindings(wiring: Wiring, now: Energised, outputs: readonly Output[]): WiringFinding[] {
  const driven = outputs
    .map((o) => ({ output: o, mA: Math.abs(now.solution.parts[o.part]?.mA ?? 0) }))
    .filter((o) => o.mA > 0.5)
  if (!driven.length) return []
  const found: WiringFinding[] = []
  const shunts = shuntsOf(wiring).map((s) => ({ ...s, mA: now.solution.parts[s.part]?.mA ?? 0 }))
  const whole = (value: number) => driven.some((d) => Math.abs(value - d.mA) <= 0.01 * d.mA)
  const partial = shunts.filter((s) => s.mA > 0.2 && !whole(s.mA))
  for (const s of shunts)
    if (s.mA < -0.2)
      found.push(
        finding(
          'input-reversed',
          'stop',
          [s.plus, s.minus, s.device.id],
          `The current enters ${inSentence(s.device.name)} at its return terminal: it would read ${mA(s.mA)}.`,
          'Most cards show 0 % or a fault then, and some are damaged.',
          'Exchange the two conductors at this input.',
        ),
      )
  const sum = partial.reduce((total, s) => total + s.mA, 0)
  if (partial.length > 1 && driven.some((d) => Math.abs(sum - d.mA) <= 0.02 * d.mA))
    found.push(
      finding(
        'split-in-parallel',
        'stop',
        partial.flatMap((s) => [s.plus, s.minus, s.device.id]),
        `${partial.map((s) => s.device.name).join(' and ')} share the current: ` +
          `${partial.map((s) => mA(s.mA)).join(' and ')} of ${mA(driven[0]!.mA)}.`,
        'Receivers in parallel each get a part of the current, so all of them read low.',
        'Put them in series: out of the one, into the next.',
      ),
    )
  else
    for (const s of partial)
      found.push(
        finding(
          'current-lost',
          'stop',
          [s.plus, s.minus, s.device.id],
          `${s.device.name} gets ${mA(s.mA)} of the ${mA(driven[0]!.mA)} that the output drives.`,
          'Another path carries the rest past the receiver, so it reads low.',
          'Look for a second conductor or an earth between the two terminals of the input.',
        ),
      )
  if (!shunts.some((s) => Math.abs(s.mA) > 0.2))
    found.push(
      finding(
        'receiver-not-in-loop',
        'stop',
        shunts.flatMap((s) => [s.plus, s.device.id]),
        'Current flows, but through no receiver.',
        'The controller sees 0 mA although the transmitter works.',
        'Lead the return of the loop through the receiver’s input.',
      ),
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
          finding(
            'supply-reversed',
            'stop',
            where,
            `${device.name} gets its supply the wrong way round: ${V(v)}.`,
            'At best it stays dead, at worst it is destroyed.',
            'Exchange the two conductors at its supply terminals.',
          ),
        )
        continue
      }
      if (v > type.power.mostV) {
        found.push(
          finding(
            'supply-too-high',
            'stop',
            where,
            `${device.name} gets ${V(v)}; it takes at most ${V(type.power.mostV)}.`,
            'It would be destroyed when the power goes on.',
            'Use a supply within its range.',
          ),
        )
        continue
      }
      if (v > 1 && v < type.power.leastV) {
        found.push(
          finding(
            'supply-too-low',
            'stop',
            where,
            `${device.name} gets ${V(v)}; it needs at least ${V(type.power.leastV)}.`,
            'It starts and stops, or never starts.',
            'Use a higher supply or a thicker cable.',
          ),
        )
        continue
      }
    }
    if (!now.powered.get(device.id))
      found.push(
        finding(
          'no-device-power',
          'stop',
          where,
          `${device.name} gets no power of its own.`,
          'Its output is dead until it has.',
          'Wire its supply terminals.',
        ),
      )
  }
  for (const part of now.parts) {
    if (part.kind === 'source' && Math.abs(now.solution.parts[part.id]!.mA) > 1500) {
      const device = wiring.devices.find((d) => part.id.startsWith(`${d.id}/`))
      found.push(
        finding(
          'supply-shorted',
          'stop',
          [part.plus, part.minus, ...(device ? [device.id] : [])],
          `${device?.name ?? 'The supply'} would be short-circuited: ` +
            `${show(now.solution.parts[part.id]!.mA / 1000, 'A', { decimals: 0 })} in theory.`,
          'The fuse blows or the supply trips the moment the power goes on.',
          'Find the conductor that joins its plus to its minus.',
        ),
      )
    }
    if (part.kind === 'ammeter' && part.id.includes('/') && now.solution.parts[part.id]!.blown)
      found.push(
        finding(
          'fuse-would-blow',
          'stop',
          [part.plus, part.minus],
          `The fused terminal ${part.plus.split(':')[0]} would blow.`,
          'More current than its rating flows through it as drawn.',
          'Find the short behind it.',
        ),
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
      finding(
        'communication-resistance',
        'note',
        [o.plus, o.minus],
        `The loop has ${show(ohm, 'Ohm', { decimals: 0 })} outside the transmitter.`,
        'A communicator clipped across it needs at least 230 Ω to talk across; the supply shorts its signal ' +
          'out otherwise.',
        'Put 250 Ω in series at the cabinet and clip on across it, if one is to be used.',
        'Certain, if a communicator is to be used.',
      ),
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
  ]
  // Without figures only what can be seen without them is judged; volts would be invented.
  const electrical = attempt(() => electricalFindings(wiring, conditions, maxmA, needs.length > 0))
  if (electrical instanceof Refusal)
    structural.push(
      finding(
        'no-solution',
        'stop',
        [],
        'No voltages satisfy this circuit.',
        electrical.message,
        'Undo the last change and look at it again.',
      ),
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
    energise(wiring, { ...conditions, mA: current }, undefined, start?.powered)
  const mid = at(12)
  const found: WiringFinding[] = [...powerFindings(wiring, mid)]
  const outputs = outputsOf(wiring).filter((o) => mid.powered.get(o.device.id) ?? true)
  let fed = true
  for (const output of outputs) {
    const said = feedFindings(wiring, output, feedOf(wiring, { ...conditions, mA: 12 }, output, mid))
    found.push(...said)
    if (said.length) fed = false
  }
  if (fed && !found.some((f) => f.grade === 'stop')) {
    found.push(...receiverFindings(wiring, mid, outputs))
    if (!incomplete) {
      const [low, most] = [at(4, mid), at(maxmA, mid)]
      for (const output of outputs)
        if (output.kind !== 'repeats') found.push(...reachFindings(output, most, conditions, maxmA))
      found.push(...communicationFindings(low, mid, outputs))
    }
  }
  return found
}
