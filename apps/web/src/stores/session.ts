// Who is signed in, what this installation is, and whether the session has ended under the work.
import {
  USUAL_DUTIES,
  type Duty,
  type FirstPerson,
  type Person,
  type Role,
  type Session,
  type UseResetCode,
} from '@calm-loop/contract'
import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import { call, rememberToken, whenSessionEnds } from '../api/client.ts'
import { whenStreamsAreTold } from '../api/stream.ts'

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
  whenStreamsAreTold({ sessionEnded: end, database: (here) => (databaseAway.value = !here) })

  function take(now: Session): void {
    rememberToken(now.csrfToken)
    session.value = now
    ended.value = false
  }
  async function load(): Promise<void> {
    if (!session.value) take(await call('session'))
  }
  async function signIn(signIn: string, password: string): Promise<void> {
    take(await call('signIn', { body: { signIn, password } }))
  }
  /** The same person signs in again where the work is. */
  const signInAgain = (password: string): Promise<void> => signIn(person.value?.signIn ?? '', password)
  async function makeFirst(first: FirstPerson): Promise<void> {
    take(await call('firstPerson', { body: first }))
  }
  async function reset(body: UseResetCode): Promise<void> {
    take(await call('useReset', { body }))
  }
  async function changePassword(current: string, next: string): Promise<void> {
    take(await call('changePassword', { body: { current, next } }))
  }
  async function signOut(): Promise<void> {
    if (!ended.value) await call('signOut')
    take(await call('session'))
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
