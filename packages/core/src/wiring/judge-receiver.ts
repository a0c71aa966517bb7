// Whether everything that reads the loop gets the whole of its current, at every current.
import { formatQuantity as show } from '../quantity/index.ts'
import { netOf, type Energised } from './energise.ts'
import { finding, type WiringFinding } from './finding.ts'
import { shuntsOf, type Output, type Shunt } from './loops.ts'
import type { Device, Wiring } from './record.ts'
import { inSentence } from '../words/index.ts'
import { sure } from '../sure/index.ts'

const mA = (v: number) => show(v, 'mA', { decimals: 2 })
/** Less than this is no current of a loop, mA. */
const NOTHING_mA = 0.2
/** Half a per cent of the span of 4 to 20 mA: what may be lacking of a whole current, mA. */
const LACK_mA = 0.08

/** From here on an input takes volts and lets next to no current through, Ω. */
const VOLTAGE_INPUT_OHM = 10_000

interface Input extends Shunt {
  readonly mA: number
  /** Takes volts: what it reads is the current in the resistor across it. */
  readonly volts: boolean
}
/** The loop at one current: what the outputs drive, and what each input gets of it. */
interface Moment {
  readonly driven: readonly { readonly device: Device; readonly mA: number }[]
  readonly inputs: readonly Input[]
}

/** The inputs of a wiring, each with the current that it reads. */
function inputsOf(wiring: Wiring, now: Energised): Input[] {
  const current = (part: string) => now.solution.parts[part]?.mA ?? 0
  const ohms = new Map(now.parts.map((p) => [p.id, 'ohm' in p ? p.ohm : 0]))
  const all = shuntsOf(wiring)
  const isVolts = (s: Shunt) => (ohms.get(s.part) ?? 0) >= VOLTAGE_INPUT_OHM
  const loads = all.filter((s) => !isVolts(s))
  return all.map((s) => {
    if (!isVolts(s)) return { ...s, mA: current(s.part), volts: false }
    const [plus, minus] = [netOf(wiring, [s.plus]), netOf(wiring, [s.minus])]
    const across = loads.find((t) => plus.has(t.plus) && minus.has(t.minus))
    const turned = loads.find((t) => plus.has(t.minus) && minus.has(t.plus))
    return { ...s, mA: across ? current(across.part) : turned ? -current(turned.part) : 0, volts: true }
  })
}

function momentOf(wiring: Wiring, now: Energised, outputs: readonly Output[]): Moment {
  const current = (part: string) => now.solution.parts[part]?.mA ?? 0
  return {
    driven: outputs.map((o) => ({ device: o.device, mA: Math.abs(current(o.part)) })).filter((d) => d.mA > 0.5),
    inputs: inputsOf(wiring, now),
  }
}

/** Whether an input has the current that another device drives: what a device repeats is no witness of what it gets. */
const isWhole = ({ driven }: Moment, s: Input): boolean =>
  driven.some((d) => d.device !== s.device && Math.abs(s.mA - d.mA) <= LACK_mA)

const reversed = (s: Input): WiringFinding =>
  finding({
    code: 'input-reversed',
    grade: 'stop',
    where: [s.plus, s.minus, s.device.id],
    what: `The current enters ${inSentence(s.device.name)} at its return terminal: it would read ${mA(s.mA)}.`,
    why: 'Most cards show 0 % or a fault then, and some are damaged.',
    action: 'Exchange the two conductors at this input.',
  })

/** Receivers that share one current between them. */
function shared(partial: readonly Input[], driven: number): WiringFinding {
  return finding({
    code: 'split-in-parallel',
    grade: 'stop',
    where: partial.flatMap((s) => [s.plus, s.minus, s.device.id]),
    what:
      `${partial.map((s) => s.device.name).join(' and ')} share the current: ` +
      `${partial.map((s) => mA(s.mA)).join(' and ')} of ${mA(driven)}.`,
    why: 'Receivers in parallel each get a part of the current, so all of them read low.',
    action: 'Put them in series: out of the one, into the next.',
  })
}

const lost = (s: Input, driven: number): WiringFinding =>
  finding({
    code: 'current-lost',
    grade: 'stop',
    where: [s.plus, s.minus, s.device.id],
    what:
      s.mA > driven
        ? `${s.device.name} gets ${mA(s.mA)} where the output drives ${mA(driven)}.`
        : `${s.device.name} gets ${mA(s.mA)} of the ${mA(driven)} that the output drives.`,
    why:
      s.mA > driven
        ? 'Another current flows through it too, so it reads high.'
        : 'Another path carries the rest past the receiver, so it reads low.',
    action: 'Look for a second conductor or an earth between the two terminals of the input.',
  })

/** Why an input gets nothing although the loop carries current. */
function idle(wiring: Wiring, s: Input): WiringFinding {
  const where = [s.plus, s.minus, s.device.id]
  if (s.volts)
    return finding({
      code: 'voltage-input-bare',
      grade: 'stop',
      where,
      what: `The input ${s.plus} and ${s.minus} takes volts, and no resistor stands across it.`,
      why: 'A voltage input lets next to no current through: without the resistor there is nothing to read.',
      action: 'Put the resistor across its two terminals and the loop through it, or set the input to mA.',
    })
  if (netOf(wiring, [s.plus]).has(s.minus))
    return finding({
      code: 'input-shorted',
      grade: 'stop',
      where,
      what:
        `The input of the ${inSentence(s.device.name)} is shorted: ${s.plus} and ${s.minus} are one piece of ` +
        'copper.',
      why: 'The current goes past the resistor that reads it. The controller sees 0 mA although the transmitter works.',
      action: `Find the conductor that joins ${s.plus} and ${s.minus}, and take it out.`,
    })
  const landed = (ref: string) => wiring.conductors.some((c) => c.from === ref || c.to === ref)
  const bypassed = landed(s.plus) && landed(s.minus)
  return finding({
    code: 'receiver-not-in-loop',
    grade: 'stop',
    where,
    what: bypassed
      ? `Current flows, but past the ${inSentence(s.device.name)}.`
      : `Current flows, but not through the ${inSentence(s.device.name)}.`,
    why: 'The controller sees 0 mA although the transmitter works.',
    action: bypassed
      ? 'Follow both conductors of its input: the current has a shorter way.'
      : 'Lead the return of the loop through the receiver’s input.',
  })
}

/** Devices of which no input has the whole current; one with several inputs needs it at one of them only. */
function idleInputs(moment: Moment): Input[] {
  const devices = new Map<Device, Input[]>()
  for (const s of moment.inputs) devices.set(s.device, [...(devices.get(s.device) ?? []), s])
  return [...devices.values()].flatMap((of) =>
    of.every((s) => Math.abs(s.mA) <= NOTHING_mA) ? [sure(of.find((s) => s.plus) ?? of[0])] : [],
  )
}

function findingsAt(wiring: Wiring, moment: Moment): WiringFinding[] {
  const { driven, inputs } = moment
  const first = driven[0]?.mA
  if (first === undefined) return []
  const partial = inputs.filter((s) => s.mA > NOTHING_mA && !isWhole(moment, s))
  const sum = partial.reduce((total, s) => total + s.mA, 0)
  const share = partial.length > 1 && driven.some((d) => Math.abs(sum - d.mA) <= 0.02 * d.mA)
  return [
    ...inputs.filter((s) => s.mA < -NOTHING_mA).map(reversed),
    ...(share ? [shared(partial, first)] : partial.map((s) => lost(s, first))),
    ...idleInputs(moment).map((s) => idle(wiring, s)),
  ]
}

/** The loop is on another channel than the one whose scale is entered. */
function channelFindings(wiring: Wiring, now: Energised, channel: string | undefined): WiringFinding[] {
  if (channel === undefined) return []
  const inputs = inputsOf(wiring, now)
  return [...new Set(inputs.map((s) => s.device))].flatMap((device) => {
    const own = inputs.filter((s) => s.device === device)
    const meant = own.find((s) => s.name === `shunt ${channel}`)
    const used = own.find((s) => Math.abs(s.mA) > NOTHING_mA)
    if (!meant || !used || used === meant || Math.abs(meant.mA) > NOTHING_mA) return []
    const number = used.name.replace('shunt ', '')
    return [
      finding({
        code: 'wrong-channel',
        grade: 'stop',
        where: [used.plus, used.minus, meant.plus, meant.minus, device.id],
        what:
          `The wires are on channel ${number} of the ${inSentence(device.name)} (${used.plus} and ${used.minus}); ` +
          `the one entered is channel ${channel} (${meant.plus} and ${meant.minus}).`,
        why: `Channel ${channel} reads 0 mA, and channel ${number} shows this loop by a scale that is another one’s.`,
        action: `Move both conductors to channel ${channel}, or enter channel ${number} and its scale.`,
      }),
    ]
  })
}

/** Receivers that do not get the whole current of the loop, at the first current at which one does not. */
export function receiverFindings(
  wiring: Wiring,
  states: readonly Energised[],
  outputs: readonly Output[],
  channel?: string,
): WiringFinding[] {
  for (const now of states) {
    const found = findingsAt(wiring, momentOf(wiring, now, outputs))
    if (found.length) return found
  }
  return channelFindings(wiring, sure(states[0]), channel)
}
