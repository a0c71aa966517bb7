// Writes that waited on a device and come together: each is done as if it came by itself.
import type { WaitingAnswer } from '@calm-loop/contract'
import type { DoOne, Mount } from '../http/mount.ts'
import { toldAs } from '../http/problems.ts'

export function mountWaiting(mount: Mount, doOne: DoOne): void {
  mount('sendWaiting', async ({ body, req, res, signal }) => {
    const answers: WaitingAnswer[] = []
    for (const write of body.writes) {
      // What nobody hears the answer of is sent again.
      if (signal.aborted) break
      try {
        answers.push({ status: 200, body: (await doOne({ ...write, body: write.body }, { req, res, signal })) ?? null })
      } catch (error) {
        const { problem } = toldAs(error)
        if (problem.status === 500) req.log?.error({ err: error }, 'a write that waited failed')
        answers.push({ status: problem.status, body: problem })
        break
      }
    }
    return { answers }
  })
}
