// What every device and every supply gets as drawn: too little, too much, the wrong way round, a short.
import { formatQuantity as show } from '../quantity/index.ts'
import type { Conditions, Energised } from './energise.ts'
import { finding, type WiringFinding } from './finding.ts'
import { V } from './judge-feed.ts'
import type { Device, DeviceType, Wiring } from './record.ts'
import { typeOf } from './types.ts'

type Power = NonNullable<DeviceType['power']>

/** Id of the device whose plate the loop’s entries speak of. */
const TRANSMITTER = 'TX'

/** What a device’s own supply may be, V: as entered of its plate, else of its type. */
function limitsOf(device: Device, power: Power, { figures }: Conditions) {
  const plate = (key: 'powerLeast' | 'powerMost') =>
    device.figures?.[key] ?? (device.id === TRANSMITTER ? figures[key] : undefined)
  return { least: plate('powerLeast') ?? power.leastV, most: plate('powerMost') ?? power.mostV }
}

/** Volts at a device’s own supply terminals; of mains what was entered. Undefined where nothing is known. */
function voltsOf(device: Device, power: Power, now: Energised, { figures }: Conditions): number | undefined {
  if (power.from === 'dc') return now.between(`${device.id}:${power.plus}`, `${device.id}:${power.minus}`)
  return device.id === TRANSMITTER && now.powered.get(device.id) ? figures['powerV'] : undefined
}

/** What is wrong with the supply of one device, if anything. */
function supplyFinding(device: Device, power: Power, now: Energised, conditions: Conditions): WiringFinding[] {
  const ends = power.from === 'dc' ? [power.plus, power.minus] : [power.live, power.neutral]
  const where = [...ends.map((t) => `${device.id}:${t}`), device.id]
  const { least, most } = limitsOf(device, power, conditions)
  const v = voltsOf(device, power, now, conditions)
  const stop = (f: Pick<WiringFinding, 'code' | 'what' | 'why' | 'action'>) => [finding({ grade: 'stop', where, ...f })]
  if (v !== undefined && v < -1)
    return stop({
      code: 'supply-reversed',
      what: `${device.name} gets its supply the wrong way round: ${V(v)}.`,
      why: 'At best it stays dead, at worst it is destroyed.',
      action: 'Exchange the two conductors at its supply terminals.',
    })
  if (v !== undefined && most !== undefined && v > most)
    return stop({
      code: 'supply-too-high',
      what: `${device.name} gets ${V(v)}; it takes at most ${V(most)}.`,
      why: 'It would be destroyed when the power goes on.',
      action: 'Use a supply within its range.',
    })
  if (v !== undefined && least !== undefined && v > 1 && v < least)
    return stop({
      code: 'supply-too-low',
      what: `${device.name} gets ${V(v)}; it needs at least ${V(least)}.`,
      why: 'It starts and stops, or never starts.',
      action: 'Use a higher supply or a thicker cable.',
    })
  if (now.powered.get(device.id)) return []
  return stop({
    code: 'no-device-power',
    what: `${device.name} gets no power of its own.`,
    why: 'Its output is dead until it has.',
    action: 'Wire its supply terminals.',
  })
}

/** Supplies that a short would blow, and fuses. */
function shortFindings(wiring: Wiring, now: Energised): WiringFinding[] {
  const found: WiringFinding[] = []
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

/** What each device and each supply gets as drawn. */
export const powerFindings = (wiring: Wiring, now: Energised, conditions: Conditions): WiringFinding[] => [
  ...wiring.devices.flatMap((device) => {
    const power = typeOf(device)?.power
    return power ? supplyFinding(device, power, now, conditions) : []
  }),
  ...shortFindings(wiring, now),
]
