// Photographs and papers of a loop as files in a folder of its tag, with what is said of each; where they were taken is
// left out.
import type { Attachment, LoopRow } from '@calm-loop/contract'
import type { Database } from '../db/database.ts'
import { fileOf, listAttachments } from '../services/attachments.ts'
import { asName } from './file-names.ts'

/** What a file is called by what it is, whatever its name says. */
const ENDINGS: Record<Attachment['media'], readonly string[]> = {
  'image/jpeg': ['.jpg', '.jpeg'],
  'image/png': ['.png'],
  'image/webp': ['.webp'],
  'application/pdf': ['.pdf'],
  'text/uri-list': ['.txt'],
}
/** The day, the name as it came, and a number where two would have the same, large letters or small. */
function nameOf({ at, name, media }: Attachment, taken: Set<string>): string {
  const [ending = '', ...others] = ENDINGS[media]
  const found = [ending, ...others].find((e) => name.toLowerCase().endsWith(e))
  const stem = asName(found ? name.slice(0, -found.length) : name) || 'file'
  let called = `${at.slice(0, 10)} ${stem}${ending}`
  for (let n = 2; taken.has(called.toLowerCase()); n++) called = `${at.slice(0, 10)} ${stem} (${n})${ending}`
  taken.add(called.toLowerCase())
  return called
}

/** Those that are not taken out of view, and `about.txt` with who kept each and what it shows. */
export async function* picturesOf(
  { db }: { readonly db: Database },
  { id: loopId, tag }: Pick<LoopRow, 'id' | 'tag'>,
): AsyncGenerator<[string, Uint8Array] | string> {
  const shown = (await listAttachments(db, loopId)).filter((a) => a.note.hidden === null).reverse()
  if (!shown.length) return yield `${tag}: no photographs or papers`
  const [folder, taken, about] = [asName(tag), new Set<string>(), [] as string[]]
  for (const one of shown) {
    const { bytes } = await fileOf(db, { loopId, attachmentId: one.id }, false)
    const name = nameOf(one, taken)
    const { shows, words, marks } = one.note
    const written = marks.flatMap((m) => (m.draw === 'words' ? [m.words] : []))
    about.push(`${name}: ${[shows, words, ...written, `kept by ${one.by.name}`].filter(Boolean).join(', ')}`)
    yield [`${folder}/${name}`, bytes]
  }
  yield [`${folder}/about.txt`, Buffer.from(`${about.join('\n')}\n`)]
}
