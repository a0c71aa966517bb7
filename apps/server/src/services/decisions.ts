// What someone with the duty decides of a loop: another interval, or that it may be used though it was left out of
// tolerance. Signed with their password, put at the end of the log, and into the audit trail.
import type { Decide, FolderView, Person, WorkEntry } from '@calm-loop/contract'
import type { LoopStanding } from '@calm-loop/contract/judging'
import { guarded, guessesAtSigning } from '../auth/guessing.ts'
import type { Database } from '../db/database.ts'
import { HttpProblem } from '../http/problems.ts'
import type { Workers } from '../workers/pool.ts'
import { record } from './audit.ts'
import { handsIn } from './check-rules.ts'
import { readFolder } from './folder.ts'
import { readJudging } from './judging.ts'
import { confirmPassword } from './people.ts'
import { refreshSummary } from './summary.ts'
import { loopStanding } from './summary-of.ts'
import { inOneTurn } from './turns.ts'
import { keepWork, saidBefore } from './work.ts'
import { refuseOnBench } from './worlds.ts'

const undecidable = (says: string) => new HttpProblem(409, 'nothing-to-decide', says)

/** What does not fit the record as it stands. @throws HttpProblem */
function refuseDecision({ decision }: Decide, standing: LoopStanding, longest_days: number): void {
  if (decision.what === 'fit') {
    if (standing.notFit?.id !== decision.check)
      throw undecidable('That check does not stand in the way of using the loop, or somebody has decided on it.')
    return
  }
  if (!standing.done.length) throw undecidable('Nothing is on record yet that an interval could rest on.')
  if (decision.days > longest_days)
    throw undecidable(`The site’s longest interval is ${longest_days} days. Whoever sets it can change it.`)
}

/** Who had a hand in the checks that a decision rests on does not decide on them. @throws HttpProblem */
function refuseOwnWork(folder: FolderView, checkId: string | undefined, person: Person): void {
  const check = folder.checks.find((c) => c.id === checkId)
  if (
    check &&
    [...handsIn(check), ...check.signatures.filter((s) => s.role === 'performed').map((s) => s.by.id)].includes(
      person.id,
    )
  )
    throw new HttpProblem(403, 'own-work', 'You had a hand in this check, so somebody else must decide on it.')
}

/** Decides, with the password just given. The same again changes nothing. */
export async function decide({
  db,
  workers,
  loopId,
  id,
  wish,
  person,
}: {
  readonly db: Database
  readonly workers: Workers
  readonly loopId: string
  readonly id: string
  readonly wish: Decide
  readonly person: Person
}): Promise<WorkEntry> {
  await guarded(db, guessesAtSigning(person.id), () => confirmPassword(db, person.id, wish.password))
  return inOneTurn(db, `loop ${loopId}`, async (tx) => {
    const { decision } = wish
    const known = await saidBefore(tx, { loopId, id, body: decision })
    if (known) return known
    const folder = await readFolder(tx, loopId)
    refuseOnBench(folder)
    const site = await readJudging(tx)
    const standing = loopStanding(folder, site)
    refuseDecision(wish, standing, site.maxInterval_days)
    refuseOwnWork(folder, decision.what === 'fit' ? decision.check : standing.done.at(-1)?.id, person)
    const saved = await keepWork(tx, { loopId, id, body: { ...decision, practice: false }, person })
    await record({ tx, personId: person.id, action: `decided-${decision.what}`, loopId, details: { id, ...decision } })
    await refreshSummary(tx, workers, loopId)
    return saved
  })
}
