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
