// Who is told what, as it is kept; secrets never leave the server.
import type { Person, SaveOutgoing } from '@calm-loop/contract'
import type { Database, Queries } from '../db/database.ts'
import { HttpProblem } from '../http/problems.ts'
import { record } from '../services/audit.ts'
import { overwriteSetting, readSetting } from '../services/settings.ts'

type Given = Omit<SaveOutgoing['hooks'][number], 'secret'>
export interface KeptOutgoing {
  readonly mqtt: Required<SaveOutgoing['mqtt']>
  readonly hooks: readonly (Given & { readonly secret: string })[]
}
const KEY = 'outgoing'
export const NOBODY: KeptOutgoing = {
  mqtt: { on: false, url: '', username: '', prefix: 'calm-loop', password: '' },
  hooks: [],
}

export const readOutgoing = async (db: Queries): Promise<KeptOutgoing> =>
  (await readSetting<KeptOutgoing>(db, KEY)) ?? NOBODY

/** Whether anybody is told anything. */
export const isHeard = ({ mqtt, hooks }: KeptOutgoing): boolean =>
  (mqtt.on && mqtt.url !== '') || hooks.some((h) => h.on)

/** A secret that was not given stays as it is. @throws HttpProblem where a webhook that is on has none */
export async function saveOutgoing(db: Database, given: SaveOutgoing, person: Person): Promise<KeptOutgoing> {
  const before = await readOutgoing(db)
  const kept: KeptOutgoing = {
    mqtt: { ...given.mqtt, password: given.mqtt.password ?? before.mqtt.password },
    hooks: given.hooks.map((h) => ({
      ...h,
      secret: h.secret ?? before.hooks.find((b) => b.id === h.id)?.secret ?? '',
    })),
  }
  const unsigned = kept.hooks.findIndex((h) => h.on && !h.secret)
  if (unsigned >= 0) {
    const rule = 'must be given: each message is signed with it'
    throw new HttpProblem(400, 'invalid-input', 'A webhook has no secret.', {
      fields: [{ path: `hooks.${unsigned}.secret`, rule }],
    })
  }
  await overwriteSetting(db, KEY, kept)
  const { on, url, prefix } = kept.mqtt
  const details = { mqtt: { on, url, prefix }, hooks: kept.hooks.map((h) => ({ on: h.on, url: h.url, what: h.what })) }
  await record({ tx: db, personId: person.id, action: KEY, loopId: null, details })
  return kept
}
