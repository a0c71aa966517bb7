// Which stage of the run sheet a finding belongs to: that of the first entry it is about.
import type { Finding } from '@calm-loop/core/findings'
import type { PointKind, StageId } from '@calm-loop/core/kinds'

export function stageOfFinding(kind: PointKind, finding: Finding): StageId {
  return kind.fields.find((f) => f.key === finding.fields[0])?.stage ?? 'point'
}
