// A HART device that answers: one request in, at most one answer out, and what it is afterwards.
import { sure } from '../sure/index.ts'
import { liveOf, type HartDevice, type Instant, type Live } from './device-model.ts'
import { unpackAscii } from './fields.ts'
import { EVERY_DEVICE, type Frame, type Master } from './frame.ts'
import { longAddressOf } from './payloads.ts'
import { CODE, flagsByte, type DeviceFlag } from './status.ts'
import { refused, type Done, type Command } from './device-done.ts'
import { READS } from './device-reads.ts'
import { WRITES } from './device-writes.ts'

const COMMANDS: Readonly<Record<number, Command>> = { ...READS, ...WRITES }

function isMine({ make, working }: HartDevice, { address, command, data }: Frame): boolean {
  if ('short' in address) return address.short === working.pollingAddress
  if (command === 11 && data.length < 6) return false
  const own = longAddressOf(make.expandedType, make.deviceId)
  if (command === 11) {
    const tag = unpackAscii(data.slice(0, 6))
    return tag === working.tag && (address.long === EVERY_DEVICE || address.long === own)
  }
  return address.long === own
}

function flagsOf(device: HartDevice, live: Live, master: Master): DeviceFlag[] {
  return [
    ...(device.changed[master] ? ['configuration-changed' as const] : []),
    ...(device.coldStart[master] ? ['cold-start' as const] : []),
    ...(live.outOfLimits || device.lock ? ['more-status' as const] : []),
    ...(live.fixed ? ['current-fixed' as const] : []),
    ...(live.saturated ? ['current-saturated' as const] : []),
    ...(live.outOfLimits ? ['primary-out-of-limits' as const] : []),
  ]
}

function doneWith(device: HartDevice, frame: Frame, instant: Instant): Done {
  const { command, data, master } = frame
  if (device.busy && command !== 0) return refused(CODE.busy)
  const known = COMMANDS[command]
  if (!known) return refused(CODE.unknownCommand)
  if (data.length < (known.needs ?? 0)) return refused(CODE.tooFewBytes)
  if (known.writes && device.protected) return refused(CODE.writeProtected)
  if (known.writes && device.lock && device.lock !== master) return refused(CODE.writeProtected)
  return known.does({ device, data, master, instant, live: liveOf(device, instant) })
}

export interface DeviceAnswer {
  readonly device: HartDevice
  /** Undefined where it stays silent. */
  readonly answer?: Frame
}

/** What the device answers to a request whose check byte was right; silence for what is not its own. */
export function answerRequest(device: HartDevice, frame: Frame, instant: Instant): DeviceAnswer {
  if (frame.type !== 'request' || !isMine(device, frame)) return { device }
  const { code, data = [], device: after = device } = doneWith(device, frame, instant)
  const flags = flagsOf(
    after === device || frame.command === 42 ? device : { ...after, coldStart: device.coldStart },
    liveOf(after, instant),
    frame.master,
  )
  const answer: Frame = {
    type: 'response',
    address: frame.address,
    master: frame.master,
    burstMode: after.burst !== null,
    command: frame.command,
    data: Uint8Array.from(data),
    status: [code, flagsByte(flags)],
  }
  const warm = frame.command === 42 ? after.coldStart : { ...after.coldStart, [frame.master]: false }
  return { device: { ...after, coldStart: warm }, answer }
}

/** The frame that a device in burst mode sends unasked, to one of the masters; undefined out of it. */
export function burstFrame(device: HartDevice, instant: Instant, master: Master): Frame | undefined {
  if (device.burst === null) return undefined
  const live = liveOf(device, instant)
  const { code, data = [] } = sure(COMMANDS[device.burst]).does({
    device,
    data: new Uint8Array(),
    master,
    instant,
    live,
  })
  return {
    type: 'burst',
    address: { long: longAddressOf(device.make.expandedType, device.make.deviceId) },
    master,
    burstMode: true,
    command: device.burst,
    data: Uint8Array.from(data),
    status: [code, flagsByte(flagsOf(device, live, master))],
  }
}
