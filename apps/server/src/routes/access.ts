// Sign-in, people, sessions, kit.
import type { Request } from 'express'
import { guarded, guessesAt, guessesAtSigning } from '../auth/guessing.ts'
import { describeSession, endSessions, listSessions, startSession } from '../auth/sessions.ts'
import type { Database } from '../db/database.ts'
import type { Mount, SignedInRequest } from '../http/mount.ts'
import { HttpProblem } from '../http/problems.ts'
import { publicSessionId } from '../http/streams.ts'
import { record } from '../services/audit.ts'
import { listGear, saveGear } from '../services/gear.ts'
import {
  addFirstPerson,
  addPerson,
  authenticate,
  changePassword,
  issueReset,
  listPeople,
  saveDuties,
  setAccess,
  useReset,
} from '../services/people.ts'
import { setterOf } from '../services/setting-of.ts'
import { readDuties } from '../services/settings.ts'
import { inOneTurn } from '../services/turns.ts'
import { endpoints, type Person } from '@calm-loop/contract'

const differ = () => new HttpProblem(400, 'invalid-input', 'The id in the address and in the body differ.')

/** @param forget drops what this server believes of sessions and people, once one of them was changed */
export function mountAccess(mounted: Mount, db: Database, forget: () => void): void {
  const mount: Mount = (name, handler, ...extra) =>
    mounted(
      name,
      async (call) => {
        try {
          return await handler(call)
        } finally {
          if (endpoints[name].method !== 'get') forget()
        }
      },
      ...extra,
    )
  const begin = async (req: Request, person: Person) => {
    await startSession(db, req, person.id)
    return describeSession(db, req, person)
  }
  mount('session', ({ req }) => describeSession(db, req, (req as SignedInRequest).person ?? null))
  mount('signIn', async ({ body, req }) => {
    const person = await guarded(db, guessesAt(req, body.signIn), () => authenticate(db, body.signIn, body.password))
    const session = await begin(req, person)
    await record({ tx: db, personId: person.id, action: 'signed-in', loopId: null })
    return session
  })
  mount('signOut', async ({ req, res, person }) => {
    const only = publicSessionId(req.sessionID)
    await new Promise<void>((resolve, reject) =>
      req.session.destroy((error) => (error ? reject(error as Error) : resolve())),
    )
    await endSessions(db, person.id, { only })
    await record({ tx: db, personId: person.id, action: 'signed-out', loopId: null })
    res.clearCookie('calm-loop').status(204).end()
  })
  mount('firstPerson', async ({ body, req }) =>
    begin(req, await guarded(db, guessesAt(req, 'first person'), () => addFirstPerson(db, body))),
  )
  mount('people', () => listPeople(db))
  mount('addPerson', ({ params, body, person }) => {
    if (params.personId !== body.id) throw differ()
    return inOneTurn(db, 'people', (tx) => addPerson(tx, body, person.id))
  })
  mount('setAccess', async ({ params, body, person }) => {
    await setAccess(db, params.personId, body, person.id)
    return listPeople(db)
  })
  mount('issueReset', ({ params, person }) => issueReset(db, params.personId, person.id))
  mount('useReset', async ({ body, req }) =>
    begin(
      req,
      await guarded(db, guessesAt(req, body.signIn), () => useReset(db, body.signIn, body.code, body.password)),
    ),
  )
  mount('changePassword', async ({ body, req, person }) => {
    await guarded(db, guessesAtSigning(person.id), () => changePassword(db, person.id, body.current, body.next))
    return begin(req, person)
  })
  const mine = (personId: string, person: Person) => {
    if (personId !== person.id && !person.roles.includes('administrator'))
      throw new HttpProblem(403, 'wrong-role', 'Only an administrator may see the sessions of others.')
  }
  mount('sessions', ({ params, person, req }) => {
    mine(params.personId, person)
    return listSessions(db, params.personId, req.sessionID)
  })
  mount('endSession', async ({ params, person, req }) => {
    mine(params.personId, person)
    const which = params.sessionId === 'all' ? { but: publicSessionId(req.sessionID) } : { only: params.sessionId }
    await endSessions(db, params.personId, which)
    await record({
      tx: db,
      personId: person.id,
      action: 'sessions-ended',
      loopId: null,
      details: { personId: params.personId, which: params.sessionId },
    })
    return listSessions(db, params.personId, req.sessionID)
  })
  mount('duties', () => readDuties(db))
  mount('saveDuties', (call) => saveDuties(db, call.body, setterOf(call)))
  mount('gear', () => listGear(db))
  mount('saveGear', ({ params, body, person }) => {
    if (params.gearId !== body.id) throw differ()
    return inOneTurn(db, 'gear', (tx) => saveGear(tx, body, person.id))
  })
}
