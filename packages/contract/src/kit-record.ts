// The record of a piece of kit: its calibrations, where it was, and what it was used for since it was last good.
import { findUnit } from '@calm-loop/core/quantity'
import { z } from 'zod'
import { endpoint } from './endpoint.ts'
import { Gear } from './gear.ts'
import { CERTIFICATE_BYTES } from './limits.ts'
import { Author, Day, filledLine, Id, Instant, line } from './primitives.ts'
import { KitMove } from './round.ts'

const figure = z.number().min(-1e12).max(1e12)
/** What it showed against the laboratory's standard, before anything was adjusted. */
export const FoundPoint = z.strictObject({
  unit: line(20).refine((u) => findUnit(u) !== undefined, 'a unit that is known here'),
  at: figure,
  found: figure,
})

/** A calibration of a piece of kit by a laboratory. */
export const NewCalibration = z.strictObject({
  day: Day,
  /** Number of its certificate, and who did it. */
  certificate: filledLine(80),
  by: filledLine(120),
  /** When it is due again. */
  due: Day,
  /** As it was found, by the words of the certificate; points, where there are any, are held against its figures. */
  stated: z.enum(['good', 'off', 'not-stated']),
  points: z.array(FoundPoint).max(60),
  /** As it came back: adjusted where it was off, or still off; then it is due at once. */
  left: z.enum(['good', 'off']),
  note: line(300),
})
export type NewCalibration = z.infer<typeof NewCalibration>
export const Calibration = NewCalibration.extend({
  id: Id,
  /** By its points and its own figures, else as stated; null where neither says it. */
  foundGood: z.boolean().nullable(),
  savedBy: Author,
  at: Instant,
  /** Name and SHA-256 of the certificate as it is kept; null where there is none. */
  file: z.strictObject({ name: z.string(), digest: z.string() }).nullable(),
})
export type Calibration = z.infer<typeof Calibration>

const UseVerdict = z.strictObject({ pass: z.boolean(), errorPct: z.number().nullable(), tolerancePct: z.number() })
/** Something that was done with the piece. */
export const KitUse = z.strictObject({
  id: Id,
  loop: z.strictObject({ id: Id, tag: z.string() }),
  what: z.enum(['check', 'verification']),
  /** Phase of a check, name of a sheet. */
  name: z.string(),
  on: Instant,
  by: z.string(),
  signed: z.boolean(),
  /** As it stands, and as it would with the error that the piece was found with; null where nothing is judged. */
  verdict: UseVerdict.nullable(),
  without: UseVerdict.nullable(),
  /** By how much its worst error would move, % of span; null where it cannot be worked out. */
  movedPct: z.number().nullable(),
  /** Why that cannot be worked out, or what it rests on. */
  words: z.string(),
})
export type KitUse = z.infer<typeof KitUse>

export const KitRecord = z.strictObject({
  piece: Gear,
  /** The newest first. */
  calibrations: z.array(Calibration),
  moves: z.array(KitMove),
  /** Found off by its newest calibration: that one; null otherwise. */
  off: Id.nullable(),
  /** It was last known good on that day, found so or left so; null where nothing says it: then all is listed. */
  goodOn: Day.nullable(),
  /** Since then, the newest first; until the day on which it was found off. */
  uses: z.array(KitUse),
  /** Used as well, and not listed. */
  more: z.number().int().nonnegative(),
})
export type KitRecord = z.infer<typeof KitRecord>

/** A piece of kit that a loop was checked with, and its calibration of that time. */
export const KitBehind = z.strictObject({
  gearId: Id,
  name: z.string(),
  serial: z.string(),
  /** Number of its certificate, as the check has it; '' where it has none. */
  certificate: z.string(),
  /** When it was used here last, under this calibration. */
  usedOn: Instant,
  /** Of that number, else the newest up to that day; null where none of then is on record. */
  calibration: Calibration.pick({ id: true, day: true, certificate: true, file: true }).nullable(),
})
export type KitBehind = z.infer<typeof KitBehind>

const piece = z.object({ gearId: Id })
const calibration = z.object({ gearId: Id, calibrationId: Id })
export const kitRoutes = {
  kitRecord: endpoint({
    method: 'get',
    path: '/api/gear/:gearId/record',
    access: 'signed-in',
    summary: 'Calibrations of a piece of kit, where it was, and what it was used for since it was last good',
    params: piece,
    // A calibration that found it off: what it put in doubt; without it the newest.
    query: z.object({ off: Id.optional() }),
    response: KitRecord,
  }),
  addCalibration: endpoint({
    method: 'put',
    path: '/api/gear/:gearId/calibrations/:calibrationId',
    access: 'duty:kit',
    summary: 'Put a calibration of a piece of kit on record; it is never changed',
    params: calibration,
    body: NewCalibration,
    response: Calibration,
  }),
  keepCertificate: endpoint({
    method: 'put',
    path: '/api/gear/:gearId/calibrations/:calibrationId/certificate',
    access: 'duty:kit',
    summary: 'Keep the certificate of a calibration, a PDF; once',
    params: calibration,
    query: z.object({ name: line(120).optional() }),
    rawBody: true,
    body: z.string(),
    bodyLimit: `${CERTIFICATE_BYTES + 1000}b`,
    response: Calibration,
  }),
  kitBehind: endpoint({
    method: 'get',
    path: '/api/loops/:loopId/kit',
    access: 'signed-in',
    summary: 'The kit that a loop was checked with, each with its calibration of that time, the newest use first',
    params: z.object({ loopId: Id }),
    response: z.array(KitBehind),
  }),
  kitCertificate: endpoint({
    method: 'get',
    path: '/api/gear/:gearId/calibrations/:calibrationId/certificate.pdf',
    access: 'signed-in',
    summary: 'The certificate of a calibration as it is kept',
    params: calibration,
    media: 'application/pdf',
  }),
}
