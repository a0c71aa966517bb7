// The two-wire bus (RS-485): its pair, its ends, its common.
import { netOf } from './energise.ts'
import { finding, type WiringFinding } from './finding.ts'
import type { Device, Wiring } from './record.ts'
import { terminalsOf, typeOf } from './types.ts'
import { sure } from '../sure/index.ts'

interface Station {
  readonly device: Device
  readonly plus: string
  readonly minus: string
  readonly common: string | undefined
  readonly terminated: boolean
}

function stationsOf(wiring: Wiring): Station[] {
  return wiring.devices.flatMap((device) => {
    const type = typeOf(device)
    const at = (does: string) => {
      const terminal = type?.terminals.find((t) => t.does === does)
      return terminal && `${device.id}:${terminal.id}`
    }
    const [plus, minus] = [at('bus+'), at('bus-')]
    if (!plus || !minus) return []
    const termination = device.figures?.['termination'] ?? type?.figures?.['termination'] ?? 0
    return [{ device, plus, minus, common: at('bus-common'), terminated: termination > 0 }]
  })
}

const linesJoined = (of: readonly Station[]): WiringFinding =>
  finding({
    code: 'bus-lines-joined',
    grade: 'stop',
    where: of.flatMap((s) => [s.plus, s.minus, s.device.id]),
    what: 'The two data lines of the bus are one piece of copper.',
    why: 'Between them stand no volts, so nobody hears anything: a short, not an exchanged pair.',
    action: 'Look for a core of the one line that is landed on the other, and land it on its own.',
  })

const onWrongLine = (s: Station): WiringFinding =>
  finding({
    code: 'bus-wrong-line',
    grade: 'stop',
    where: [s.plus, s.minus, s.device.id],
    what: `One data wire reaches ${s.device.name}, on the wrong line, and the other none.`,
    why: 'A difference between two wires needs both, each on its own line.',
    action: 'Land it on its own line, and the other data wire on the other.',
  })

export function busFindings(wiring: Wiring): WiringFinding[] {
  const spots = terminalsOf(wiring)
  const stations = stationsOf(wiring)
  const found: WiringFinding[] = []
  const seen = new Set<string>()
  for (const station of stations) {
    if (seen.has(station.device.id)) continue
    const [plus, minus] = [netOf(wiring, [station.plus]), netOf(wiring, [station.minus])]
    const others = stations.filter((s) => [s.plus, s.minus].some((ref) => plus.has(ref) || minus.has(ref)))
    for (const s of others) seen.add(s.device.id)
    if (others.length < 2) {
      // A converter’s bus that is not used is no fault; a sensor that has nothing but its bus is.
      if (sure(spots.get(station.plus)).type.role === 'bus')
        found.push(
          finding({
            code: 'bus-unconnected',
            grade: 'stop',
            where: [station.plus, station.minus, station.device.id],
            what: `${station.device.name} is on no bus.`,
            why: 'Nothing can hear it.',
            action: 'Lead its two data wires to the next station.',
          }),
        )
      continue
    }
    if (others.some((s) => netOf(wiring, [s.plus]).has(s.minus))) {
      found.push(linesJoined(others))
      continue
    }
    for (const s of others)
      if (plus.has(s.minus) !== minus.has(s.plus)) found.push(onWrongLine(s))
      else if (plus.has(s.minus))
        found.push(
          finding({
            code: 'bus-swapped',
            grade: 'stop',
            where: [s.plus, s.minus, s.device.id],
            what: `The data pair is exchanged at ${s.device.name}.`,
            why:
              'Every bit arrives inverted, so it never answers. The names A and B are used in two opposite ' +
              'ways; only the idle voltage tells.',
            action:
              'Exchange the two data wires at one end. Idle, the line marked + stands 0.2 V or more above the other.',
          }),
        )
      else if (!plus.has(s.plus) || !minus.has(s.minus))
        found.push(
          finding({
            code: 'bus-half',
            grade: 'stop',
            where: [s.plus, s.minus, s.device.id],
            what: `Only one data wire reaches ${s.device.name}.`,
            why: 'A difference between two wires needs both.',
            action: 'Land the other data wire.',
          }),
        )
    const ended = others.filter((s) => s.terminated)
    const where = others.flatMap((s) => [s.plus, s.minus, s.device.id])
    if (ended.length < 2)
      found.push(
        finding({
          code: 'bus-unterminated',
          grade: 'look',
          where,
          what: `${ended.length === 1 ? 'Only one end' : 'Neither end'} of the bus is terminated.`,
          why: 'Reflections garble fast or long buses; it may work on the bench and fail on the plant.',
          action: 'Switch on 120 Ω at the first and at the last station.',
          sure: 'Likely to matter above some tens of metres.',
        }),
      )
    if (ended.length > 2)
      found.push(
        finding({
          code: 'bus-terminated-often',
          grade: 'look',
          where,
          what: `${ended.length} stations are terminated.`,
          why: 'Each termination loads the line; with three or more the levels sink below the threshold.',
          action: 'Leave it on at the two ends only.',
          sure: 'Likely.',
        }),
      )
    const common = station.common ? netOf(wiring, [station.common]) : undefined
    if (common && !others.every((s) => s.common === undefined || common.has(s.common)))
      found.push(
        finding({
          code: 'bus-no-common',
          grade: 'look',
          where,
          what: 'The commons of the bus stations are not joined.',
          why: 'The two data wires may then float out of the range that the receivers take.',
          action: 'Lead a third core as common.',
          sure: 'Likely to matter between different supplies.',
        }),
      )
  }
  return found
}
