// What errands do: papers of many loops in one file, folders brought in, a backup.
import { ERRAND_LOOPS, PLANT_LOOPS, type ErrandWish, type LoopRow } from '@calm-loop/contract'
import { entriesNow, kindOf } from '@calm-loop/core/kinds'
import { Refusal } from '@calm-loop/core/refusal'
import { eq, inArray } from 'drizzle-orm'
import { AsyncZipDeflate, unzip, Zip, ZipPassThrough, zipSync, type Unzipped } from 'fflate'
import { makeBackup, pruneBackups, type Installation } from '../backup/backup.ts'
import { passphraseIn } from '../backup/sealed-box.ts'
import type { Database } from '../db/database.ts'
import { loops, versions } from '../db/schema.ts'
import type { ListedLoop } from '../documents/instrument-list.ts'
import { HttpProblem } from '../http/problems.ts'
import { picturesOnPaper } from '../services/attachments.ts'
import { importBundle } from '../services/bundles.ts'
import { readFolder, readWholeFolder } from '../services/folder.ts'
import { bringPlantIn } from '../services/plant.ts'
import { readPaperHead } from '../services/paper-head.ts'
import { listWhole, type Register } from '../services/loops.ts'
import type { Workers } from '../workers/pool.ts'
import { asName } from './file-names.ts'
import type { Doer, Doing } from './errands.ts'
import { picturesOf } from './pictures-out.ts'

/** Where backups go, and with what they are made; absent where this server makes none. */
export interface BackupsInto {
  readonly of: Installation
  readonly folder: string
  readonly passphraseFile: string
  readonly days: number
}
interface Here {
  readonly db: Database
  readonly workers: Workers
  readonly register: Register
  readonly backups: BackupsInto | undefined
}
type Papers = Extract<ErrandWish, { what: 'papers' }>

/** The files of a loop, one after the other; nothing but why where there is none. */
async function* papersOf(here: Here, doing: Doing, row: LoopRow): AsyncGenerator<[string, Uint8Array] | string> {
  if ((doing.errand.wish as Papers).papers === 'photographs') yield* picturesOf(here, row)
  else yield paperOf(here, doing, row.id)
}
/** A paper of a loop, or why there is none. */
async function paperOf(
  { db, workers }: Here,
  { errand }: Doing,
  loopId: string,
): Promise<[string, Uint8Array] | string> {
  const { papers } = errand.wish as Papers
  if (papers === 'folders') {
    const whole = await readWholeFolder(db, loopId)
    return [asName(`${whole.loop.tag}.calm-loop.json`), Buffer.from(await workers.run('bundleText', whole))]
  }
  const folder = await readFolder(db, loopId)
  const site = await readPaperHead(db)
  const { tag } = folder.loop
  if (papers === 'set-up sheets')
    return [asName(`${tag} set-up sheet.pdf`), await workers.run('setupPdf', { folder, site })]
  const check = folder.checks.findLast((c) => c.signatures.length > 0 && !c.practice)
  if (!check) return `${tag}: no signed check`
  const paper = { address: errand.address, site, pictures: await picturesOnPaper(db, loopId) }
  return [asName(`${tag} certificate.pdf`), await workers.run('certificate', { folder, check, paper })]
}

/** Packs one file, and waits until it is: so many at once would be held in memory. */
function pushed(file: AsyncZipDeflate | ZipPassThrough, bytes: Uint8Array): Promise<void> {
  return new Promise((resolve) => {
    const { ondata } = file
    file.ondata = (error, data, final) => {
      ondata(error, data, final)
      if (error || final) resolve()
    }
    file.push(bytes, true)
  })
}

/** One list of all the loops, in two forms. */
async function listOf({ db, workers, register }: Here, doing: Doing): Promise<string> {
  const rows = await listWhole(register, (doing.errand.wish as Papers).of, PLANT_LOOPS)
  if (!rows.length) return 'No loop is found by that.'
  const found: ListedLoop[] = []
  for (let i = 0; i < rows.length; i += LISTED_TOGETHER) {
    await doing.tell(i / rows.length, `${i} of ${rows.length}`)
    found.push(...(await withEntries(db, rows.slice(i, i + LISTED_TOGETHER))))
  }
  const files = await workers.run('instrumentList', found)
  await doing.write(zipSync(files, { level: 1 }))
  return `${rows.length} ${rows.length === 1 ? 'loop' : 'loops'}`
}
const LISTED_TOGETHER = 500
async function withEntries(db: Database, rows: readonly LoopRow[]): Promise<ListedLoop[]> {
  const newest = await db
    .select({ loopId: versions.loopId, entries: versions.entries, kindVersion: versions.kindVersion })
    .from(versions)
    .innerJoin(loops, eq(loops.headVersionId, versions.id))
    .where(
      inArray(
        loops.id,
        rows.map((r) => r.id),
      ),
    )
  const of = new Map(newest.map((v) => [v.loopId, v]))
  return rows.map(({ id, tag, service, area, kind }) => {
    const head = of.get(id)
    const entries = head
      ? entriesNow(kindOf(kind), { entries: head.entries, kindVersion: head.kindVersion ?? undefined })
      : {}
    return { tag, service, area, kind, entries }
  })
}

const papers =
  (here: Here): Doer =>
  async (doing) => {
    if ((doing.errand.wish as Papers).papers === 'instrument list') return listOf(here, doing)
    const rows = await listWhole(here.register, (doing.errand.wish as Papers).of, ERRAND_LOOPS)
    let [made, failed]: [Promise<void>, unknown] = [Promise.resolve(), undefined]
    const zip = new Zip((error, data) => {
      failed ??= error
      made = made.then(() => doing.write(data))
    })
    let n = 0
    for (const [i, row] of rows.entries()) {
      await doing.tell(i / rows.length, `${i} of ${rows.length}: ${row.tag}`)
      let some = false
      try {
        for await (const paper of papersOf(here, doing, row)) {
          if (typeof paper === 'string') doing.leaveOut(paper)
          else {
            const [name, bytes] = paper
            const file = name.endsWith('.json') ? new AsyncZipDeflate(name) : new ZipPassThrough(name)
            zip.add(file)
            await pushed(file, bytes)
            some = true
          }
          await made
          if (failed) throw failed as Error
        }
      } catch (error) {
        // One that cannot be made is no reason to have none.
        if (!(error instanceof Refusal || error instanceof HttpProblem)) throw error
        doing.leaveOut(`${row.tag}: ${error.message}`)
      }
      if (some) n++
    }
    if (!n) return rows.length ? 'None of these loops has such a paper.' : 'No loop is found by that.'
    await new Promise<void>((resolve) => {
      const end = zip.ondata
      zip.ondata = (error, data, final) => {
        end(error, data, final)
        if (final || error) resolve()
      }
      zip.end()
    })
    await made
    if (failed) throw failed as Error
    return `${n} of ${rows.length} loops`
  }

/** What a file that is brought in may come to, unpacked. */
const [MOST_BYTES, MOST_FILES] = [500_000_000, 2000]

async function foldersIn(bytes: Buffer): Promise<Unzipped> {
  if (bytes.subarray(0, 2).toString('latin1') !== 'PK') return { 'this file': new Uint8Array(bytes) }
  let [sum, files] = [0, 0]
  return new Promise((resolve, reject) =>
    unzip(
      bytes,
      {
        filter: ({ name, originalSize }) => {
          sum += originalSize
          files++
          if (sum > MOST_BYTES || files > MOST_FILES) return false
          return name.endsWith('.json')
        },
      },
      (error, found) => {
        if (sum > MOST_BYTES || files > MOST_FILES)
          reject(new HttpProblem(422, 'too-much-work', 'This file holds too much: divide it.'))
        else if (error) reject(new HttpProblem(422, 'invalid-input', 'This is no whole ZIP file.'))
        else resolve(found)
      },
    ),
  )
}

const bringIn =
  ({ db, workers, register }: Here): Doer =>
  async (doing) => {
    const files = Object.entries(await foldersIn(await doing.read()))
    let [added, already] = [0, 0]
    for (const [i, [name, bytes]] of files.entries()) {
      await doing.tell(i / files.length, `${i} of ${files.length}: ${name}`)
      try {
        const came = await importBundle(db, workers, bytes, { byId: doing.person.id })
        added += came.added.length
        already += came.already.length
      } catch (error) {
        if (!(error instanceof Refusal || error instanceof HttpProblem)) throw error
        doing.leaveOut(`${name}: ${error.message}`)
      }
    }
    register.grown()
    if (!files.length) return 'There is no folder in this file.'
    return [`${added} brought in`, ...(already ? [`${already} were here already`] : [])].join(', ')
  }

const plant =
  ({ db, workers, register }: Here): Doer =>
  async (doing) => {
    const { name } = doing.errand.wish as Extract<ErrandWish, { what: 'plant' }>
    const { tell, person } = doing
    const came = await bringPlantIn({ db, workers, bytes: await doing.read(), by: person, name, tell })
    register.grown()
    return [`${came.added} loops brought in`, ...(came.already ? [`${came.already} were here already`] : [])].join(', ')
  }

const backup =
  ({ of, folder, passphraseFile, days }: BackupsInto): Doer =>
  async (doing) => {
    await doing.tell(0, 'The tables are copied.')
    const made = await makeBackup(of, folder, passphraseIn(passphraseFile))
    pruneBackups(folder, days)
    return `In ${made}`
  }

export const doersOf = (here: Here): Readonly<Partial<Record<ErrandWish['what'], Doer>>> => ({
  papers: papers(here),
  'bring-in': bringIn(here),
  plant: plant(here),
  ...(here.backups ? { backup: backup(here.backups) } : {}),
})
