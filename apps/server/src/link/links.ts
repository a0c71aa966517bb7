// Which loops are connected: a link is opened when first asked for, made anew when the loop's entries change, and closed when nobody has used it for a while.
import { studyOf } from '../services/studies.ts'
import { canonicalJson, workOf } from '@calm-loop/contract'
import type { Study } from '@calm-loop/core/loop'
import type { Database } from '../db/database.ts'
import { readFolder } from '../services/folder.ts'
import type { DeviceLink } from './link.ts'
import { readBench, saveBench } from '../services/bench.ts'
import { openStandIn, type StandInStart } from './stand-in-link.ts'
import { openSwitchLink } from './switch-link.ts'

const IDLE_ms = 10 * 60_000

interface Open {
  link: DeviceLink
  madeFrom: string
  usedAt: number
}

function openLink(loopId: string, known: Study, start: StandInStart): DeviceLink {
  return known.family === 'switch' ? openSwitchLink(loopId, known, start.startAt) : openStandIn(loopId, known, start)
}

export interface Links {
  /** The loop's link. @throws HttpProblem 404, Refusal `loop-incomplete` */
  of(loopId: string): Promise<DeviceLink>
  closeAll(): void
}

/** @param pace how many times faster than a clock simulated devices go on */
export function linksFor(db: Database, pace = 1): Links {
  const open = new Map<string, Open>()
  const sweep = setInterval(() => {
    for (const [id, { link, usedAt }] of open)
      if (Date.now() - usedAt > IDLE_ms && !link.listening()) {
        link.close()
        open.delete(id)
      }
  }, 60_000)
  sweep.unref()
  return {
    async of(loopId) {
      const folder = await readFolder(db, loopId)
      const head = folder.versions.at(-1)
      const madeFrom = canonicalJson(head?.entries ?? {})
      const known = open.get(loopId)
      if (known?.madeFrom === madeFrom) {
        known.usedAt = Date.now()
        return known.link
      }
      const link = openLink(loopId, studyOf(folder.loop.kind, head), {
        pace,
        startAt: known?.link.processNow(),
        transmitter: await readBench(db, loopId),
        practice: workOf(folder.workLog, 'bench').at(-1)?.case,
        save: (state) => saveBench(db, loopId, state),
      })
      // Somebody else may have opened it while the bench was read.
      const other = open.get(loopId)
      if (other !== known && other?.madeFrom === madeFrom) {
        link.close()
        return other.link
      }
      other?.link.close()
      open.set(loopId, { link, madeFrom, usedAt: Date.now() })
      return link
    },
    closeAll() {
      clearInterval(sweep)
      for (const { link } of open.values()) link.close()
    },
  }
}
