// Descriptions, files and writes of devices on record.
import {
  canonicalJson,
  type DescriptionHead,
  type DeviceFile,
  type DeviceWrite,
  type Person,
} from '@calm-loop/contract'
import { faultsOf, SHIPPED, type Description } from '@calm-loop/core/description'
import { Refusal } from '@calm-loop/core/refusal'
import { and, desc, eq, inArray } from 'drizzle-orm'
import type { Queries } from '../db/database.ts'
import { deviceDescriptions, deviceFiles, deviceWrites } from '../db/schema.ts'
import { record } from '../services/audit.ts'

export async function allDescriptions(db: Queries): Promise<Description[]> {
  return [...SHIPPED, ...(await db.select().from(deviceDescriptions)).map((row) => row.body)]
}
export async function descriptionHeads(db: Queries): Promise<DescriptionHead[]> {
  const shipped = new Set<Description>(SHIPPED)
  return (await allDescriptions(db))
    .map((d) => ({
      id: d.id,
      version: d.version,
      name: d.name,
      expandedType: d.matches.expandedType,
      parameters: d.parameters.length,
      origin: shipped.has(d) ? ('shipped' as const) : ('imported' as const),
    }))
    .sort((a, b) => a.name.localeCompare(b.name) || b.version - a.version)
}

/** Takes a description in. @throws Refusal `description-faulty`, `description-there` */
export async function importDescription(db: Queries, description: Description, person: Person): Promise<void> {
  const faults = faultsOf(description)
  if (faults.length) throw new Refusal('description-faulty', faults.slice(0, 12).join(' '))
  const there = (await allDescriptions(db)).filter((d) => d.id === description.id)
  const same = there.find((d) => d.version === description.version)
  if (same && canonicalJson(same) === canonicalJson(description)) return
  if (same)
    throw new Refusal(
      'description-there',
      `Version ${description.version} of “${same.name}” is here already and says something else. Give the changed ` +
        `one the version ${Math.max(...there.map((d) => d.version)) + 1}.`,
    )
  await db
    .insert(deviceDescriptions)
    .values({ id: description.id, version: description.version, body: description, byId: person.id })
  await record({
    tx: db,
    personId: person.id,
    action: 'description-imported',
    loopId: null,
    details: { id: description.id, version: description.version, name: description.name },
  })
}

export async function filesOf(db: Queries, serial: string): Promise<DeviceFile[]> {
  const rows = await db
    .select()
    .from(deviceFiles)
    .where(eq(deviceFiles.serial, serial))
    .orderBy(desc(deviceFiles.at))
    .limit(200)
  return rows.map((r) => r.body)
}
/** Saves a configuration; the same again is the same. */
export async function saveFile(db: Queries, file: DeviceFile, person: Person): Promise<DeviceFile> {
  const [saved] = await db
    .insert(deviceFiles)
    .values({ id: file.id, serial: file.serial, body: file, at: new Date(file.at) })
    .onConflictDoNothing()
    .returning()
  if (!saved) {
    const [there] = await db.select().from(deviceFiles).where(eq(deviceFiles.id, file.id))
    return there?.body ?? file
  }
  const { serial, tag, note } = file
  await record({
    tx: db,
    personId: person.id,
    action: 'device-saved',
    loopId: file.loopId,
    details: { serial, tag, note },
  })
  return file
}

const writeOf = ({ byId: _, at, ...row }: typeof deviceWrites.$inferSelect): DeviceWrite => {
  const { byName: by, ...rest } = row
  return { ...rest, by, at: at.toISOString() }
}
export async function writesTo(db: Queries, serial: string, most = 40): Promise<DeviceWrite[]> {
  const rows = await db
    .select()
    .from(deviceWrites)
    .where(eq(deviceWrites.serial, serial))
    .orderBy(desc(deviceWrites.at))
    .limit(most)
  return rows.map(writeOf)
}
export async function writesBy(db: Queries, id: string): Promise<DeviceWrite[]> {
  return (await db.select().from(deviceWrites).where(eq(deviceWrites.id, id))).map(writeOf)
}
/** Puts writes on record before the first of them is sent. */
export async function queueWrites(
  db: Queries,
  writes: readonly Omit<DeviceWrite, 'by' | 'at'>[],
  person: Person,
): Promise<void> {
  await db
    .insert(deviceWrites)
    .values(writes.map((w) => ({ ...w, byId: person.id, byName: person.name })))
    .onConflictDoNothing()
}
export async function noteWrites(
  db: Queries,
  id: string,
  parameters: readonly string[],
  change: Partial<Pick<DeviceWrite, 'state' | 'says' | 'held'>>,
): Promise<void> {
  await db
    .update(deviceWrites)
    .set(change)
    .where(and(eq(deviceWrites.id, id), inArray(deviceWrites.parameter, [...parameters])))
}
/** What was on its way when a server died: whether the device took it is not known. */
export async function orphansUnknown(db: Queries, serial: string): Promise<void> {
  const state = (now: 'sent' | 'queued', next: 'unknown' | 'refused', says: string) =>
    db
      .update(deviceWrites)
      .set({ state: next, says })
      .where(and(eq(deviceWrites.serial, serial), eq(deviceWrites.state, now)))
  await state('sent', 'unknown', 'The link ended before an answer came. Unknown: read back first.')
  await state('queued', 'refused', 'It was not sent: the link ended before its turn.')
}
