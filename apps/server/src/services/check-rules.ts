// What a check refuses: another's record, a time that cannot be, a reading in silence, a name that may not sign.
import {
  type Check,
  type FolderView,
  type Origins,
  type Person,
  type ReadEntry,
  type Sign,
  type TakeReading,
  type Version,
} from '@calm-loop/contract'
import { doubtsAbout, standingByPoint, standOfCheck } from '@calm-loop/contract/judging'
import { doubtWords, pointWords, targetWords } from '@calm-loop/core/check'
import { kindOf, type PointKind } from '@calm-loop/core/kinds'
import { Refusal } from '@calm-loop/core/refusal'
import type { Database } from '../db/database.ts'
import { HttpProblem } from '../http/problems.ts'
import type { GivenSample, SampleTokens } from '../link/samples.ts'
import { announce } from './events.ts'
import { sure } from '@calm-loop/core/sure'
import type { Thread } from '@calm-loop/core/thread'

export const isSigned = (check: Check) => check.signatures.length > 0
export function refuseImported(check: { readonly imported?: Check['imported'] | boolean }): void {
  if (check.imported)
    throw new HttpProblem(409, 'imported', 'This check was made elsewhere and is kept as it came. Begin another one.')
}

/** A clock that is a little off is no lie; one that is further off would make the record false. */
const AHEAD_ms = 2 * 60_000
/** A reading kept out of coverage is sent within so many days. */
const LATEST_ms = 14 * 86_400_000
/** A live figure is put on record within this time of its sample. */
const FRESH_ms = 60_000

/** The time a reading is said to have been taken, against the server's own clock. @throws Refusal */
export function refuseOtherTime(check: Pick<Check, 'startedAt'>, takenAt: string): void {
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

/** What the bench shows goes into no record, whoever typed it; and what is real into no practice. @throws Refusal */
export function refuseOtherWorld(
  check: Pick<Check, 'practice'>,
  take: Pick<TakeReading, 'source' | 'takenAt' | 'sample'>,
  benchSince: string | null,
  samples: SampleTokens,
): void {
  const isLive = take.source === 'live'
  const isReal = isLive && take.sample !== undefined && samples.read(take.sample)?.simulated === false
  if (check.practice) {
    if (isReal) throw new Refusal('check-of-bench', 'This check is practice, and the sample is of the real device.')
    return
  }
  const says = 'This check is a record, and the bench is connected: what is read now may be simulated.'
  if (isLive && !isReal) throw new Refusal('check-of-bench', `${says} Type what the real device shows.`)
  if (benchSince && take.takenAt >= benchSince)
    throw new Refusal('check-of-bench', `${says} Disconnect the bench, then take the reading.`)
}

/** Where each figure of a reading came from: typed, or of the sample, which the bench gave or the loop’s own device. */
export function originsOf(
  { applied, reads }: Pick<TakeReading, 'applied' | 'reads'>,
  sample: GivenSample | null,
): Origins {
  const figures: [string, ReadEntry][] = [['applied', applied], ...Object.entries(reads)]
  return Object.fromEntries(
    figures.map(([key, read]) => [
      key,
      isGiven(read, sample?.knots[key]) ? (sample?.simulated ? 'simulated' : 'live') : 'typed',
    ]),
  )
}

/** Whether a figure is, to its last decimal, what a sample gave for a knot. */
function isGiven(read: ReadEntry | undefined, given: GivenSample['knots'][string] | undefined): boolean {
  const decimals = /[.,](\d+)/.exec(read?.typed ?? '')?.[1]?.length ?? 0
  return !!read && given?.unit === read.unit && Math.abs(given.value - read.value) <= 0.51 * 10 ** -decimals
}

/** A figure that can hardly be goes on record with a word, never silently. @throws Refusal */
export function refuseDoubtful(
  check: Pick<Check, 'terms' | 'points'>,
  take: TakeReading,
  thread: Thread | undefined,
): void {
  if (!thread || take.reason.trim()) return
  const doubts = doubtsAbout(check, take, thread)
  if (doubts.length) throw new Refusal('reading-doubtful', doubtWords(sure(check.points[take.pointIndex]), doubts))
}

/** A reading is live only when the server itself gave the figures: the sample that it gave. @throws Refusal */
export function sampleOf(take: TakeReading, loopId: string, judged: string, samples: SampleTokens): GivenSample | null {
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
  if (!isGiven(take.reads[judged], sample.knots[judged]))
    throw new Refusal(
      'not-live',
      'The figure is not the one that the live sample gave. Type it, or take it live again.',
    )
  return sample
}

/** A point that was read stands until somebody says which reading is wrong, and why. */
export async function refuseSilentSecond({
  db,
  loopId,
  check,
  take,
  id,
  person,
}: {
  readonly db: Database
  readonly loopId: string
  readonly check: Pick<Check, 'points' | 'readings'>
  readonly take: TakeReading
  readonly id: string
  readonly person: Person
}): Promise<void> {
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
export const refuseSigned = () =>
  new HttpProblem(409, 'signed', 'This check is signed and can no longer be changed. Start another one.')

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
export const handsIn = (check: Check): string[] =>
  [check.startedBy, ...check.readings.map((r) => r.by), ...check.gates.map((g) => g.by)].map((by) => by.id)

/** Who entered the range that a check judges by. */
const enteredRange = (folder: FolderView, version: Version): string[] =>
  enteredBy(
    folder,
    version,
    kindOf(folder.loop.kind)
      .fields.filter((f) => f.stage === 'range')
      .map((f) => f.key),
  )

/** Who entered what is judged by: for each key the author of the version in which it last changed. */
export function enteredBy(folder: FolderView, version: Version, keys: readonly string[]): string[] {
  const before = folder.versions.filter((v) => v.number <= version.number)
  const author = (key: string) =>
    before.findLast((v, i) => v.entries[key]?.typed !== before[i - 1]?.entries[key]?.typed)?.author.id
  return keys.flatMap((key) => author(key) ?? [])
}

/** Who may sign in which role. @throws HttpProblem */
export function refuseSigner({
  wish,
  folder,
  version,
  check,
  person,
}: {
  readonly wish: Sign
  readonly folder: FolderView
  readonly version: Version
  readonly check: Check
  readonly person: Person
}): void {
  const needed = wish.role === 'performed' ? 'technician' : 'reviewer'
  if (!person.roles.includes(needed)) throw new HttpProblem(403, 'wrong-role', `Only a ${needed} may sign here.`)
  if (standOfCheck(check) === 'broken')
    throw new HttpProblem(
      409,
      'seal-broken',
      'A seal of this check is broken: what was signed is not what stands here. Nobody signs it any more.',
    )
  if (check.practice)
    throw new HttpProblem(
      409,
      'practice',
      'This check was done at the bench. It is practice: nobody signs it, and it counts for nothing.',
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
