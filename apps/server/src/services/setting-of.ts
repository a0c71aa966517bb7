// Settings of the site that people with a duty change: each with who set it.
import { SETTING_HEADER, settingMark, type Person } from '@calm-loop/contract'
import type { Request } from 'express'
import type { z } from 'zod'
import type { Database, Queries } from '../db/database.ts'
import { HttpProblem } from '../http/problems.ts'
import { record } from './audit.ts'
import { overwriteSetting, readSetting } from './settings.ts'
import { inOneTurn } from './turns.ts'

/** Who sets it, and the mark of what they saw there; without one it is set whatever stands. */
export interface Setter {
  readonly person: Person
  readonly was?: string | undefined
}
export const setterOf = ({ person, req }: { readonly person: Person; readonly req: Request }): Setter => ({
  person,
  was: req.get(SETTING_HEADER),
})

/** @throws HttpProblem `setting-changed` where another set it to something else since it was seen */
export function refuseUnseen({
  was,
  current,
  wanted,
}: {
  was: string | undefined
  current: object
  wanted: object
}): void {
  if (was === undefined || was === settingMark(current) || settingMark(wanted) === settingMark(current)) return
  throw new HttpProblem(
    409,
    'setting-changed',
    'Somebody else set this meanwhile. Load the page again to see it, or set it again if yours is to stand.',
    { current },
  )
}

/** A setting of one key: read as it stands, or the usual one; kept with who set it. */
export function settingOf<T extends z.ZodType<Record<string, unknown>>>(key: string, schema: T, usual: z.output<T>) {
  const read = async (db: Queries): Promise<z.output<T>> => {
    const kept = schema.safeParse(await readSetting(db, key))
    return kept.success ? kept.data : usual
  }
  /** @throws HttpProblem `setting-changed` where another set it since it was seen */
  const save = (db: Database, value: z.output<T>, { person, was }: Setter): Promise<z.output<T>> =>
    inOneTurn(db, `setting ${key}`, async (tx) => {
      refuseUnseen({ was, current: await read(tx), wanted: value })
      await overwriteSetting(tx, key, value)
      await record({ tx, personId: person.id, action: key, loopId: null, details: value })
      return value
    })
  return { read, save }
}
