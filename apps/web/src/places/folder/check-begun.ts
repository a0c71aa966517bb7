// A check that is begun on this device and waits for the server.
import type { Author, Check, StartCheck } from '@calm-loop/contract'
import type { CheckPlan } from '@calm-loop/contract/judging'

/** A check as it stands here until the server has it: never practice, as the bench is on the server. */
export function checkBegun(
  { id, versionId, by, at }: Pick<Check, 'id' | 'versionId'> & { readonly by: Author; readonly at: string },
  { gateId, words, told }: Pick<StartCheck, 'gateId' | 'words' | 'told'>,
  plan: CheckPlan,
): Check {
  const gates = [{ id: gateId, gate: 'loop-in-manual' as const, words, told, by, at }]
  const empty = { readings: [], signatures: [] }
  return { ...plan, id, versionId, practice: false, startedBy: by, startedAt: at, gates, ...empty }
}
