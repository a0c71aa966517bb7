// Checks: started behind a gate, filled with readings that are never changed, closed by signatures.
import type { Study } from '@calm-loop/core/loop'
import {
  canonicalJson,
  type FolderView,
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
import { standingByPoint, standOfCheck } from '@calm-loop/contract/judging'
import { CHECK_RULE, backAndForth, isGateWording, pointWords, targetWords, upAndDown } from '@calm-loop/core/check'
import { kindOf, type PointKind } from '@calm-loop/core/kinds'
import { entryIsTrue } from '@calm-loop/core/quantity'
import { Refusal } from '@calm-loop/core/refusal'
import { and, eq, inArray, isNull } from 'drizzle-orm'
import type { z } from 'zod'
import { guarded, guessesAtSigning } from '../auth/guessing.ts'
import type { Database, Queries } from '../db/database.ts'
import { checks, gates, gear, readings, signatures, versions } from '../db/schema.ts'
import { HttpProblem, notFound } from '../http/problems.ts'
import type { SampleTokens } from '../link/samples.ts'
import type { Sealer } from '../seals/sealer.ts'
import { CONTENT_NOW, digestOf, makeSeal } from '../seals/seals.ts'
import type { Workers } from '../workers/pool.ts'
import { record } from './audit.ts'
import { carriesCurrent, refuseWrongReads } from './check-reads.ts'
import { announce } from './events.ts'
import { gateOf, namesOf, readFolder, readingOf, signatureOf } from './folder.ts'
import { confirmPassword } from './people.ts'
import { refreshSummary } from './summary.ts'
import { studyOf } from './studies.ts'
import { inOneTurn } from './turns.ts'

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
function refuseImported(check: Check): void {
  if (check.imported)
    throw new HttpProblem(409, 'imported', 'This check was made elsewhere and is kept as it came. Begin another one.')
}
const unknownWords = () =>
  new Refusal(
    'unknown-words',
    'These are not the words of this gate. Load the page again and confirm what stands there.',
  )

/** A clock that is a little off is no lie; one that is further off would make the record false. */
const AHEAD_ms = 2 * 60_000
/** A reading kept out of coverage is sent within so many days. */
const LATEST_ms = 14 * 86_400_000
/** A live figure is put on record within this time of its sample. */
const FRESH_ms = 60_000

/** The time a reading is said to have been taken, against the server's own clock. @throws Refusal */
function refuseOtherTime(check: Check, takenAt: string): void {
  const [taken, now] = [Date.parse(takenAt), Date.now()]
  if (taken > now + AHEAD_ms)
    throw new Refusal(
      'clock-ahead',
      `This device’s clock is ahead: the reading says ${takenAt}, the server’s clock ` +
        `${new Date(now).toISOString()}. Set it right and take the reading again.`,
    )
  if (taken < Date.parse(check.startedAt) - AHEAD_ms)
    throw new Refusal(
      'before-check',
      'The reading says that it was taken before the check was begun. Set the clock of this device right and ' +
        'take it again.',
    )
  if (taken < now - LATEST_ms) throw new Refusal('too-old', 'A reading is put on record within 14 days. Take it again.')
}

/** A reading is live only when the server itself gave the figures. Returns when it gave them. @throws Refusal */
function sampleOf(take: TakeReading, loopId: string, judged: string, samples: SampleTokens): Date | null {
  if (take.source === 'typed') return null
  const sample = take.sample === undefined ? undefined : samples.read(take.sample)
  if (!sample || sample.loopId !== loopId)
    throw new Refusal(
      'not-live',
      'A live reading needs a sample that this server’s link gave. Type the figure, or take it live again.',
    )
  if (Math.abs(Date.parse(take.takenAt) - sample.at_ms) > FRESH_ms)
    throw new Refusal(
      'not-live',
      'The live sample is not of the moment at which the reading was taken. Take it live again.',
    )
  const read = take.reads[judged]
  const given = sample.knots[judged]
  const decimals = /[.,](\d+)/.exec(read?.typed ?? '')?.[1]?.length ?? 0
  if (!read || !given || given.unit !== read.unit || Math.abs(given.value - read.value) > 0.51 * 10 ** -decimals)
    throw new Refusal(
      'not-live',
      'The figure is not the one that the live sample gave. Type it, or take it live again.',
    )
  return new Date(sample.at_ms)
}

/** A point that was read stands until somebody says which reading is wrong, and why. */
async function refuseSilentSecond(
  db: Database,
  loopId: string,
  check: Check,
  take: TakeReading,
  id: string,
  person: Person,
): Promise<void> {
  const standing = standingByPoint(check).get(take.pointIndex)
  if (!standing || take.supersedes === standing.id) return
  const where = pointWords(check.points[take.pointIndex]!)
  const says =
    `${where}: ${person.name} sent another reading of a point that ${standing.by.name} had read. The first one ` +
    'stands until somebody corrects it with a reason.'
  // Outside of the transaction, which is given up: the other person is to know all the same.
  await announce(db, { loopId, what: 'clash', id, by: person.name, says })
  throw new HttpProblem(
    409,
    'already-read',
    `${where} was read before, by ${standing.by.name} at ${standing.takenAt.slice(11, 16)} UTC. That reading ` +
      'stands; say what is wrong with it to correct it.',
    { current: standing },
  )
}
const refuseSigned = () =>
  new HttpProblem(409, 'signed', 'This check is signed and can no longer be changed. Start another one.')

/** What a check is judged within; refuses a loop that is not ready. */
function planOf(known: Study): Pick<Check, 'range' | 'tolerancePct'> {
  const stop = known.findings.find((f) => f.grade === 'stop')
  if (stop) throw new Refusal(stop.code, `${stop.what} ${stop.action}`)
  // A discrete point is named and counted after its check.
  const missing = Object.entries(known.missing).flatMap(([stage, labels]) => (stage === 'count' ? [] : labels))
  if (missing.length) throw new Refusal('loop-incomplete', `Still to be entered before a check: ${missing.join(', ')}.`)
  if (known.family === 'switch') {
    const { plan } = known.run
    if (!plan) throw new Refusal('loop-incomplete', 'What is to be expected cannot be computed from these entries.')
    return {
      range: plan.distance ? { lrv: 0, urv: plan.distance.expected_mm, unit: 'mm' } : { lrv: 0, urv: 1, unit: 'state' },
      tolerancePct: plan.distance?.tolerancePct ?? 10,
    }
  }
  const { low, high } = known.scales[0]!
  if (low === undefined || high === undefined || low === high)
    throw new Refusal('zero-span', 'The range has no span at the process.')
  const tolerancePct = known.reader.in('tolerance', '%')
  if (!tolerancePct) throw new Refusal('loop-incomplete', 'The tolerance is still to be entered.')
  return { range: { lrv: low, urv: high, unit: known.thread.knots[0]!.unit }, tolerancePct }
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

/** The equipment as it is used; what is past its due date only with a reason. */
async function gearFor(tx: Queries, start: z.output<typeof StartCheck>, today: string): Promise<Check['gear']> {
  const used = start.gearIds.length ? await tx.select().from(gear).where(inArray(gear.id, start.gearIds)) : []
  if (used.length !== new Set(start.gearIds).size)
    throw new Refusal('unknown-gear', 'Some of the test equipment named is not in the kit.')
  const expiredReason = start.expiredReason.trim()
  const expired = used.filter((g) => g.due < today)
  if (expired.length && !expiredReason)
    throw new Refusal(
      'gear-expired',
      `Past its due date: ${expired.map((g) => `${g.name} ${g.serial} (${g.due})`).join(', ')}. Choose other ` +
        'equipment, or say why it is used; the certificate carries both.',
    )
  return used.map(({ id, name, serial, uncertainty, due }) => ({
    id,
    name,
    serial,
    uncertainty,
    due,
    ...(due < today ? { expiredReason } : {}),
  }))
}

export function startCheck(
  db: Database,
  workers: Workers,
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
    const plan = planOf(studyOf(kind.id, head))
    const now = new Date()
    const used = await gearFor(tx, start, now.toISOString().slice(0, 10))
    if (!isGateWording('loop-in-manual', kind.family, start.words)) throw unknownWords()
    await tx
      .update(versions)
      .set({ sealedAt: now, reason: head.reason || 'Closed when a check was begun' })
      .where(and(eq(versions.id, head.id), isNull(versions.sealedAt)))
    await tx.insert(checks).values({
      id: checkId,
      loopId,
      versionId: head.id,
      phase: start.phase,
      ...(kind.family === 'current' ? { rule: CHECK_RULE } : {}),
      ...plan,
      points,
      gear: used,
      ambient: start.ambient,
      startedById: person.id,
      startedAt: now,
    })
    await tx.insert(gates).values({
      id: start.gateId,
      checkId,
      gate: 'loop-in-manual',
      words: start.words,
      told: start.told,
      byId: person.id,
      at: now,
    })
    await record(tx, person.id, 'check-started', loopId, { checkId, phase: start.phase })
    await refreshSummary(tx, workers, loopId)
    await announce(tx, { loopId, what: 'check', id: checkId, by: person.name })
    return (await checkIn(tx, loopId, checkId)).check
  })
}

export function takeReading(
  db: Database,
  samples: SampleTokens,
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
        canonicalJson({ pointIndex, applied, reads, source, supersedes, reason, takenAt }) ===
          canonicalJson({ ...take, sample: undefined })
      return sayAgain(readingOf(known, names), same)
    }
    refuseImported(check)
    if (isSigned(check)) throw refuseSigned()
    const point = check.points[take.pointIndex]
    if (!point) throw new Refusal('no-such-point', `This check has ${check.points.length} points.`)
    if (take.supersedes && !check.readings.some((r) => r.id === take.supersedes && r.pointIndex === take.pointIndex))
      throw new Refusal('no-such-reading', 'The reading to be corrected is not one of this point.')
    if (![take.applied, ...Object.values(take.reads)].every((e) => entryIsTrue(e)))
      throw new Refusal('entry-mismatch', 'What was typed and what was understood do not agree.')
    const kind = kindOf(folder.loop.kind)
    const version = folder.versions.find((v) => v.id === check.versionId)!
    const hasCurrent = carriesCurrent(studyOf(kind.id, version))
    refuseWrongReads(kind, check, take, hasCurrent)
    refuseOtherTime(check, take.takenAt)
    const judged = kind.family === 'current' && hasCurrent ? 'current' : 'controller'
    const sampledAt = sampleOf(take, loopId, judged, samples)
    await refuseSilentSecond(db, loopId, check, take, id, person)
    const { sample: _, ...content } = take
    const seq = (check.readings.at(-1)?.seq ?? 0) + 1
    const { percent, direction } = point
    const [row] = await tx
      .insert(readings)
      .values({
        ...content,
        sampledAt,
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
    const { check, folder } = await checkIn(tx, loopId, checkId)
    const known = check.gates.find((g) => g.gate === gate.gate)
    if (known) return sayAgain(known, known.id === id)
    refuseImported(check)
    if (isSigned(check)) throw refuseSigned()
    if (!isGateWording(gate.gate, kindOf(folder.loop.kind).family, gate.words)) throw unknownWords()
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

/** Everyone whose work a check is: who began it, read, confirmed, or signed as its performer. */
const handsIn = (check: Check): string[] =>
  [check.startedBy, ...check.readings.map((r) => r.by), ...check.gates.map((g) => g.by)].map((by) => by.id)

/**
 * Who entered the range that a check judges by: the author of the version in which an entry of that stage last
 * changed.
 */
function enteredRange(folder: FolderView, version: Version): string[] {
  const keys = kindOf(folder.loop.kind)
    .fields.filter((f) => f.stage === 'range')
    .map((f) => f.key)
  const before = folder.versions.filter((v) => v.number <= version.number)
  const author = (key: string) =>
    before.findLast((v, i) => v.entries[key]?.typed !== before[i - 1]?.entries[key]?.typed)?.author.id
  return keys.flatMap((key) => author(key) ?? [])
}

/** Who may sign in which role. @throws HttpProblem */
function refuseSigner(wish: Sign, folder: FolderView, version: Version, check: Check, person: Person): void {
  const needed = wish.role === 'performed' ? 'technician' : 'reviewer'
  if (!person.roles.includes(needed)) throw new HttpProblem(403, 'wrong-role', `Only a ${needed} may sign here.`)
  if (standOfCheck(check) === 'broken')
    throw new HttpProblem(
      409,
      'seal-broken',
      'A seal of this check is broken: what was signed is not what stands here. Nobody signs it any more.',
    )
  if (wish.role === 'accepted') {
    if (!check.imported)
      throw new HttpProblem(409, 'not-imported', 'This check was made here; nobody needs to accept it.')
    if (!isSigned(check))
      throw new HttpProblem(409, 'not-yet-signed', 'Nobody has signed this check; it cannot be accepted.')
    if ([...handsIn(check), ...check.signatures.map((s) => s.by.id)].includes(person.id))
      throw new HttpProblem(403, 'own-work', 'You had a hand in this check, so another reviewer must accept it.')
    return
  }
  if (wish.role === 'performed') {
    refuseUnfinished(check, kindOf(folder.loop.kind))
    if (!handsIn(check).includes(person.id))
      throw new HttpProblem(
        403,
        'no-hand',
        'Who signs has taken part in the work: began it, read a point, or confirmed a gate.',
      )
    return
  }
  if (!isSigned(check)) throw new HttpProblem(409, 'not-yet-signed', 'The technician has not signed yet.')
  if ([...handsIn(check), ...check.signatures.map((s) => s.by.id)].includes(person.id))
    throw new HttpProblem(403, 'own-work', 'You had a hand in this check, so another reviewer must countersign it.')
  if (enteredRange(folder, version).includes(person.id))
    throw new HttpProblem(
      403,
      'own-range',
      'You entered the range that this check is judged by, so another reviewer must countersign it.',
    )
}

/** Signs, with the password just given; what was shown is sealed. The same again changes nothing. */
export async function sign(
  db: Database,
  workers: Workers,
  sealer: Sealer,
  loopId: string,
  checkId: string,
  id: string,
  wish: Sign,
  person: Person,
): Promise<Signature> {
  // Outside of the turn: whoever guesses waits, nobody else.
  await guarded(db, guessesAtSigning(person.id), () => confirmPassword(db, person.id, wish.password))
  return inOneTurn(db, `loop ${loopId}`, async (tx) => {
    const { check, folder, version } = await checkIn(tx, loopId, checkId)
    if (wish.role !== 'accepted') refuseImported(check)
    const here = check.signatures.filter(
      (s) => s.role === wish.role && (wish.role !== 'accepted' || s.standing === 'sealed'),
    )
    if (here[0]) return sayAgain(here[0], here[0].id === id && here[0].by.id === person.id)
    refuseSigner(wish, folder, version, check, person)
    const digest = digestOf(CONTENT_NOW, folder.loop, version, check)!
    const { role, statement } = wish
    const [row] = await tx
      .insert(signatures)
      .values({ id, checkId, role, byId: person.id, name: person.name, at: new Date(), statement, digest })
      .returning()
    const signature = signatureOf(row!)
    const seal = await makeSeal(tx, sealer, { loop: folder.loop, version, check, signature })
    await record(tx, person.id, `check-${wish.role}`, loopId, { checkId, digest, seal: seal.seq })
    await refreshSummary(tx, workers, loopId)
    await announce(tx, { loopId, what: 'signature', id, by: person.name })
    return (await checkIn(tx, loopId, checkId)).check.signatures.find((s) => s.id === id)!
  })
}
