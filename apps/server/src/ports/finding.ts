// Which device answers on a line: by its address, or by its tag.
import type { FoundDevice, ProbeLine } from '@calm-loop/contract'
import { descriptionFor, UNIVERSAL } from '@calm-loop/core/description'
import { decodePayload, EVERY_DEVICE, packAscii, type Received } from '@calm-loop/core/hart'
import { sure } from '@calm-loop/core/sure'
import type { Database } from '../db/database.ts'
import { allDescriptions } from './device-store.ts'
import { answered, codeOf, type Exchange, type HartLine } from './hart-line.ts'

/** How long a device has to begin its answer before the next address is asked, ms. */
const PROBE_ms = 330

/** A device that has said who it is. */
export interface Identified {
  readonly device: FoundDevice
  /** Preambles that it asks for. */
  readonly preambles: number
}

/** Asks one address, once: what came of it, and the frame of a device that answers. */
export async function askAddress(open: HartLine, address: number): Promise<[ProbeLine, Received | undefined]> {
  const got = await open.ask({
    address: { short: address },
    command: 0,
    preambles: 20,
    tries: 1,
    within_ms: PROBE_ms,
  })
  const line: ProbeLine = {
    address,
    outcome: answered(got) ? 'device' : got.why === 'lost' ? 'silence' : got.why,
    tries: got.tries,
    took_ms: Math.round(got.took_ms),
    tag: '',
  }
  return [line, answered(got) ? got.frame : undefined]
}

/** Asks every device whether this tag is its own; only that one answers. */
export const askTag = (open: HartLine, tag: string): Promise<Exchange> =>
  open.ask({
    address: { long: EVERY_DEVICE },
    command: 11,
    data: Uint8Array.from(packAscii(tag, 8)),
    preambles: 20,
    tries: 2,
  })

/** Its polling address, where it was not asked by that; null where it does not tell. */
async function addressOf(open: HartLine, long: string, preambles: number): Promise<number | null> {
  const got = await open.ask({ address: { long }, command: 7, preambles })
  return answered(got) && !codeOf(got.frame) ? (got.frame.data[0] ?? null) : null
}

/**
 * Who answered, and by which description it is read.
 * @param frame its answer to commands 0 or 11
 * @param address where it was asked by one
 */
export async function identified(db: Database, open: HartLine, frame: Received, address?: number): Promise<Identified> {
  const fields = decodePayload(0, 'response', frame.data) as Record<string, number | null> & { longAddress: string }
  const expandedType = sure(fields['expandedType'])
  const deviceRevision = sure(fields['deviceRevision'])
  const preambles = Math.max(5, fields['requestPreambles'] ?? 5)
  const own = descriptionFor(await allDescriptions(db), { expandedType, deviceRevision })
  const names = await open.ask({ address: { long: fields.longAddress }, command: 13, preambles })
  const tag =
    answered(names) && !codeOf(names.frame) ? String(decodePayload(13, 'response', names.frame.data)['tag']) : ''
  const device = {
    serial: fields.longAddress,
    address: address ?? (await addressOf(open, fields.longAddress, preambles)),
    longAddress: fields.longAddress,
    expandedType,
    deviceRevision,
    softwareRevision: sure(fields['softwareRevision']),
    universalRevision: sure(fields['universalRevision']),
    configurationCounter: fields['configurationCounter'] ?? null,
    forgetful: ((fields['flags'] ?? 0) & 2) === 2,
    tag,
    description: own
      ? { id: own.id, version: own.version, name: own.name }
      : { id: UNIVERSAL.id, version: UNIVERSAL.version, name: UNIVERSAL.name },
  }
  return { device, preambles }
}
