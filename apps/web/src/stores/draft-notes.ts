// Entries that were typed and could not be saved: kept on this device, by person and loop, until the record has them.
import type { Entries } from '@calm-loop/core/kinds'

const PREFIX = 'calm-loop.draft.'
export const draftKey = (person: string, loopId: string) => `${PREFIX}${person}.${loopId}`
export const dropDraft = (person: string, loopId: string): void => localStorage.removeItem(draftKey(person, loopId))

export interface Draft {
  readonly loopId: string
  /** What stood on record when it was typed, and what is to stand there. */
  readonly base: Entries
  readonly entries: Entries
  /** As people say the loop; empty in older drafts. */
  readonly tag: string
}
const isEntries = (kept: unknown): kept is Entries =>
  typeof kept === 'object' && kept !== null && !Array.isArray(kept) && Object.values(kept).every(isEntry)
const isEntry = (kept: unknown) => typeof (kept as { typed?: unknown } | null)?.typed === 'string'

/** Whether this device had room for it. */
export function keepDraftOf(person: string, { loopId, ...draft }: Draft): boolean {
  try {
    localStorage.setItem(draftKey(person, loopId), JSON.stringify(draft))
    return true
  } catch {
    return false
  }
}
/** The drafts of a person; what cannot be read is left alone. */
export function draftsOf(person: string): Draft[] {
  const prefix = draftKey(person, '')
  return Array.from({ length: localStorage.length }, (_, i) => localStorage.key(i) ?? '')
    .filter((key) => person && key.startsWith(prefix))
    .flatMap((key) => {
      try {
        const { base, entries, tag = '' } = JSON.parse(localStorage.getItem(key) ?? '') as Partial<Draft>
        if (!isEntries(base) || !isEntries(entries)) return []
        return [{ loopId: key.slice(prefix.length), base, entries, tag }]
      } catch {
        return []
      }
    })
}
