// A draft of a loop that is not open, sent on its own: merged with what stands, and left alone where both changed one
// entry.
import { canonicalJson } from '@calm-loop/contract'
import { entriesNow, kindOf } from '@calm-loop/core/kinds'
import { v7 as uuid } from 'uuid'
import { call } from '../api/client.ts'
import { draftKey, type Draft } from './draft-notes.ts'
import { mergeEntries } from './merge.ts'
import { ownVersion, versionToSave } from './version-to-save.ts'

/**
 * Sends a draft. Says whether it meets what somebody else has saved; then nothing is sent.
 * @throws ApiProblem
 */
export async function sendDraft(person: string, draft: Draft): Promise<boolean> {
  const { loopId } = draft
  const key = draftKey(person, loopId)
  const before = localStorage.getItem(key)
  const view = await call('folder', { params: { loopId }, fresh: true })
  const kind = kindOf(view.loop.kind)
  const head = view.versions.at(-1)
  const stands = head ? entriesNow(kind, head) : {}
  const { entries, clashes } = mergeEntries(draft.base, draft.entries, stands)
  if (clashes.length) return true
  if (canonicalJson(entries) !== canonicalJson(stands)) {
    const own = ownVersion(head, person)
    const body = versionToSave({ kind, head, own, entries })
    await call('saveVersion', { params: { loopId, versionId: own?.id ?? uuid() }, body })
  }
  // Typed on meanwhile, in another tab: that is sent by itself.
  if (localStorage.getItem(key) === before) localStorage.removeItem(key)
  return false
}
