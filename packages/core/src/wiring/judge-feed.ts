// Whether each current output is fed, can drive its current through the loop, and ends in something that reads it.
import { formatQuantity as show } from '../quantity/index.ts'
import { netOf, type Conditions, type Energised } from './energise.ts'
import { finding, type WiringFinding } from './finding.ts'
import type { Feed, Output } from './loops.ts'
import type { Wiring } from './record.ts'
import { typeOf } from './types.ts'
import { inSentence } from '../words/index.ts'
import { sure } from '../sure/index.ts'

export const V = (v: number) => show(v, 'V', { decimals: 1 })
const mA = (v: number) => show(v, 'mA', { decimals: 2 })

/**
 * An isolated output that its own 24 V could feed, with nothing on its plus: whoever looks at its display thinks that
 * it works.
 */
const isUnfed = (wiring: Wiring, output: Output): boolean =>
  output.kind === 'sinks' &&
  sure(typeOf(output.device)).terminals.some((t) => t.does === 'feeds+') &&
  !wiring.conductors.some((c) => c.from === output.plus || c.to === output.plus)

/** Whether all that feeds a loop stands plus on plus and minus on minus. */
function inParallel(wiring: Wiring, { sources }: Feed): boolean {
  const [first, ...rest] = sources
  if (!first || !rest.length) return false
  const [plus, minus] = [netOf(wiring, [first.plus]), netOf(wiring, [first.minus])]
  return rest.every((s) => plus.has(s.plus) && minus.has(s.minus))
}

/** What a plate says an isolated output may be fed with, against what feeds it. */
function feedLimits(output: Output, feed: Feed, { figures }: Conditions): WiringFinding[] {
  const own = { ...typeOf(output.device)?.figures, ...output.device.figures }
  const [least, most] = [own['feedLeast'] ?? figures['feedLeast'], own['feedMost'] ?? figures['feedMost']]
  const where = [output.plus, output.minus, output.device.id]
  const name = inSentence(output.device.name)
  if (most !== undefined && feed.openV > most)
    return [
      finding({
        code: 'feed-too-high',
        grade: 'stop',
        where,
        what: `The output of the ${name} is fed with ${V(feed.openV)}; its plate allows ${V(most)} at most.`,
        why: 'The output stage is made for no more: it is damaged when the power goes on.',
        action: 'Feed it from a supply within its range.',
      }),
    ]
  if (least !== undefined && feed.openV < least)
    return [
      finding({
        code: 'feed-too-low',
        grade: 'stop',
        where,
        what: `The output of the ${name} is fed with ${V(feed.openV)}; its plate asks for ${V(least)} at least.`,
        why: 'Below it the output stage does not work, though the display does.',
        action: 'Feed it with more, or by the jumper from its own 24 V.',
      }),
    ]
  return []
}

export function feedFindings(wiring: Wiring, output: Output, feed: Feed, conditions: Conditions): WiringFinding[] {
  const where = [output.plus, output.minus, output.device.id]
  const name = inSentence(output.device.name)
  if (output.kind !== 'sinks') {
    if (!feed.closed)
      return [
        finding({
          code: 'loop-open',
          grade: 'stop',
          where,
          what: `The current of the ${name} has no way back: the loop is open.`,
          why: 'An output that drives nothing leaves the receiver at 0 mA.',
          action: 'Lead both conductors of the output to one receiver input.',
        }),
      ]
    if (feed.sources.length)
      return [
        finding({
          code: 'two-loop-supplies',
          grade: 'stop',
          where,
          what: `The ${name} drives the loop itself, and a supply of ${V(feed.openV)} stands in it too.`,
          why: 'Two supplies in one loop fight: the reading is wrong and either can be damaged.',
          action: 'Use the receiver’s passive input, or take the other supply out of the loop.',
        }),
      ]
    return []
  }
  const aiding = feed.sources.filter((s) => s.volts > 0)
  if (inParallel(wiring, feed))
    return [
      finding({
        code: 'supplies-in-parallel',
        grade: 'stop',
        where,
        what: `${feed.sources.length} supplies stand in parallel: together they feed this loop with ${V(feed.openV)}.`,
        why:
          'Two supplies are never quite alike: the higher feeds the lower, and when one fails it drags the other ' +
          'down. Only through a diode for each may they stand together.',
        action: 'Take one of them out, or put in a module that decouples them.',
      }),
    ]
  if (feed.sources.length > 1)
    return [
      finding({
        code: 'two-loop-supplies',
        grade: 'stop',
        where,
        what:
          aiding.length === feed.sources.length
            ? `Two supplies stand in series in this loop: ${V(feed.openV)} in all.`
            : `Two supplies stand against each other in this loop: ${V(feed.openV)} is left.`,
        why: 'One and only one supply may feed a loop. Together they overstress it; against each other nothing flows.',
        action: 'Take one of them out: either the card’s own supply or the separate one.',
      }),
    ]
  if (!feed.closed && !isUnfed(wiring, output))
    return [
      finding({
        code: 'loop-open',
        grade: 'stop',
        where,
        what: `The loop of the ${name} is not closed.`,
        why: 'Without a closed path no current flows, whatever the supply.',
        action:
          'Follow plus from the supply and minus from the receiver: one conductor is missing or ends at another ' +
          'terminal.',
      }),
    ]
  if (isUnfed(wiring, output) || (!feed.sources.length && Math.abs(feed.openV) < 1))
    return [
      finding({
        code: 'no-loop-supply',
        grade: 'stop',
        where,
        what: `Nothing feeds the loop of the ${name}.`,
        why: 'A passive output only lets current through. Its display may work and the loop still be dead.',
        action:
          'Feed it from a card that supplies the loop, from a separate supply, or by the jumper from its own 24 V.',
      }),
    ]
  if (feed.openV < -1)
    return [
      finding({
        code: 'reversed-polarity',
        grade: 'stop',
        where,
        what: `The ${name} would see ${V(feed.openV)}: its plus and minus are exchanged.`,
        why: 'It stays at 0 mA; one without protection conducts backwards and is damaged.',
        action: 'Exchange the two conductors at its terminals, with the power off.',
      }),
    ]
  return feedLimits(output, feed, conditions)
}

/** Lift-off or compliance, at the highest current that the loop can be asked for. */
export function reachFindings(
  output: Output,
  atMost: Energised,
  conditions: Conditions,
  maxmA: number,
): WiringFinding[] {
  const got = atMost.solution.parts[output.part]
  if (!got || Math.abs(got.mA) >= maxmA * 0.999) return []
  const where = [output.plus, output.minus, output.device.id]
  if (output.kind === 'sinks') {
    const liftOff = conditions.figures['liftOff']
    return [
      finding({
        code: 'lift-off-not-met',
        grade: 'stop',
        where,
        what:
          `Asked for ${mA(maxmA)}, the ${inSentence(output.device.name)} is left with ${V(got.volts)} and ` +
          `reaches ${mA(got.mA)}${liftOff === undefined ? '' : `; it needs ${V(liftOff)}`}.`,
        why: 'It reads right at 4 mA and sticks at some higher current, so a high value or an alarm is never seen.',
        action: 'Raise the supply, shorten or thicken the cable, or take resistance out of the loop.',
      }),
    ]
  }
  return [
    finding({
      code: 'beyond-compliance',
      grade: 'stop',
      where,
      what: `Asked for ${mA(maxmA)}, the output reaches its ${V(got.volts)} and drives ${mA(got.mA)}.`,
      why: 'The load is more than the output can drive: it reads right low and sticks high.',
      action: 'Take resistance out of the loop, or use an isolator.',
    }),
  ]
}
