// Checks: started behind a gate, filled with readings that are never changed, closed by signatures.
import {
  canonicalJson,
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
import { planOfCheck, pointsOf } from '@calm-loop/contract/judging'
import { INDICATOR, isGateWording } from '@calm-loop/core/check'
import { kindOf } from '@calm-loop/core/kinds'
import type { Study } from '@calm-loop/core/loop'
import { entryIsTrue } from '@calm-loop/core/quantity'
import { Refusal } from '@calm-loop/core/refusal'
import type { z } from 'zod'
import { guarded, guessesAtSigning } from '../auth/guessing.ts'
import type { Database, Queries } from '../db/database.ts'
import { checks, gates, signatures } from '../db/schema.ts'
import { idReused, notFound } from '../http/problems.ts'
import type { SampleTokens } from '../link/samples.ts'
import type { Sealer } from '../seals/sealer.ts'
import { contentNow, digestOf, makeSeal, subjectOfCheck } from '../seals/seals.ts'
import type { Workers } from '../workers/pool.ts'
import { record } from './audit.ts'
import { checkForReading, putReading, readingsAtPoint } from './at-check.ts'
import { carriesCurrent, refuseWrongReads } from './check-reads.ts'
import { announce } from './events.ts'
import { gearNamed } from './gear.ts'
import { readJudging } from './judging.ts'
import { gateOf, namesOf, readFolder, readingOf, signatureOf } from './folder.ts'
import { confirmPassword } from './people.ts'
import { refreshSummary } from './summary.ts'
import { closeVersion } from './loops.ts'
import { studyOf } from './studies.ts'
import { inOneTurn } from './turns.ts'
import { doneBefore, refuseOtherEntries, takenTruly } from './waited.ts'
import { refuseOnBench } from './worlds.ts'
import {
  isSigned,
  originsOf,
  refuseImported,
  refuseDoubtful,
  refuseOtherTime,
  refuseOtherWorld,
  refuseSigned,
  refuseSigner,
  refuseSilentSecond,
  sampleOf,
} from './check-rules.ts'
import { sure } from '@calm-loop/core/sure'

/** A repeated write: the same content under the same id is fine, other content is not. */
function sayAgain<T>(known: T, same: boolean): T {
  if (same) return known
  throw idReused()
}

async function checkIn(
  tx: Queries,
  loopId: string,
  checkId: string,
): Promise<{ check: Check; folder: Awaited<ReturnType<typeof readFolder>>; version: Version }> {
  const folder = await readFolder(tx, loopId)
  const check = folder.checks.find((c) => c.id === checkId)
  if (!check) throw notFound('This check')
  return { check, folder, version: sure(folder.versions.find((v) => v.id === check.versionId)) }
}
/** The figure by which a live reading is known again: the first that its check reads, else current or controller. */
function witnessOf(known: Study, check: Pick<Check, 'terms'>, take: TakeReading): string {
  if (check.terms) return Object.keys(take.reads).find((at) => at !== INDICATOR) ?? 'controller'
  return known.family === 'current' && carriesCurrent(known) ? 'current' : 'controller'
}
/** The thread of a loop with a current or a bus. */
const threadOf = (known: Study) => (known.family === 'current' ? known.thread : undefined)
const unknownWords = () =>
  new Refusal(
    'unknown-words',
    'These are not the words of this gate. Load the page again and confirm what stands there.',
  )

export function startCheck({
  db,
  workers,
  loopId,
  checkId,
  start,
  person,
  waited_ms = 0,
}: {
  readonly db: Database
  readonly workers: Workers
  readonly loopId: string
  readonly checkId: string
  readonly start: z.output<typeof StartCheck>
  readonly person: Person
  readonly waited_ms?: number
}): Promise<Check> {
  return inOneTurn(db, `loop ${loopId}`, async (tx) => {
    const folder = await readFolder(tx, loopId)
    const known = folder.checks.find((c) => c.id === checkId)
    const kind = kindOf(folder.loop.kind)
    const points = canonicalJson(pointsOf(kind, start.percents))
    if (known) return sayAgain(known, known.phase === start.phase && canonicalJson(known.points) === points)
    const head = folder.versions.at(-1)
    if (!head) throw new Refusal('loop-incomplete', 'Nothing has been entered for this loop yet.')
    refuseOtherEntries(head, start.on, 'check')
    const waited = doneBefore(waited_ms)
    // Out of coverage nothing is simulated: it cannot become practice on the way.
    if (waited) refuseOnBench(folder)
    const begunAt = waited ?? new Date()
    const today = begunAt.toISOString().slice(0, 10)
    const at = { site: await readJudging(tx), kit: await gearNamed(tx, start.gearIds), today }
    const plan = planOfCheck({ kind, study: studyOf(kind.id, head) }, start, at)
    if (!isGateWording('loop-in-manual', kind.family, start.words)) throw unknownWords()
    await closeVersion(tx, head, 'Closed when a check was begun')
    await tx.insert(checks).values({
      id: checkId,
      loopId,
      versionId: head.id,
      ...plan,
      practice: !!folder.bench,
      startedById: person.id,
      startedAt: begunAt,
    })
    await tx.insert(gates).values({
      id: start.gateId,
      checkId,
      gate: 'loop-in-manual',
      words: start.words,
      told: start.told,
      byId: person.id,
      at: begunAt,
    })
    const details = { checkId, phase: start.phase, ...(waited ? { begunAt: waited.toISOString() } : {}) }
    await record({ tx, personId: person.id, action: 'check-started', loopId, details })
    await refreshSummary(tx, workers, loopId)
    await announce(tx, { loopId, what: 'check', id: checkId, by: person.name })
    return (await checkIn(tx, loopId, checkId)).check
  })
}

export function takeReading({
  db,
  samples,
  loopId,
  checkId,
  id,
  take: sent,
  person,
  waited_ms = 0,
}: {
  readonly db: Database
  readonly samples: SampleTokens
  readonly loopId: string
  readonly checkId: string
  readonly id: string
  readonly take: TakeReading
  readonly person: Person
  readonly waited_ms?: number
}): Promise<Reading> {
  const take = { ...sent, takenAt: takenTruly(sent.takenAt, waited_ms) }
  return inOneTurn(db, `loop ${loopId}`, async (tx, client) => {
    const place = { loopId, checkId, pointIndex: take.pointIndex, id }
    const at = await checkForReading(client, place)
    const { here, same } = at.known ? await readingsAtPoint(tx, place) : { here: [], same: undefined }
    if (same) {
      const { checkId: itsCheck, ...known } = same
      const { pointIndex, applied, reads, source, supersedes, reason, takenAt } = known
      const said = canonicalJson({ pointIndex, applied, reads, source, supersedes, reason, takenAt })
      // By how long it waits its time may be told a little otherwise than the first time.
      const again = { ...take, sample: undefined, ...(waited_ms ? { takenAt } : {}) }
      return sayAgain(known, itsCheck === checkId && said === canonicalJson(again))
    }
    const { check } = at
    refuseImported(at)
    if (at.signed) throw refuseSigned()
    const point = check.points[take.pointIndex]
    if (!point) throw new Refusal('no-such-point', `This check has ${check.points.length} points.`)
    if (take.supersedes && !here.some((r) => r.id === take.supersedes))
      throw new Refusal('no-such-reading', 'The reading to be corrected is not one of this point.')
    if (![take.applied, ...Object.values(take.reads)].every((e) => entryIsTrue(e)))
      throw new Refusal('entry-mismatch', 'What was typed and what was understood do not agree.')
    const study = studyOf(at.kind, at.version)
    refuseWrongReads(study, check, take)
    refuseOtherTime(check, take.takenAt)
    refuseOtherWorld(check, take, at.benchSince, samples)
    const judged = witnessOf(study, check, take)
    const sample = sampleOf(take, loopId, judged, samples)
    refuseDoubtful(check, take, threadOf(study))
    await refuseSilentSecond({ db, loopId, check: { ...check, readings: here }, take, id, person })
    const { sample: _, ...content } = take
    const { percent, direction } = point
    const row = {
      ...content,
      sampledAt: sample && new Date(sample.at_ms),
      origins: originsOf(take, sample),
      id,
      checkId,
      seq: at.seq + 1,
      percent,
      direction,
      byId: person.id,
      takenAt: new Date(take.takenAt),
      savedAt: new Date(),
    }
    const stored = await putReading(client, row, { loopId, what: 'reading', id, by: person.name })
    return readingOf(stored, new Map([[person.id, person.name]]))
  })
}

export function confirmGate({
  db,
  loopId,
  checkId,
  id,
  gate,
  person,
  waited_ms = 0,
}: {
  readonly db: Database
  readonly loopId: string
  readonly checkId: string
  readonly id: string
  readonly gate: z.output<typeof ConfirmGate>
  readonly person: Person
  readonly waited_ms?: number
}): Promise<Gate> {
  return inOneTurn(db, `loop ${loopId}`, async (tx) => {
    const { check, folder } = await checkIn(tx, loopId, checkId)
    const known = check.gates.find((g) => g.gate === gate.gate)
    if (known) return sayAgain(known, known.id === id)
    refuseImported(check)
    if (isSigned(check)) throw refuseSigned()
    if (!isGateWording(gate.gate, kindOf(folder.loop.kind).family, gate.words)) throw unknownWords()
    const [row] = await tx
      .insert(gates)
      .values({ ...gate, id, checkId, byId: person.id, at: doneBefore(waited_ms) ?? new Date() })
      .returning()
    await announce(tx, { loopId, what: 'gate', id, by: person.name })
    return gateOf(sure(row), await namesOf(tx))
  })
}

/** Signs, with the password just given; what was shown is sealed. The same again changes nothing. */
export async function sign({
  db,
  workers,
  sealer,
  loopId,
  checkId,
  id,
  wish,
  person,
  waited_ms = 0,
}: {
  readonly db: Database
  readonly workers: Workers
  readonly sealer: Sealer
  readonly loopId: string
  readonly checkId: string
  readonly id: string
  readonly wish: Sign
  readonly person: Person
  readonly waited_ms?: number
}): Promise<Signature> {
  // Outside of the turn: whoever guesses waits, nobody else.
  await guarded(db, guessesAtSigning(person.id), () => confirmPassword(db, person.id, wish.password))
  return inOneTurn(db, `loop ${loopId}`, async (tx) => {
    const { check, folder, version } = await checkIn(tx, loopId, checkId)
    if (wish.role !== 'accepted') refuseImported(check)
    const here = check.signatures.filter(
      (s) => s.role === wish.role && (wish.role !== 'accepted' || s.standing === 'sealed'),
    )
    if (here[0]) return sayAgain(here[0], here[0].id === id && here[0].by.id === person.id)
    refuseSigner({ wish, folder, version, check, person })
    const subject = subjectOfCheck(folder.loop, version, check)
    const digest = sure(digestOf(contentNow(subject), subject))
    const { role, statement } = wish
    // When it was given; its seal says when it was sealed.
    const at = doneBefore(waited_ms) ?? new Date()
    const [row] = await tx
      .insert(signatures)
      .values({ id, checkId, role, byId: person.id, name: person.name, at, statement, digest })
      .returning()
    const signature = signatureOf(sure(row))
    const seal = await makeSeal(tx, sealer, { subject, signature })
    await record({
      tx,
      personId: person.id,
      action: `check-${wish.role}`,
      loopId,
      details: { checkId, digest, seal: seal.seq },
    })
    await refreshSummary(tx, workers, loopId)
    await announce(tx, { loopId, what: 'signature', id, by: person.name })
    return sure((await checkIn(tx, loopId, checkId)).check.signatures.find((s) => s.id === id))
  })
}
