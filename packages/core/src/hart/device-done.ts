// What a command of a HART device is asked with, and what it comes to.
import type { DeviceMemory, HartDevice, Instant, Live } from './device-model.ts'
import type { Master } from './frame.ts'
import { encodePayload } from './payloads.ts'
import { CODE } from './status.ts'

/** What a command came to. */
export interface Done {
  readonly code: number
  readonly data?: Uint8Array | readonly number[]
  readonly device?: HartDevice
}
export interface Asked {
  readonly device: HartDevice
  readonly data: Uint8Array
  readonly master: Master
  readonly instant: Instant
  readonly live: Live
}
export type Doing = (asked: Asked) => Done

export const refused = (code: number): Done => ({ code })
const wraps = 65_536

/** The device after an accepted write. */
export function written(device: HartDevice, change: Partial<DeviceMemory>): HartDevice {
  const working = { ...device.working, ...change }
  return {
    ...device,
    working,
    stored: device.forgetful ? device.stored : working,
    counter: (device.counter + 1) % wraps,
    changed: { primary: true, secondary: true },
  }
}
/** Done, with the answer that the table gives for a command. */
export const says = (command: number, fields: Record<string, unknown>, device?: HartDevice): Done => ({
  code: CODE.done,
  data: encodePayload(command, 'response', fields),
  ...(device ? { device } : {}),
})

export interface Command {
  /** Data bytes that a request needs. */
  readonly needs?: number
  /** Refused while the device is write-protected, or locked by the other master. */
  readonly writes?: true
  readonly does: Doing
}
export const echo = (data: Uint8Array, size: number): Uint8Array => data.slice(0, size)
