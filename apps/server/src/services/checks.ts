// Checks: started behind a gate, filled with readings that are never changed, closed by signatures.
import {
  canonicalJson,
  standingByPoint,
  type Check,
  type ConfirmGate,
  type Gate,
  type Person,
  type Reading,
  type Sign,
  type Signature,
  type StartCheck,
  type TakeReading,
  type Version,
} from '@calm-loop/contract'
import { backAndForth, pointWords, targetWords, upAndDown } from '@calm-loop/core/check'
import { WITNESSES } from '@calm-loop/core/discrete'
import { entryIsTrue, kindOf, readEntries, type Family, type PointKind } from '@calm-loop/core/kinds'
import { convertUnit } from '@calm-loop/core/quantity'
import { Refusal } from '@calm-loop/core/refusal'
import { knotScales } from '@calm-loop/core/thread'
import { and, eq, inArray, isNull } from 'drizzle-orm'
import type { z } from 'zod'
import type { Database, Queries } from '../db/database.ts'
import { checks, gates, gear, readings, signatures, versions } from '../db/schema.ts'
import { HttpProblem, notFound } from '../http/problems.ts'
import { record } from './audit.ts'
import { announce } from './events.ts'
import { gateOf, namesOf, readFolder, readingOf, signatureOf, signedDigest } from './folder.ts'
import { confirmPassword } from './people.ts'
import { refreshSummary } from './summary.ts'
import { inOneTurn } from './turns.ts'

const BEGUN: Record<Family, string> = {
  current: 'Operations told. Loop in manual; trips fed by it by-passed with permission, or it feeds none.',
  switch:
    'Operations told. Machine isolated, or moved by hand only; what this point trips by-passed with permission, or it trips nothing.',
}

/** A repeated write: the same content under the same id is fine, other content is not. */
function sayAgain<T>(known: T, same: boolean): T {
  if (same) return known
  throw new HttpProblem(409, 'id-reused', 'Something else is already on record under this id.')
}

async function checkIn(
  tx: Queries,
  loopId: string,
  checkId: string,
): Promise<{ check: Check; folder: Awaited<ReturnType<typeof readFolder>>; version: Version }> {
  const folder = await readFolder(tx, loopId)
  const check = folder.checks.find((c) => c.id === checkId)
  if (!check) throw notFound('This check')
  return { check, folder, version: folder.versions.find((v) => v.id === check.versionId)! }
}

const isSigned = (check: Check) => check.signatures.length > 0
const refuseSigned = () =>
  new HttpProblem(409, 'signed', 'This check is signed and can no longer be changed. Start another one.')

/** What a check is judged within; refuses a loop that is not ready. */
function planOf(kind: PointKind, entries: Version['entries']): Pick<Check, 'range' | 'tolerancePct'> {
  const study = kind.study(entries)
  const stop = study.findings.find((f) => f.grade === 'stop')
  if (stop) throw new Refusal(stop.code, `${stop.what} ${stop.action}`)
  // A discrete point is named and counted after its check.
  const missing = Object.entries(study.missing).flatMap(([stage, labels]) => (stage === 'count' ? [] : labels))
  if (missing.length) throw new Refusal('loop-incomplete', `Still to be entered before a check: ${missing.join(', ')}.`)
  if ('run' in study) {
    const { plan } = study.run
    if (!plan) throw new Refusal('loop-incomplete', 'What is to be expected cannot be computed from these entries.')
    return {
      range: plan.distance ? { lrv: 0, urv: plan.distance.expected_mm, unit: 'mm' } : { lrv: 0, urv: 1, unit: 'state' },
      tolerancePct: plan.distance?.tolerancePct ?? 10,
    }
  }
  const { low, high } = knotScales(study.thread)[0]!
  if (low === undefined || high === undefined || low === high)
    throw new Refusal('zero-span', 'The range has no span at the process.')
  const tolerancePct = readEntries(kind.fields, entries).in('tolerance', '%')
  if (!tolerancePct) throw new Refusal('loop-incomplete', 'The tolerance is still to be entered.')
  return { range: { lrv: low, urv: high, unit: study.thread.knots[0]!.unit }, tolerancePct }
}

/** The points of the plan: up and down the range, or the target back and forth. */
function pointsOf(kind: PointKind, percents: readonly number[]): Check['points'] {
  if (kind.family === 'current') return upAndDown(percents)
  const points = backAndForth(percents.length / 2)
  if (points.length !== percents.length || points.some((p, i) => p.percent !== percents[i]))
    throw new Refusal(
      'plan-not-alternating',
      'A discrete check brings the target up (100) and takes it away (0), by turns.',
    )
  return points
}

export function startCheck(
  db: Database,
  loopId: string,
  checkId: string,
  start: z.output<typeof StartCheck>,
  person: Person,
): Promise<Check> {
  return inOneTurn(db, `loop ${loopId}`, async (tx) => {
    const folder = await readFolder(tx, loopId)
    const known = folder.checks.find((c) => c.id === checkId)
    const kind = kindOf(folder.loop.kind)
    const points = pointsOf(kind, start.percents)
    if (known)
      return sayAgain(known, known.phase === start.phase && canonicalJson(known.points) === canonicalJson(points))
    const head = folder.versions.at(-1)
    if (!head) throw new Refusal('loop-incomplete', 'Nothing has been entered for this loop yet.')
    const plan = planOf(kind, head.entries)
    const used = start.gearIds.length ? await tx.select().from(gear).where(inArray(gear.id, start.gearIds)) : []
    if (used.length !== new Set(start.gearIds).size)
      throw new Refusal('unknown-gear', 'Some of the test equipment named is not in the kit.')
    const now = new Date()
    await tx
      .update(versions)
      .set({ sealedAt: now, reason: head.reason || 'Closed when a check was begun' })
      .where(and(eq(versions.id, head.id), isNull(versions.sealedAt)))
    await tx.insert(checks).values({
      id: checkId,
      loopId,
      versionId: head.id,
      phase: start.phase,
      ...plan,
      points,
      gear: used.map(({ id, name, serial, uncertainty, due }) => ({ id, name, serial, uncertainty, due })),
      ambient: start.ambient,
      startedById: person.id,
      startedAt: now,
    })
    await tx.insert(gates).values({
      id: start.gateId,
      checkId,
      gate: 'loop-in-manual',
      words: BEGUN[kind.family],
      told: start.told,
      byId: person.id,
      at: now,
    })
    await record(tx, person.id, 'check-started', loopId, { checkId, phase: start.phase })
    await refreshSummary(tx, loopId)
    await announce(tx, { loopId, what: 'check', id: checkId, by: person.name })
    return (await checkIn(tx, loopId, checkId)).check
  })
}

/** What a reading must hold, by the family of its point. */
function refuseWrongReads(kind: PointKind, check: Check, take: TakeReading, carriesCurrent: boolean): void {
  if (kind.family === 'current') {
    convertUnit(take.applied.value, take.applied.unit, check.range.unit)
    const { current, controller } = take.reads
    if (current) convertUnit(current.value, current.unit, 'mA')
    else if (!carriesCurrent) {
      if (!controller) throw new Refusal('controller-missing', 'A reading on a bus needs what the controller shows.')
      convertUnit(controller.value, controller.unit, check.range.unit)
    } else throw new Refusal('current-missing', 'A reading needs the loop current.')
    return
  }
  if (!take.reads['controller']) throw new Refusal('witness-missing', 'A reading needs the controller’s state.')
  if (take.applied.unit !== 'state') convertUnit(take.applied.value, take.applied.unit, 'mm')
  for (const { id, name } of WITNESSES) {
    const read = take.reads[id]
    if (read && (read.unit !== 'state' || (read.value !== 0 && read.value !== 1)))
      throw new Refusal('not-a-state', `${name} shows 1 or 0, nothing between.`)
  }
  if (take.reads['signal']) convertUnit(take.reads['signal'].value, take.reads['signal'].unit, 'V')
}

export function takeReading(
  db: Database,
  loopId: string,
  checkId: string,
  id: string,
  take: TakeReading,
  person: Person,
): Promise<Reading> {
  return inOneTurn(db, `loop ${loopId}`, async (tx) => {
    const { check, folder } = await checkIn(tx, loopId, checkId)
    const names = await namesOf(tx)
    const [known] = await tx.select().from(readings).where(eq(readings.id, id))
    if (known) {
      const { pointIndex, applied, reads, source, supersedes, reason, takenAt } = readingOf(known, names)
      const same =
        known.checkId === checkId &&
        canonicalJson({ pointIndex, applied, reads, source, supersedes, reason, takenAt }) === canonicalJson(take)
      return sayAgain(readingOf(known, names), same)
    }
    if (isSigned(check)) throw refuseSigned()
    const point = check.points[take.pointIndex]
    if (!point) throw new Refusal('no-such-point', `This check has ${check.points.length} points.`)
    if (take.supersedes && !check.readings.some((r) => r.id === take.supersedes && r.pointIndex === take.pointIndex))
      throw new Refusal('no-such-reading', 'The reading to be corrected is not one of this point.')
    if (![take.applied, ...Object.values(take.reads)].every(entryIsTrue))
      throw new Refusal('entry-mismatch', 'What was typed and what was understood do not agree.')
    const kind = kindOf(folder.loop.kind)
    const version = folder.versions.find((v) => v.id === check.versionId)!
    const carriesCurrent = kind.family !== 'current' || kind.study(version.entries).thread.knots.some((k) => k.role === 'current') // prettier-ignore
    refuseWrongReads(kind, check, take, carriesCurrent)
    const seq = (check.readings.at(-1)?.seq ?? 0) + 1
    const { percent, direction } = point
    const [row] = await tx
      .insert(readings)
      .values({
        ...take,
        id,
        checkId,
        seq,
        percent,
        direction,
        byId: person.id,
        takenAt: new Date(take.takenAt),
        savedAt: new Date(),
      })
      .returning()
    await announce(tx, { loopId, what: 'reading', id, by: person.name })
    return readingOf(row!, names)
  })
}

export function confirmGate(
  db: Database,
  loopId: string,
  checkId: string,
  id: string,
  gate: z.output<typeof ConfirmGate>,
  person: Person,
): Promise<Gate> {
  return inOneTurn(db, `loop ${loopId}`, async (tx) => {
    const { check } = await checkIn(tx, loopId, checkId)
    const known = check.gates.find((g) => g.gate === gate.gate)
    if (known) return sayAgain(known, known.id === id)
    if (isSigned(check)) throw refuseSigned()
    const [row] = await tx
      .insert(gates)
      .values({ ...gate, id, checkId, byId: person.id, at: new Date() })
      .returning()
    await announce(tx, { loopId, what: 'gate', id, by: person.name })
    return gateOf(row!, await namesOf(tx))
  })
}

/** What must be done before the one who performed the check may sign it. */
function refuseUnfinished(check: Check, kind: PointKind): void {
  const words = kind.family === 'switch' ? targetWords : pointWords
  const read = standingByPoint(check)
  const left = check.points.filter((p) => !read.has(p.index))
  if (left.length) throw new HttpProblem(409, 'points-missing', `Not yet read: ${left.map(words).join(', ')}.`)
  if (!check.gates.some((g) => g.gate === 'loop-released'))
    throw new HttpProblem(409, 'loop-not-released', 'Confirm first that operations have the loop back.')
}

/** A reviewer must have had no hand in the work. */
function refuseOwnWork(check: Check, personId: string): void {
  const hands = [
    check.startedBy,
    ...check.readings.map((r) => r.by),
    ...check.gates.map((g) => g.by),
    ...check.signatures.map((s) => s.by),
  ]
  if (hands.some((by) => by.id === personId))
    throw new HttpProblem(403, 'own-work', 'You had a hand in this check, so another reviewer must countersign it.')
}

export function sign(
  db: Database,
  loopId: string,
  checkId: string,
  id: string,
  wish: Sign,
  person: Person,
): Promise<Signature> {
  return inOneTurn(db, `loop ${loopId}`, async (tx) => {
    const { check, folder, version } = await checkIn(tx, loopId, checkId)
    const known = check.signatures.find((s) => s.role === wish.role)
    if (known) return sayAgain(known, known.id === id && known.by.id === person.id)
    const needed = wish.role === 'performed' ? 'technician' : 'reviewer'
    if (!person.roles.includes(needed)) throw new HttpProblem(403, 'wrong-role', `Only a ${needed} may sign here.`)
    if (wish.role === 'performed') refuseUnfinished(check, kindOf(folder.loop.kind))
    else {
      if (!isSigned(check)) throw new HttpProblem(409, 'not-yet-signed', 'The technician has not signed yet.')
      refuseOwnWork(check, person.id)
    }
    await confirmPassword(tx, person.id, wish.password)
    const digest = signedDigest(folder.loop, version, check)
    const [row] = await tx
      .insert(signatures)
      .values({
        id,
        checkId,
        role: wish.role,
        byId: person.id,
        name: person.name,
        at: new Date(),
        statement: wish.statement,
        digest,
      })
      .returning()
    await record(tx, person.id, `check-${wish.role}`, loopId, { checkId, digest })
    await refreshSummary(tx, loopId)
    await announce(tx, { loopId, what: 'signature', id, by: person.name })
    return signatureOf(row!)
  })
}
