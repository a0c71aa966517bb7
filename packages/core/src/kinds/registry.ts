// The table of kinds of point. A new kind is one folder here, one in the web application, and one row below.
import { Refusal } from '../refusal/index.ts'
import { directKinds } from './direct/index.ts'
import type { PointKind } from './kind.ts'
import { levelFromAbove } from './level-from-above/index.ts'
import { rtdHead } from './rtd-head/index.ts'

export const KINDS: readonly PointKind[] = [levelFromAbove, rtdHead, ...directKinds]

/** The kind with this id. @throws Refusal `unknown-kind` */
export function kindOf(id: string): PointKind {
  const kind = KINDS.find((k) => k.id === id)
  if (!kind) throw new Refusal('unknown-kind', `No kind of point is called “${id}”.`)
  return kind
}
