// The audit trail: who did what, when. Append-only.
import type { Queries } from '../db/database.ts'
import { audit } from '../db/schema.ts'

export async function record(
  tx: Queries,
  personId: string | null,
  action: string,
  loopId: string | null,
  details: Record<string, unknown> = {},
): Promise<void> {
  await tx.insert(audit).values({ personId, action, loopId, details })
}
