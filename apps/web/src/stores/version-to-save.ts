// What is sent to save entries: the next revision of one's own open version, or the first of one that follows what
// stands.
import type { SaveVersion, Version } from '@calm-loop/contract'
import { versionOf, type kindOf, type Entries } from '@calm-loop/core/kinds'

/** The version that a person may go on writing in; undefined where what stands is sealed or somebody else’s. */
export const ownVersion = (head: Version | undefined, person: string | undefined): Version | undefined =>
  head && !head.sealedAt && head.author.id === person ? head : undefined

export interface ToSave {
  readonly kind: ReturnType<typeof kindOf> | undefined
  readonly head: Version | undefined
  readonly own: Version | undefined
  readonly entries: Entries
  /** Given where it is to be recorded as a finished version. */
  readonly reason?: string | undefined
}
export function versionToSave({ kind, head, own, entries, reason }: ToSave): SaveVersion {
  const kindVersion = kind ? versionOf(kind) : 1
  return {
    ...(own
      ? { parentId: own.parentId, parentRevision: null, revision: own.revision + 1 }
      : { parentId: head?.id ?? null, parentRevision: head?.revision ?? null, revision: 0 }),
    entries,
    ...(kindVersion > 1 ? { kindVersion } : {}),
    reason: reason ?? own?.reason ?? '',
    seal: reason !== undefined,
  }
}
