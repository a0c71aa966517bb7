// Entries that were typed and could not be saved: kept on this device, by person and loop, until the record has them.
import type { Entries } from '@calm-loop/core/kinds'
import { defineStore } from 'pinia'
import { ref } from 'vue'
import { useOpenLoop } from './open-loop.ts'
import { useSession } from './session.ts'

const AGAIN_ms = 20_000
const PREFIX = 'calm-loop.draft.'
export const draftKey = (person: string, loopId: string) => `${PREFIX}${person}.${loopId}`

export interface Draft {
  readonly loopId: string
  /** What stood on record when it was typed, and what is to stand there. */
  readonly base: Entries
  readonly entries: Entries
  /** As people say the loop; empty in older drafts. */
  readonly tag: string
}
/** The drafts of a person; what cannot be read is left alone. */
export function draftsOf(person: string): Draft[] {
  const prefix = draftKey(person, '')
  return Array.from({ length: localStorage.length }, (_, i) => localStorage.key(i) ?? '')
    .filter((key) => person && key.startsWith(prefix))
    .flatMap((key) => {
      try {
        const { base, entries, tag = '' } = JSON.parse(localStorage.getItem(key) ?? '') as Omit<Draft, 'loopId'>
        return [{ loopId: key.slice(prefix.length), base, entries, tag }]
      } catch {
        return []
      }
    })
}

export const useDrafts = defineStore('drafts', () => {
  const session = useSession()
  const loop = useOpenLoop()
  /** Drafts that meet what somebody else has saved: to be decided where they are opened. */
  const toDecide = ref<string[]>([])
  const waiting = ref<Draft[]>([])
  let sending = false

  /** Sends the drafts of loops that no page has open; what meets another’s change waits until it is opened. */
  async function send(): Promise<void> {
    const person = session.person?.id ?? ''
    waiting.value = draftsOf(person)
    const others = waiting.value.filter((d) => d.loopId !== loop.id)
    if (sending || session.ended || !others.length) return
    sending = true
    try {
      // What it needs of the kinds is loaded only where something waits.
      const { sendDraft } = await import('./send-draft.ts')
      for (const draft of others) {
        const clashes = await sendDraft(person, draft)
        const decided = toDecide.value.filter((id) => id !== draft.loopId)
        toDecide.value = clashes ? [...decided, draft.loopId] : decided
      }
    } catch {
      // Not reached, or not now: asked again.
    } finally {
      sending = false
      waiting.value = draftsOf(person)
    }
  }
  function start(): () => void {
    const now = () => void send()
    window.addEventListener('online', now)
    const timer = setInterval(now, AGAIN_ms)
    now()
    return () => {
      window.removeEventListener('online', now)
      clearInterval(timer)
    }
  }
  return { waiting, toDecide, send, start }
})
