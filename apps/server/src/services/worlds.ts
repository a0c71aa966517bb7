// What a write sees of a loop: the record, or what was practised at the bench, never both.
import { HttpProblem } from '../http/problems.ts'
import { canonicalJson, inWorld, type FolderView, type Kept } from '@calm-loop/contract'

/** A folder with the logs of the world that it is in: those of practice while its bench is connected. */
export function inItsWorld<F extends Pick<FolderView, 'bench' | 'workLog' | 'wireLog' | 'countLog'>>(folder: F): F {
  const practising = !!folder.bench
  const { workLog, wireLog, countLog } = folder
  return {
    ...folder,
    workLog: inWorld(workLog, practising),
    wireLog: inWorld(wireLog, practising),
    countLog: inWorld(countLog, practising),
  }
}

/** Whether what is kept is what is sent again, whatever marks it was given. */
export function isSame<Body>({ practice: _, doneAt: _at, ...kept }: Kept<Body>, sent: Body): boolean {
  return canonicalJson(kept) === canonicalJson(sent)
}

/** What belongs to the record waits until the bench is disconnected. @throws HttpProblem */
export function refuseOnBench(folder: Pick<FolderView, 'bench'>): void {
  if (folder.bench)
    throw new HttpProblem(
      409,
      'bench-connected',
      'The bench is connected, and this is of the record. Disconnect the bench first.',
    )
}
