// Entries that were typed and could not be saved are sent when the server is there, whichever loop is open.
import { defineStore } from 'pinia'
import { ref } from 'vue'
import { isAway, problemWords, type ApiProblem } from '../api/client.ts'
import { draftsOf, dropDraft, type Draft } from './draft-notes.ts'
import { useOpenLoop } from './open-loop.ts'
import { useOutbox } from './outbox.ts'
import { useSession } from './session.ts'
import { comesFirst } from './with-waiting.ts'

const AGAIN_ms = 20_000
export const useDrafts = defineStore('drafts', () => {
  const session = useSession()
  const loop = useOpenLoop()
  const outbox = useOutbox()
  /** Drafts that meet what somebody else has saved: to be decided where they are opened. */
  const toDecide = ref<string[]>([])
  /** Why the server will not take a draft, by loop. */
  const refused = ref<Record<string, string>>({})
  const waiting = ref<Draft[]>([])
  let sending = false

  /** Sends the drafts of loops that no page has open; what meets another’s change waits until it is opened. */
  async function send(): Promise<void> {
    const person = session.person?.id ?? ''
    waiting.value = draftsOf(person)
    // After a check that was begun by what is saved, and waits.
    const others = waiting.value.filter((d) => d.loopId !== loop.id && !comesFirst(outbox.waiting, d.loopId))
    if (sending || session.ended || !others.length) return
    sending = true
    try {
      // What it needs of the kinds is loaded only where something waits.
      const { sendDraft } = await import('./send-draft.ts')
      for (const draft of others) {
        let why = ''
        const clashes = await sendDraft(person, draft).catch((error: ApiProblem) => {
          if (isAway(error) || error.status === 401) throw error
          // One that is not taken, as of a loop that is gone, does not hold up the others.
          why = problemWords(error)
          return false
        })
        const { [draft.loopId]: _, ...taken } = refused.value
        refused.value = why ? { ...taken, [draft.loopId]: why } : taken
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
  /** Puts away a draft that the server will not take, when somebody has seen why. */
  function dismiss({ loopId }: Draft): void {
    const person = session.person?.id ?? ''
    dropDraft(person, loopId)
    waiting.value = draftsOf(person)
  }
  return { waiting, toDecide, refused, send, start, dismiss }
})
