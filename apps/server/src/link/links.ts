// Which loops are connected: a link is opened when first asked for, made anew when the loop's entries change, and closed when nobody has used it for a while.
import { canonicalJson } from '@calm-loop/contract'
import { kindOf, type Entries } from '@calm-loop/core/kinds'
import type { Database } from '../db/database.ts'
import { readFolder } from '../services/folder.ts'
import type { DeviceLink } from './link.ts'
import { openStandIn } from './stand-in-link.ts'
import { openSwitchLink } from './switch-link.ts'

const IDLE_ms = 10 * 60_000

interface Open {
  link: DeviceLink
  madeFrom: string
  usedAt: number
}

function openLink(loopId: string, kindId: string, entries: Entries, startAt: number | undefined): DeviceLink {
  const kind = kindOf(kindId)
  return kind.family === 'switch'
    ? openSwitchLink(loopId, kind, entries, startAt)
    : openStandIn(loopId, kind, entries, startAt)
}

export interface Links {
  /** The loop's link. @throws HttpProblem 404, Refusal `loop-incomplete` */
  of(loopId: string): Promise<DeviceLink>
  closeAll(): void
}

export function linksFor(db: Database): Links {
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
      const entries = folder.versions.at(-1)?.entries ?? {}
      const madeFrom = canonicalJson(entries)
      const known = open.get(loopId)
      if (known?.madeFrom === madeFrom) {
        known.usedAt = Date.now()
        return known.link
      }
      const link = openLink(loopId, folder.loop.kind, entries, known?.link.processNow())
      known?.link.close()
      open.set(loopId, { link, madeFrom, usedAt: Date.now() })
      return link
    },
    closeAll() {
      clearInterval(sweep)
      for (const { link } of open.values()) link.close()
    },
  }
}
