// Signatures under a verification, the run of a sheet: by the same rules as those under a check. Each is an entry of
// the log of work, and sealed.
import {
  type ProblemCode,
  workOf,
  type FolderView,
  type Person,
  type SignRun,
  type WorkEntry,
  type WorkOf,
} from '@calm-loop/contract'
import { handsInRun, standOfRun, type Verification } from '@calm-loop/contract/judging'
import type { z } from 'zod'
import { guarded, guessesAtSigning } from '../auth/guessing.ts'
import type { Database, Queries } from '../db/database.ts'
import { HttpProblem } from '../http/problems.ts'
import type { Sealer } from '../seals/sealer.ts'
import { contentNow, digestOf, makeSeal, signatureUnder, subjectOfRun } from '../seals/seals.ts'
import { record } from './audit.ts'
import { enteredBy } from './check-rules.ts'
import { readFolder } from './folder.ts'
import { gearUsed } from './gear.ts'
import { closeVersion } from './loops.ts'
import { confirmPassword } from './people.ts'
import { inOneTurn } from './turns.ts'
import { verificationIn } from './verification-in.ts'
import { keepWork } from './work.ts'
import { sure } from '@calm-loop/core/sure'

const no = (status: 403 | 409, code: ProblemCode, says: string) => new HttpProblem(status, code, says)

/** Who may sign a verification in which role, and when. @throws HttpProblem */
function refuseSigner(folder: FolderView, of: Verification, role: SignRun['role'], person: Person): void {
  const needed = role === 'performed' ? 'technician' : 'reviewer'
  if (!person.roles.includes(needed)) throw no(403, 'wrong-role', `Only a ${needed} may sign here.`)
  if (sure(of.steps[0]).practice)
    throw no(409, 'practice', 'This was done at the bench. It is practice: nobody signs it, and it counts for nothing.')
  const stand = standOfRun(of)
  if (stand === 'broken')
    throw no(409, 'seal-broken', 'A seal is broken: what was signed is not what stands here. Nobody signs it any more.')
  if (stand === 'elsewhere')
    throw no(409, 'imported', 'This verification was made elsewhere and is kept as it came. Do another one.')
  if (of.signatures.some((s) => s.role === role))
    throw no(409, 'signed', 'Somebody has signed this verification in that role.')
  const hands = [...handsInRun(of), ...of.signatures.map((s) => s.by.id)]
  if (role === 'performed') {
    if (!of.finished || of.judged?.pass === undefined)
      throw no(
        409,
        'run-not-finished',
        'Steps of this verification are open, or what it is held against is not entered.',
      )
    if (!hands.includes(person.id)) throw no(403, 'no-hand', 'Who signs has taken part in the work: took a step of it.')
    return
  }
  if (!of.signatures.length) throw no(409, 'not-yet-signed', 'The technician has not signed yet.')
  if (hands.includes(person.id))
    throw no(403, 'own-work', 'You had a hand in this verification, so another reviewer must countersign it.')
  if (enteredBy(folder, of.version, of.judgedBy).includes(person.id))
    throw no(
      403,
      'own-range',
      'You entered what this verification is judged by, so another reviewer must countersign it.',
    )
}

/** Kit and surroundings: as said with the first signature, for both. */
async function circumstances(tx: Queries, of: Verification, wish: z.output<typeof SignRun>) {
  const first = of.signatures[0]
  if (first) return { gear: first.gear, ambient: first.ambient }
  return { gear: await gearUsed(tx, wish, of.from.slice(0, 10)), ambient: wish.ambient }
}

/** What stands under an id, when the same person asks for the same again. @throws HttpProblem */
function saidBefore(
  log: readonly WorkEntry[],
  id: string,
  run: string,
  { wish, person }: { wish: SignRun; person: Person },
) {
  const known = log.find((e) => e.id === id)
  if (!known) return undefined
  if (known.what === 'run-signed' && known.run === run && known.role === wish.role && known.by.id === person.id)
    return known
  throw no(409, 'id-reused', 'Something else is already on record under this id.')
}

/** Signs, with the password just given; what was shown is sealed. The same again changes nothing. */
export async function signRun({
  db,
  sealer,
  loopId,
  run,
  id,
  wish,
  person,
}: {
  readonly db: Database
  readonly sealer: Sealer
  readonly loopId: string
  readonly run: string
  readonly id: string
  readonly wish: z.output<typeof SignRun>
  readonly person: Person
}): Promise<WorkEntry> {
  // Outside of the turn: whoever guesses waits, nobody else.
  await guarded(db, guessesAtSigning(person.id), () => confirmPassword(db, person.id, wish.password))
  return inOneTurn(db, `loop ${loopId}`, async (tx) => {
    const folder = await readFolder(tx, loopId)
    const known = saidBefore(folder.workLog, id, run, { wish, person })
    if (known) return known
    const of = verificationIn(folder, run)
    refuseSigner(folder, of, wish.role, person)
    await closeVersion(tx, of.version, 'Closed when a verification was signed')
    const used = await circumstances(tx, of, wish)
    const subject = subjectOfRun(folder.loop, of.version, of, used)
    const digest = sure(digestOf(contentNow(subject), subject))
    const { role, statement } = wish
    const body: Omit<WorkOf<'run-signed'>, 'id' | 'by' | 'at'> = {
      ...{ what: 'run-signed', run, sheet: of.sheet, role, statement, digest, version: of.version.id, ...used },
      practice: false,
    }
    const saved = await keepWork(tx, { loopId, id, body, person })
    const seal = await makeSeal(tx, sealer, { subject, signature: signatureUnder(saved as WorkOf<'run-signed'>) })
    await record({
      ...{ tx, personId: person.id, action: `run-${role}`, loopId },
      details: { run, sheet: of.sheet, digest, seal: seal.seq },
    })
    const { workLog } = await readFolder(tx, loopId)
    return sure(workOf(workLog, 'run-signed').find((s) => s.id === id))
  })
}
