// Who is signed in, what this installation is, and whether the session has ended under the work.
import type { Duty, FirstPerson, Person, Role, Session, UseResetCode } from '@calm-loop/contract'
import { USUAL_DUTIES } from '@calm-loop/contract/limits'
import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import {
  ApiProblem,
  call,
  isAway,
  keepAnswersWith,
  rememberToken,
  whenReached,
  whenSessionEnds,
} from '../api/client.ts'
import { whenStreamsTellOfDatabase } from '../api/stream.ts'
import { useCoverage } from './coverage.ts'
import { forget, keeperFor } from './kept.ts'
import { usePreferences } from './preferences.ts'

/** Who signed out here while the server could not be told. */
const LEFT = 'calm-loop.left'

export const useSession = defineStore('session', () => {
  const session = ref<Session>()
  const person = computed<Person | null>(() => session.value?.person ?? null)
  /** The server knows nobody here any more; the page still belongs to the person who was signed in. */
  const ended = ref(false)
  /** The server says that its database is away just now. */
  const databaseAway = ref(false)

  const end = () => {
    if (person.value) ended.value = true
  }
  whenSessionEnds(end)
  const preferences = usePreferences()
  const coverage = useCoverage()
  const keeper = keeperFor(() => person.value?.id ?? '', coverage.shown)
  keepAnswersWith(keeper)
  whenReached(coverage.reached)
  whenStreamsTellOfDatabase((here) => (databaseAway.value = !here))

  function take(now: Session): void {
    rememberToken(now.csrfToken)
    session.value = now
    preferences.siteMark = now.decimalMark ?? '.'
    ended.value = false
  }
  /** A session that the server has just begun: this device knows it from now on. */
  function begin(now: Session): void {
    localStorage.removeItem(LEFT)
    take(now)
    void keeper.keep('session', '', now).catch(() => undefined)
  }
  async function load(): Promise<void> {
    if (session.value) return
    const now = await call('session')
    // Signed out here while the server could not hear it: it is told before anything else.
    if (now.person && localStorage.getItem(LEFT) === now.person.id) {
      rememberToken(now.csrfToken)
      return signOutOf(now)
    }
    take(now)
  }
  async function signIn(signIn: string, password: string): Promise<void> {
    begin(await call('signIn', { body: { signIn, password } }))
  }
  /** The same person signs in again where the work is. */
  const signInAgain = (password: string): Promise<void> => signIn(person.value?.signIn ?? '', password)
  async function makeFirst(first: FirstPerson): Promise<void> {
    begin(await call('firstPerson', { body: first }))
  }
  async function reset(body: UseResetCode): Promise<void> {
    begin(await call('useReset', { body }))
  }
  async function changePassword(current: string, next: string): Promise<void> {
    begin(await call('changePassword', { body: { current, next } }))
  }
  const signOut = (): Promise<void> => signOutOf(session.value)
  /** Out of coverage this device forgets at once; the server is told when it is reached. */
  async function signOutOf(now: Session | undefined): Promise<void> {
    const id = now?.person?.id
    if (id) await forget(id).catch(() => undefined)
    try {
      if (!ended.value) await call('signOut')
      localStorage.removeItem(LEFT)
      take(await call('session'))
    } catch (error) {
      if (!now || !(error instanceof ApiProblem) || !isAway(error)) throw error
      if (id) localStorage.setItem(LEFT, id)
      take({ ...now, person: null, csrfToken: '' })
    }
  }
  const has = (role: Role): boolean => person.value?.roles.includes(role) ?? false
  /** Whether the site gives this duty to a role that the person has. */
  const hasDuty = (duty: Duty): boolean => has((session.value?.duties ?? USUAL_DUTIES)[duty])
  return {
    session,
    person,
    ended,
    databaseAway,
    load,
    signIn,
    signInAgain,
    makeFirst,
    reset,
    changePassword,
    signOut,
    has,
    hasDuty,
  }
})
