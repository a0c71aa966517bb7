// Settings of the installation, kept in the database so that several servers share them.
import { Duties, USUAL_DUTIES } from '@calm-loop/contract'
import { randomBytes, randomUUID } from 'node:crypto'
import { eq } from 'drizzle-orm'
import type { Queries } from '../db/database.ts'
import { settings } from '../db/schema.ts'
import { sure } from '@calm-loop/core/sure'

export async function readSetting<T>(db: Queries, key: string): Promise<T | undefined> {
  const [row] = await db.select().from(settings).where(eq(settings.key, key))
  return row?.value as T | undefined
}

/** Keeps a setting the first time; later calls leave it as it is. */
export async function settleSetting(db: Queries, key: string, value: unknown): Promise<void> {
  await db.insert(settings).values({ key, value }).onConflictDoNothing()
}

/** The secret that signs session cookies, made once for this database. */
export async function sessionSecret(db: Queries): Promise<string> {
  await settleSetting(db, 'session-secret', randomBytes(32).toString('hex'))
  return sure(await readSetting<string>(db, 'session-secret'))
}

/** Id of this installation, as its labels carry it; it goes with the database, wherever that is restored. */
export async function installationId(db: Queries): Promise<string> {
  const known = await readSetting<string>(db, 'installation')
  if (known) return known
  await settleSetting(db, 'installation', randomUUID())
  return sure(await readSetting<string>(db, 'installation'))
}

/** Keeps a setting in place of what stood there. */
export async function overwriteSetting(db: Queries, key: string, value: unknown): Promise<void> {
  await db.insert(settings).values({ key, value }).onConflictDoUpdate({ target: settings.key, set: { value } })
}

/** Which role has which of the site's duties. */
export async function readDuties(db: Queries): Promise<Duties> {
  const kept = Duties.safeParse(await readSetting(db, 'duties'))
  return kept.success ? kept.data : USUAL_DUTIES
}

/** The secret that marks live samples, made once for this database. */
export async function linkSecret(db: Queries): Promise<string> {
  await settleSetting(db, 'link-secret', randomBytes(32).toString('hex'))
  return sure(await readSetting<string>(db, 'link-secret'))
}
