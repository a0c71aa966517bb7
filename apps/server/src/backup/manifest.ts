// What a backup is made of, with the digest of each of its files: half a backup, or one that was changed, is found out
// before anything is done with it.
import { createHash } from 'node:crypto'
import { createReadStream, existsSync, readdirSync, readFileSync, statSync } from 'node:fs'
import { join } from 'node:path'
import { z } from 'zod'

export const MANIFEST = 'manifest.json'
export const DATABASE = 'database.dump'
export const SECRETS = 'secrets.sealed.json'

export const Manifest = z.strictObject({
  format: z.literal(1),
  /** When it was as it is in here. */
  at: z.iso.datetime(),
  /** The newest change of the tables, ms since 1970: an older program cannot read it. */
  tables: z.number().int(),
  /** How much there is of what. */
  counts: z.record(z.string(), z.number().int().min(0)),
  /** Public keys of the seals, by their ids. */
  keys: z.array(z.string()),
  files: z.record(z.string(), z.strictObject({ bytes: z.number().int().min(0), sha256: z.string() })),
})
export type Manifest = z.infer<typeof Manifest>

/** A backup that cannot be made, read or brought back, in words. */
export class BackupProblem extends Error {}

export async function digestOfFile(path: string): Promise<{ bytes: number; sha256: string }> {
  const hash = createHash('sha256')
  for await (const chunk of createReadStream(path)) hash.update(chunk as Buffer)
  return { bytes: statSync(path).size, sha256: hash.digest('hex') }
}

/** Reads the manifest of a backup and holds each file against it. @throws BackupProblem */
export async function readManifest(folder: string): Promise<Manifest> {
  const file = join(folder, MANIFEST)
  if (!existsSync(folder)) throw new BackupProblem(`There is no folder ${folder}.`)
  if (!existsSync(file)) {
    const inside = listBackups(folder)
    throw new BackupProblem(
      inside.length
        ? `${folder} holds ${inside.length} backups; name one of them: ${join(folder, inside[0]!)}`
        : `${folder} is no whole backup: it has no ${MANIFEST}, which is written last.`,
    )
  }
  const parsed = Manifest.safeParse(jsonOf(file))
  if (!parsed.success) throw new BackupProblem(`${file} is cut, damaged, or of another version of the program.`)
  for (const [name, said] of Object.entries(parsed.data.files)) {
    const path = join(folder, name)
    if (name.includes('/') || !existsSync(path)) throw new BackupProblem(`The backup is not whole: ${name} is missing.`)
    const found = await digestOfFile(path)
    if (found.bytes !== said.bytes || found.sha256 !== said.sha256)
      throw new BackupProblem(`The backup was changed or cut: ${name} is not the file that its manifest names.`)
  }
  for (const name of [DATABASE, SECRETS])
    if (!parsed.data.files[name]) throw new BackupProblem(`The backup is not whole: its manifest names no ${name}.`)
  return parsed.data
}

export function jsonOf(file: string): unknown {
  try {
    return JSON.parse(readFileSync(file, 'utf8'))
  } catch {
    return undefined
  }
}

const NAME = /^calm-loop-\d{4}-\d{2}-\d{2}T\d{2}-\d{2}-\d{2}Z$/
export const backupName = (at: Date): string => `calm-loop-${at.toISOString().slice(0, 19).replaceAll(':', '-')}Z`
/** When a backup was made, by its name. */
export const madeAt = (name: string): number =>
  Date.parse(name.slice('calm-loop-'.length).replace(/T(\d\d)-(\d\d)-(\d\d)Z$/, 'T$1:$2:$3Z'))
/** Whole backups in a folder, the newest first. */
export const listBackups = (folder: string): string[] =>
  existsSync(folder)
    ? readdirSync(folder)
        .filter((name) => NAME.test(name) && existsSync(join(folder, name, MANIFEST)))
        .sort()
        .reverse()
    : []
