// One verification of a folder. Without the database, so that its certificate can be made in a worker.
import { inWorld, type FolderView } from '@calm-loop/contract'
import { runRecord, verificationsOf, type Verification } from '@calm-loop/contract/judging'
import { notFound } from '../http/problems.ts'
import { studyOf } from './studies.ts'

/** A verification on record, or of practice. @throws HttpProblem 404 */
export function verificationIn(folder: FolderView, run: string): Verification {
  const practice = !!runRecord(inWorld(folder.workLog, true), run)
  const look = (version: FolderView['versions'][number] | undefined) => studyOf(folder.loop.kind, version)
  const found = verificationsOf(folder, look, practice).find((v) => v.run === run)
  if (!found) throw notFound('This verification')
  return found
}
