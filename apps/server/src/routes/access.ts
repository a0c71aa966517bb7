// Sign-in, people, kit.
import type { Mount, SignedInRequest } from '../http/mount.ts'
import { HttpProblem } from '../http/problems.ts'
import { describeSession, signInLimit, startSession } from '../auth/sessions.ts'
import type { Database } from '../db/database.ts'
import { record } from '../services/audit.ts'
import { listGear, saveGear } from '../services/gear.ts'
import { addFirstPerson, addPerson, authenticate, listPeople } from '../services/people.ts'

export function mountAccess(mount: Mount, db: Database): void {
  mount('session', ({ req }) => describeSession(db, req, (req as SignedInRequest).person ?? null))
  mount(
    'signIn',
    async ({ body, req }) => {
      const person = await authenticate(db, body.signIn, body.password)
      await startSession(req, person.id)
      await record(db, person.id, 'signed-in', null)
      return describeSession(db, req, person)
    },
    signInLimit,
  )
  mount('signOut', async ({ req, res }) => {
    await new Promise<void>((resolve, reject) =>
      req.session.destroy((error) => (error ? reject(error as Error) : resolve())),
    )
    res.clearCookie('calm-loop').status(204).end()
  })
  mount('firstPerson', async ({ body, req }) => {
    const person = await addFirstPerson(db, body)
    await startSession(req, person.id)
    return describeSession(db, req, person)
  })
  mount('people', () => listPeople(db))
  mount('addPerson', ({ params, body, person }) => {
    if (params.personId !== body.id)
      throw new HttpProblem(400, 'invalid-input', 'The id in the address and in the body differ.')
    return addPerson(db, body, person.id)
  })
  mount('gear', () => listGear(db))
  mount('saveGear', ({ params, body, person }) => {
    if (params.gearId !== body.id)
      throw new HttpProblem(400, 'invalid-input', 'The id in the address and in the body differ.')
    return saveGear(db, body, person.id)
  })
}
