// A file for long work, sent part by part, so that one which breaks off costs no more than its part.
import { PART_BYTES } from '@calm-loop/contract/limits'
import { v7 as uuid } from 'uuid'
import { call } from './client.ts'

/**
 * Sends a file ahead of the errand that wants it.
 * @param tell told which share of it has arrived, 0 to 1
 * @throws ApiProblem
 */
export async function sendErrandFile(
  file: Blob,
  tell: (share: number) => void,
): Promise<{ id: string; parts: number }> {
  const id = uuid()
  const parts = Math.ceil(file.size / PART_BYTES)
  for (let part = 0; part < parts; part++) {
    tell(part / parts)
    const piece = file.slice(part * PART_BYTES, (part + 1) * PART_BYTES)
    await call('errandPart', { params: { errandId: id, part: String(part) }, file: piece })
  }
  return { id, parts }
}
