// The table of kinds of point. A new kind is one folder here, one in the web application, and one row below.
import { Refusal } from '../refusal/index.ts'
import type { Work } from '../round/index.ts'
import { clampOn } from './clamp-on/index.ts'
import { coriolis } from './coriolis/index.ts'
import { directKinds } from './direct/index.ts'
import { discreteSensor } from './discrete/index.ts'
import type { CurrentKind, Entries, PointKind, SwitchKind } from './kind.ts'
import { levelDp } from './level-dp/index.ts'
import { levelInContact } from './level-in-contact/index.ts'
import { levelFromAbove } from './level-from-above/index.ts'
import { orificeDpKind } from './orifice-dp/index.ts'
import { pulseFlow } from './pulse-flow/index.ts'
import { rtdHead } from './rtd-head/index.ts'
import { thermalInsertion } from './thermal-insertion/index.ts'
import { thermocouple } from './thermocouple/index.ts'

export const KINDS: readonly PointKind[] = [
  levelFromAbove,
  rtdHead,
  thermocouple,
  clampOn,
  coriolis,
  thermalInsertion,
  orificeDpKind,
  pulseFlow,
  levelDp,
  levelInContact,
  ...directKinds,
  discreteSensor,
]

/** The kind with this id. @throws Refusal `unknown-kind` */
export function kindOf(id: string): PointKind {
  const kind = KINDS.find((k) => k.id === id)
  if (!kind) throw new Refusal('unknown-kind', `No kind of point is called “${id}”.`)
  return kind
}

/** The kind with this id, which must have a current. @throws Refusal `unknown-kind`, `not-a-current` */
export function currentKindOf(id: string): CurrentKind {
  const kind = kindOf(id)
  if (kind.family !== 'current') throw new Refusal('not-a-current', 'A discrete point has no loop current.')
  return kind
}

/** The kind with this id, which must be a switch. @throws Refusal `unknown-kind`, `not-a-switch` */
export function switchKindOf(id: string): SwitchKind {
  const kind = kindOf(id)
  if (kind.family !== 'switch') throw new Refusal('not-a-switch', 'This point has a loop current, not two states.')
  return kind
}

/** Works of a check of a point of this kind, with these entries. */
export function worksOf({ check: { works } }: PointKind, entries: Entries): readonly Work[] {
  return typeof works === 'function' ? works(entries) : works
}

/** Version of a kind under which entries are recorded now. */
export const versionOf = (kind: PointKind): number => kind.version ?? 1

/**
 * Recorded entries as this release reads them. What stands on record is never changed; a kind that has changed since
 * says what its
 * entries mean now.
 * @throws Refusal `newer-kind` for entries of a later release
 */
export function entriesNow(
  kind: PointKind,
  recorded: { readonly entries: Entries; readonly kindVersion?: number | undefined } | undefined,
): Entries {
  if (!recorded) return {}
  const { entries, kindVersion: from = 1 } = recorded
  const now = versionOf(kind)
  if (from > now)
    throw new Refusal(
      'newer-kind',
      `These entries were made by a later release of “${kind.name}”. Update this installation.`,
    )
  return from < now && kind.migrate ? kind.migrate(entries, from) : entries
}
