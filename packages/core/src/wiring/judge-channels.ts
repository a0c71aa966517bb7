// A device whose plate lists several channels: each set, wired and judged for itself. And the sensor interface of a
// controller against what is wired.
import { formatQuantity as show } from '../quantity/index.ts'
import { attempt, Refusal } from '../refusal/index.ts'
import { inSentence } from '../words/index.ts'
import { energise, netOf, type Conditions } from './energise.ts'
import { finding, type WiringFinding } from './finding.ts'
import { interfaceOfType } from './propose.ts'
import type { Device, Wiring } from './record.ts'
import { channelKind, isWired, refOf, terminalsOf, typeOf } from './types.ts'

const V = (v: number) => show(v, 'V', { decimals: 1 })
/** A counter takes more than this for a pulse, and less than the other for none, V across its input. */
const PULSE_V = 8
const REST_V = 3

interface PulsePair {
  readonly device: Device
  readonly channel: string
  readonly plus: string
  readonly minus: string
  /** Ends of the counter’s input resistance. */
  readonly input: readonly [string, string]
  readonly counter: Device
}

/** Pulse channels that are wired, each with the counter input that its wires reach. */
function pulsePairs(wiring: Wiring): PulsePair[] {
  return wiring.devices.flatMap((device) =>
    (typeOf(device)?.channels ?? []).flatMap((c): PulsePair[] => {
      if (channelKind(device, c) !== 'pulse or frequency, passive') return []
      const [plus, minus] = [refOf(device.id, c.plus), refOf(device.id, c.minus)]
      if (!isWired(wiring, plus) && !isWired(wiring, minus)) return []
      const [up, down] = [netOf(wiring, [plus]), netOf(wiring, [minus])]
      for (const counter of wiring.devices) {
        const part = typeOf(counter)?.inside.find((p) => p.part === 'resists' && p.id === 'input')
        if (part?.part !== 'resists') continue
        const input = [refOf(counter.id, part.a), refOf(counter.id, part.b)] as const
        const reaches = (typeOf(counter)?.terminals ?? []).some((t) => {
          const ref = refOf(counter.id, t.id)
          return t.does === 'signal-in' && (up.has(ref) || down.has(ref))
        })
        if (reaches) return [{ device, channel: c.id, plus, minus, input, counter }]
      }
      return [{ device, channel: c.id, plus, minus, input: [plus, minus], counter: device }]
    }),
  )
}

function pulseFinding(wiring: Wiring, conditions: Conditions, pair: PulsePair): WiringFinding[] {
  const { device, channel, counter, input } = pair
  const where = [pair.plus, pair.minus, device.id]
  const name = `pulse output ${channel} of the ${inSentence(device.name)}`
  if (counter === device)
    return [
      finding({
        code: 'pulse-no-counter',
        grade: 'stop',
        where,
        what: `The ${name} is wired, and reaches no counter’s input.`,
        why: 'Its pulses are counted nowhere.',
        action: 'Lead it to the input of a counter, or take its wires off.',
      }),
    ]
  const across = [true, false].map((target) => {
    const now = attempt(() => energise({ wiring, conditions: { ...conditions, target } }))
    return now instanceof Refusal ? 0 : Math.abs(now.between(input[0], input[1]))
  })
  const [on = 0, off = 0] = across
  if (on >= PULSE_V && off <= REST_V) return []
  return [
    finding({
      code: 'pulse-not-seen',
      grade: 'stop',
      where: [...where, ...input, counter.id],
      what: `At the ${inSentence(counter.name)} a pulse of the ${name} makes ${V(on)}, and none ${V(off)}.`,
      why: 'A passive output only joins its two terminals: something must feed the input, and plus must be its plus.',
      action: 'Use an input that feeds itself, or put a supply and a resistor before it; look at plus and minus.',
    }),
  ]
}

/** The sensor interface set in a controller against the terminals that are wired. @param set undefined: unknown */
function interfaceFindings(wiring: Wiring, set: string | undefined): WiringFinding[] {
  if (set === undefined) return []
  return wiring.devices.flatMap((device) => {
    const is = interfaceOfType(device.type)
    const refs = [...terminalsOf(wiring)].flatMap(([ref, s]) => (s.device === device ? [ref] : []))
    if (!is || is === set || !refs.some((ref) => isWired(wiring, ref))) return []
    return [
      finding({
        code: 'interface-mismatch',
        grade: 'stop',
        where: [device.id, ...refs],
        what: `The sensor is wired as ${inSentence(is)}, and the controller is set to ${inSentence(set)}.`,
        why: 'The controller listens at terminals that nothing is on, and says that the sensor is lost.',
        action: 'Set the sensor interface type as it is wired, or move the sensor’s wires.',
      }),
    ]
  })
}

/** Each channel for itself, and the sensor’s interface. */
export const channelFindings = (wiring: Wiring, conditions: Conditions): WiringFinding[] => [
  ...interfaceFindings(wiring, conditions.sensorInterface),
  ...pulsePairs(wiring).flatMap((pair) => pulseFinding(wiring, conditions, pair)),
]
