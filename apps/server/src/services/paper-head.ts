// What stands at the head of every paper of the site: its words, its logo, and its decimal mark.
import type { Person, SiteLogo } from '@calm-loop/contract'
import { createHash } from 'node:crypto'
import type { Database, Queries } from '../db/database.ts'
import type { PaperHead } from '../documents/page.ts'
import { record } from './audit.ts'
import { readPractice, readSiteHead } from './judging.ts'
import { smallPng } from './pictures.ts'
import { overwriteSetting, readSetting } from './settings.ts'

const KEY = 'site-logo'
/** Sharp when printed 40 mm wide. */
const LOGO = { width: 600, height: 180 }

export const readLogo = async (db: Queries): Promise<SiteLogo> => ({
  logo: (await readSetting<string>(db, KEY)) || null,
})

/** Nothing given takes it off. @throws HttpProblem `not-a-picture` */
export async function saveLogo(db: Database, bytes: Uint8Array, person: Person): Promise<SiteLogo> {
  const png = bytes.length ? await smallPng(bytes, LOGO) : undefined
  const logo = png ? `data:image/png;base64,${png.toString('base64')}` : ''
  const digest = png ? createHash('sha256').update(png).digest('hex') : null
  await db.transaction(async (tx) => {
    await overwriteSetting(tx, KEY, logo)
    await record({ tx, personId: person.id, action: KEY, loopId: null, details: { digest } })
  })
  return { logo: logo || null }
}

export async function readPaperHead(db: Queries): Promise<PaperHead> {
  const [head, { decimalMark }, { logo }] = [await readSiteHead(db), await readPractice(db), await readLogo(db)]
  return { ...head, decimalMark, ...(logo ? { logo } : {}) }
}
