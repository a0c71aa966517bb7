// Who is signed in, and what this installation is.
import type { NewPerson, Person, Role, Session } from '@calm-loop/contract'
import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import { call, rememberToken } from '../api/client.ts'

export const useSession = defineStore('session', () => {
  const session = ref<Session>()
  const person = computed<Person | null>(() => session.value?.person ?? null)

  function take(now: Session): void {
    rememberToken(now.csrfToken)
    session.value = now
  }
  async function load(): Promise<void> {
    if (!session.value) take(await call('session'))
  }
  async function signIn(signIn: string, password: string): Promise<void> {
    take(await call('signIn', { body: { signIn, password } }))
  }
  async function makeFirst(first: NewPerson): Promise<void> {
    take(await call('firstPerson', { body: first }))
  }
  async function signOut(): Promise<void> {
    await call('signOut')
    take(await call('session'))
  }
  const has = (role: Role): boolean => person.value?.roles.includes(role) ?? false
  return { session, person, load, signIn, makeFirst, signOut, has }
})
