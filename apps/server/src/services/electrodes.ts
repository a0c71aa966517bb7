// Electrodes by their serial numbers: their record is added to, and the point where one is plugged in follows it.
import {
  canonicalJson,
  type AddElectrodeEntry,
  type ElectrodeBody,
  type ElectrodeEntry,
  type ElectrodeView,
  type Person,
} from '@calm-loop/contract'
import { readElectrode } from '@calm-loop/contract/electrodes'
import { bufferPh, recogniseBuffer } from '@calm-loop/core/analysis'
import { afterEvent, calibrated, refuseNotReady, type Electrode, type MemoryPoint } from '@calm-loop/core/electrode'
import { entriesNow, entriesOfCalibration, kindOf } from '@calm-loop/core/kinds'
import { phPoints, type RunState } from '@calm-loop/core/procedure'
import { convertUnit, entryFrom } from '@calm-loop/core/quantity'
import { attempt, Refusal } from '@calm-loop/core/refusal'
import { and, asc, eq, like, sql } from 'drizzle-orm'
import { createHash } from 'node:crypto'
import { v7 as uuid } from 'uuid'
import type { Database, Queries } from '../db/database.ts'
import { audit, electrodeLog, loops, versions } from '../db/schema.ts'
import { idReused, notFound } from '../http/problems.ts'
import type { Workers } from '../workers/pool.ts'
import { record } from './audit.ts'
import { benchOf } from './bench.ts'
import { announce } from './events.ts'
import { author, namesOf } from './folder.ts'
import { saveInTurn } from './loops.ts'
import { inOneTurn } from './turns.ts'
import { ownBuffers } from './work.ts'
import { refuseOnBench } from './worlds.ts'

type Row = typeof electrodeLog.$inferSelect
type Names = Awaited<ReturnType<typeof namesOf>>

const entryOf = (row: Row, names: Names): ElectrodeEntry => ({
  ...row.body,
  id: row.id,
  by: author(names, row.byId),
  at: row.at.toISOString(),
})
function viewsOf(rows: readonly Row[], names: Names): ElectrodeView[] {
  const views = new Map<string, ElectrodeView>()
  for (const row of rows) {
    const view = views.get(row.electrodeId) ?? { id: row.electrodeId, log: [] }
    view.log.push(entryOf(row, names))
    views.set(row.electrodeId, view)
  }
  return [...views.values()]
}

/** Every electrode with its record. */
export async function listElectrodes(db: Queries): Promise<ElectrodeView[]> {
  const rows = await db.select().from(electrodeLog).orderBy(asc(electrodeLog.electrodeId), asc(electrodeLog.seq))
  return viewsOf(rows, await namesOf(db))
}

async function viewOf(tx: Queries, electrodeId: string): Promise<ElectrodeView | undefined> {
  const rows = await tx
    .select()
    .from(electrodeLog)
    .where(eq(electrodeLog.electrodeId, electrodeId))
    .orderBy(asc(electrodeLog.seq))
  return viewsOf(rows, await namesOf(tx))[0]
}

/** Electrodes are changed one at a time, whatever else is held: after a loop's turn, never before it. */
const inElectrodeTurn = (tx: Queries) =>
  tx.execute(sql`select pg_advisory_xact_lock(hashtextextended('electrodes', 0))`)

/** The electrode that is plugged in at a loop; undefined where none is. */
export async function electrodeAt(tx: Queries, loopId: string): Promise<ElectrodeView | undefined> {
  const rows = await tx
    .select({ id: electrodeLog.electrodeId })
    .from(electrodeLog)
    .where(eq(sql`${electrodeLog.body}->>'loopId'`, loopId))
    .groupBy(electrodeLog.electrodeId)
  for (const { id } of rows) {
    const view = await viewOf(tx, id)
    const place = view && readElectrode(view).place
    if (place?.at === 'point' && place.loopId === loopId) return view
  }
  return undefined
}

/** Fingerprint of an entry as it stands: who put what on record of which electrode, when and in which place. */
const fingerprint = ({ id, electrodeId, seq, body, byId, at }: Row): string =>
  createHash('sha256')
    .update(canonicalJson({ id, electrodeId, seq, body, byId, at: at.toISOString() }))
    .digest('hex')

type Write = Omit<Row, 'what' | 'at' | 'body'> & { readonly body: ElectrodeBody; readonly at?: Date }
/** Puts an entry at the end of an electrode's record; the chain of the audit trail keeps its fingerprint. */
export async function keepElectrode(tx: Queries, { at = new Date(), ...entry }: Write): Promise<void> {
  const row: Row = { ...entry, what: entry.body.what, at }
  await tx.insert(electrodeLog).values(row)
  await record({
    tx,
    personId: row.byId,
    action: `electrode-${row.what}`,
    loopId: entry.body.what === 'plugged-in' ? entry.body.loopId : null,
    details: { id: row.id, electrodeId: row.electrodeId, digest: fingerprint(row) },
  })
}

/**
 * A record that is not what was put on record: changed, or put there past the application. Before an electrode is
 * plugged in its entries are held against the fingerprints of the audit trail.
 * @throws Refusal `electrode-record-changed`
 */
async function refuseChanged(tx: Queries, { id, log }: ElectrodeView): Promise<void> {
  const rows = await tx.select().from(electrodeLog).where(eq(electrodeLog.electrodeId, id))
  const kept = await tx
    .select({ details: audit.details })
    .from(audit)
    .where(and(like(audit.action, 'electrode-%'), eq(sql`${audit.details}->>'electrodeId'`, id)))
  const known = new Set(kept.map(({ details }) => (details as { digest?: string }).digest))
  if (kept.length !== log.length || rows.some((row) => !known.has(fingerprint(row))))
    throw new Refusal(
      'electrode-record-changed',
      'The record of this electrode is not what was put on record: it was changed past the application. Calibrate ' +
        'another one, and tell whoever keeps the database.',
    )
}

/** Buffers that are not what they are said to be: of a pH that the table does not have, or of another's signal. */
async function refuseFalsePoints(tx: Queries, e: Electrode, points: readonly MemoryPoint[]): Promise<void> {
  if (e.sort !== 'ph') return
  const own = await ownBuffers(tx)
  const names = points.map((p) => p.buffer)
  for (const { buffer, temp_C, is, mV } of points) {
    if (temp_C === undefined) throw new Refusal('value-missing', `The temperature of buffer ${buffer} is wanted.`)
    if (Math.abs(bufferPh(buffer, temp_C, own).ph - is) > 1e-6)
      throw new Refusal('entry-mismatch', `Buffer ${buffer} does not have pH ${is} at ${temp_C} °C.`)
    const known = attempt(() => recogniseBuffer({ mV, temp_C, names, own }))
    if (!(known instanceof Refusal) && known.name !== buffer)
      throw new Refusal('buffers-swapped', `${mV} mV is buffer ${known.name} by its signal, not ${buffer}.`)
  }
}

/** What was written into an electrode and does not stand there is not on record as written. */
const SAME = { slopePercent: 0.15, offset_mV: 0.15 }
function refuseOtherReadBack(e: Electrode, body: Extract<ElectrodeBody, { what: 'calibrated' }>): void {
  const { readBack } = body
  const found = calibrated(e.sort, body.points, e.last?.slopePercent)
  const lacks = !readBack || (found.slopePercent !== undefined && readBack.slopePercent === undefined)
  if (lacks && e.memory)
    throw new Refusal('value-missing', 'An electrode with a memory is read back: type what stands in it now.')
  const apart = (a: number | undefined, b: number | undefined, most: number) =>
    a !== undefined && b !== undefined && Math.abs(a - b) > most
  if (
    apart(readBack?.offset_mV, found.offset_mV, SAME.offset_mV) ||
    apart(readBack?.slopePercent, found.slopePercent, SAME.slopePercent)
  )
    throw new Refusal(
      'entry-mismatch',
      'The electrode does not hold what was calibrated: write it again and read it back, or leave it out of use.',
    )
}

interface Adding {
  readonly db: Database
  readonly workers: Workers
  readonly electrodeId: string
  readonly id: string
  readonly entry: AddElectrodeEntry
  readonly person: Person
}

/** Adds to the record of an electrode; the same again changes nothing. @throws Refusal, HttpProblem */
export function addElectrodeEntry(wish: Adding): Promise<ElectrodeView> {
  const { db, electrodeId, id, entry, person } = wish
  const name = entry.what === 'plugged-in' ? `loop ${entry.loopId}` : 'electrode'
  return inOneTurn(db, name, async (tx) => {
    await inElectrodeTurn(tx)
    const [sent] = await tx.select().from(electrodeLog).where(eq(electrodeLog.id, id))
    const view = await viewOf(tx, electrodeId)
    if (sent) {
      const { tag: _, ...same } = sent.body as ElectrodeBody & { tag?: string }
      if (view && sent.electrodeId === electrodeId && canonicalJson(same) === canonicalJson(entry)) return view
      throw idReused()
    }
    const now = new Date().toISOString()
    const body = await bodyOf(tx, wish, view)
    if (view) afterEvent(readElectrode(view), { ...body, at: now })
    await keepElectrode(tx, { electrodeId, id, body, byId: person.id, seq: (view?.log.length ?? 0) + 1 })
    const after = await viewOf(tx, electrodeId)
    if (!after) throw notFound('This electrode')
    if (body.what === 'plugged-in') {
      await refuseChanged(tx, after)
      await follow(tx, wish.workers, { loopId: body.loopId, view: after, person })
    }
    if (body.what === 'taken-out' && view) await sayTakenOut(tx, view, person)
    return after
  })
}

async function sayTakenOut(tx: Queries, view: ElectrodeView, person: Person): Promise<void> {
  const { place } = readElectrode(view)
  if (place.at === 'point') await announce(tx, { loopId: place.loopId, what: 'work', id: view.id, by: person.name })
}

/** What is put on record of what was asked for. @throws Refusal, HttpProblem */
async function bodyOf(tx: Queries, { entry }: Adding, view: ElectrodeView | undefined): Promise<ElectrodeBody> {
  if (entry.what === 'entered') {
    if (view) throw new Refusal('electrode-known', 'This electrode was entered before.')
    const [other] = await tx
      .select({ id: electrodeLog.id })
      .from(electrodeLog)
      .where(eq(sql`lower(${electrodeLog.body}->>'serial')`, entry.serial.toLowerCase()))
    if (other) throw new Refusal('electrode-known', `An electrode ${entry.serial} is on record already.`)
    return entry
  }
  if (!view) throw new Refusal('electrode-unknown', 'This electrode was never entered.')
  const e = readElectrode(view)
  if (entry.what === 'calibrated') {
    if (e.place.at === 'point')
      throw new Refusal(
        'electrode-elsewhere',
        `It is plugged in at ${e.place.tag}: calibrate it there, or take it out first.`,
      )
    await refuseFalsePoints(tx, e, entry.points)
    refuseOtherReadBack(e, entry)
  }
  return entry.what === 'plugged-in' ? { ...entry, tag: await tagFor(tx, entry.loopId, e) } : entry
}

/** The tag of the point that an electrode is to be plugged in at. @throws Refusal, HttpProblem 404 */
async function tagFor(tx: Queries, loopId: string, e: Electrode): Promise<string> {
  const [loop] = await tx.select({ tag: loops.tag, kind: loops.kind }).from(loops).where(eq(loops.id, loopId))
  if (!loop) throw notFound('This loop')
  if (loop.kind !== e.sort)
    throw new Refusal('electrode-does-not-fit', `Electrode ${e.serial} does not measure what ${loop.tag} does.`)
  refuseOnBench({ bench: await benchOf(tx, loopId) })
  const there = await electrodeAt(tx, loopId)
  if (there && readElectrode(there).serial !== e.serial)
    throw new Refusal('place-taken', `Electrode ${readElectrode(there).serial} is plugged in at ${loop.tag}.`)
  refuseNotReady(e, new Date().toISOString().slice(0, 10))
  return loop.tag
}

/** The point takes over what the electrode that is plugged in there holds, as a version of its own. */
async function follow(
  tx: Queries,
  workers: Workers,
  { loopId, view, person }: { readonly loopId: string; readonly view: ElectrodeView; readonly person: Person },
): Promise<void> {
  const e = readElectrode(view)
  const [loop] = await tx.select().from(loops).where(eq(loops.id, loopId))
  const [head] = loop?.headVersionId ? await tx.select().from(versions).where(eq(versions.id, loop.headVersionId)) : []
  if (!loop || !head || !e.last) return
  const kind = kindOf(loop.kind)
  const typed: Record<string, string> = { electrodeSerial: e.serial, ...entriesOfCalibration(e.last) }
  const standing = entriesNow(kind, { entries: head.entries, kindVersion: head.kindVersion ?? undefined })
  const anew = Object.entries(typed).flatMap(([key, text]) => {
    const field = kind.fields.find((f) => f.key === key)
    if (!field || standing[key]?.typed === text) return []
    return [[key, field.type === 'quantity' ? entryFrom(text, field) : { typed: text }] as const]
  })
  if (!anew.length) return
  await saveInTurn(tx, {
    workers,
    loopId,
    versionId: uuid(),
    person,
    save: {
      parentId: head.id,
      parentRevision: head.revision,
      revision: 0,
      entries: { ...head.entries, ...Object.fromEntries(anew) },
      ...(head.kindVersion === null ? {} : { kindVersion: head.kindVersion }),
      reason: `What electrode ${e.serial} holds`,
      seal: false,
    },
  })
}

/** Points of a calibration that a run of guided work has read. */
function pointsOf({ procedure, terms, values }: RunState, offsetBefore_mV: number): MemoryPoint[] {
  if (procedure === 'ph-calibration')
    return phPoints({ terms, values }).map(({ buffer, temp_C, ph, mV }) => ({ buffer, temp_C, is: ph, mV }))
  const [is, found] = [values['apply-solution'], values['found']].map((v) =>
    v === undefined ? undefined : convertUnit(v, terms.unit, 'mV'),
  )
  // The device has taken off the offset that it held; nobody read the electrode itself, nor a temperature.
  return is === undefined || found === undefined
    ? []
    : [{ buffer: 'redox solution', is, mV: found + offsetBefore_mV, reckoned: true }]
}

/**
 * A calibration that was led to its end at a point is one of the electrode that is plugged in there, and the point
 * follows. Within a turn of the loop; never of what was practised.
 */
export async function calibratedAt(
  tx: Queries,
  workers: Workers,
  at: { readonly loopId: string; readonly run: string; readonly state: RunState; readonly person: Person },
): Promise<void> {
  const { loopId, run, state, person } = at
  if (state.status !== 'done' || !['ph-calibration', 'redox-offset'].includes(state.procedure)) return
  await inElectrodeTurn(tx)
  const view = await electrodeAt(tx, loopId)
  if (!view) return
  const points = pointsOf(state, readElectrode(view).last?.offset_mV ?? 0)
  if (!points.length) return
  const body: ElectrodeBody = { what: 'calibrated', points, run }
  await keepElectrode(tx, { electrodeId: view.id, id: uuid(), body, byId: person.id, seq: view.log.length + 1 })
  const after = await viewOf(tx, view.id)
  if (after) await follow(tx, workers, { loopId, view: after, person })
}
