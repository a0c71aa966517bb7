// A guided procedure over HART: what each of its commands is on the wire, and what a device holds by its answers.
import { floatBytes } from '../bytes/index.ts'
import { decodePayload, readStatus, symbolOf, unitCode, type Frame } from '../hart/index.ts'
import type { Command, Held, ProcedureId } from '../procedure/index.ts'
import { convertUnit, sameQuantity } from '../quantity/index.ts'
import { attempt, Refusal } from '../refusal/index.ts'
import { sure } from '../sure/index.ts'

export interface WireCommand {
  readonly command: number
  readonly data: Uint8Array
  /** Sent a second time it would do more than once: after silence the device is read, never asked again. */
  readonly once: boolean
}

/** Procedures that are led over HART; the receiver’s scale is set at the receiver. */
export const overHart = (procedure: ProcedureId): boolean => procedure !== 'receiver-scale'

const TRIM_POINT = { lower: 1, upper: 2 }
const trim = (command: number, data: readonly number[] = []): WireCommand => ({
  command,
  data: Uint8Array.from(data),
  once: true,
})
const write = (command: number, data: readonly number[]): WireCommand => ({ ...trim(command, data), once: false })

/**
 * What a command of a procedure is on the wire.
 * @param unit in which its values are, and in which the device is told them
 * @returns undefined for what no universal or common-practice command does: `ph-calibrate`, `receiver`
 * @throws Refusal `unknown-unit` when HART has no code for the unit
 */
export function wireCommand(command: Command, unit: string): WireCommand | undefined {
  switch (command.do) {
    case 'zero-trim':
    case 'flow-zero':
      return trim(43)
    case 'sensor-trim':
      return trim(82, [0, TRIM_POINT[command.end], unitCode(unit), ...floatBytes(command.value)])
    case 'drive':
      return write(40, floatBytes(command.mA))
    case 'release':
      return write(40, floatBytes(0))
    case 'current-trim':
      return trim(command.at === 4 ? 45 : 46, floatBytes(command.reading))
    case 'set-range':
      return write(35, [unitCode(unit), ...floatBytes(command.urv), ...floatBytes(command.lrv)])
    case 'damping':
      return write(34, floatBytes(command.seconds))
    case 'self-test':
      return trim(41)
    case 'store':
      return write(39, [0])
    case 'receiver':
    case 'ph-calibrate':
      return undefined
  }
}

type Answer = Pick<Frame, 'data' | 'status'>
/** The answers that tell what a device holds: to commands 0, 2 and 15. */
export interface HeldAnswers {
  readonly identity: Answer
  readonly current: Answer
  readonly output: Answer
}

/**
 * What a device holds, in a unit that it need not speak itself.
 * @param of `unit` of the held range; the receiver’s scale, which the device knows nothing of; whether all is stored
 * @throws Refusal `wrong-quantity` when the device measures something else
 */
export function heldOver(
  { identity, current, output }: HeldAnswers,
  of: {
    readonly unit: string
    readonly receiver: { readonly low: number; readonly high: number }
    readonly stored: boolean
  },
): Held {
  const ranged = decodePayload(15, 'response', output.data) as Record<string, number | null>
  const symbol = symbolOf(ranged['unitCode'] ?? 0) ?? ''
  const same = attempt(() => sameQuantity(symbol, of.unit))
  if (same !== true)
    throw new Refusal(
      'wrong-quantity',
      `The device speaks ${symbol || 'a unit without a name'}, and the loop ${of.unit}: it is not this loop’s ` +
        'device, or its unit was changed.',
    )
  // The last bits of a single-precision figure turned into another unit are no difference.
  const here = (v: number | null | undefined) =>
    v === null || v === undefined
      ? NaN
      : symbol === of.unit
        ? v
        : Number(convertUnit(v, symbol, of.unit).toPrecision(7))
  const flags = readStatus(...sure(current.status)).device
  const mA = decodePayload(2, 'response', current.data)['mA']
  return {
    lrv: here(ranged['lrv']),
    urv: here(ranged['urv']),
    receiverLow: of.receiver.low,
    receiverHigh: of.receiver.high,
    fixed_mA: flags.includes('current-fixed') && typeof mA === 'number' ? mA : null,
    stored: of.stored,
    changes: Number(decodePayload(0, 'response', identity.data)['configurationCounter'] ?? 0),
    ...(typeof ranged['damping_s'] === 'number' ? { damping_s: ranged['damping_s'] } : {}),
  }
}
