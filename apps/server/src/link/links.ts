// Which loops are connected: a link is opened when first asked for, made anew when the loop's entries change, and
// closed when nobody has used it for a while.
import { canonicalJson, workOf } from '@calm-loop/contract'
import type { TransmitterState } from '@calm-loop/core/device'
import { machineOf } from '@calm-loop/core/loop'
import type { Database } from '../db/database.ts'
import { HttpProblem } from '../http/problems.ts'
import { readBench, requireBench, saveBench } from '../services/bench.ts'
import { readFolder } from '../services/folder.ts'
import { studyOf } from '../services/studies.ts'
import type { Bench, Driver, Link } from './driver.ts'
import { leasesFor } from './leases.ts'
import { recorderOf, type Recorder } from './recorder.ts'
import { runStandIn } from './stand-in.ts'

const IDLE_ms = 10 * 60_000

/** A device as the work on its loop needs it. */
export interface Device extends Link {
  readonly recorder: Recorder
  /** The simulated world around it. @throws Refusal `no-bench` where the device is real */
  benched(): Bench
}

interface Open {
  device: Device
  madeFrom: string
  usedAt: number
  listening: number
}

export interface Links {
  /** The loop's device. @throws HttpProblem 404, 503, Refusal `bench-not-connected`, `loop-incomplete` */
  of(loopId: string): Promise<Device>
  /** Ends the link: whoever listens hears so. */
  end(loopId: string): void
  /** Where the server is that holds the device; undefined when it is, or now becomes, this one. */
  elsewhere(loopId: string): Promise<string | undefined>
  reachedAt(address: string): void
  closeAll(): Promise<void>
}

/** A driver that tells how many listen to it. */
function counted(driver: Driver, entry: { listening: number }): Driver {
  return {
    ...driver,
    subscribe(listener) {
      entry.listening++
      const stop = driver.subscribe(listener)
      let on = true
      return () => {
        if (on) entry.listening--
        on = false
        stop()
      }
    },
  }
}

/** @param pace how many times faster than a clock simulated devices go on */
export function linksFor(db: Database, pace = 1): Links {
  const open = new Map<string, Open>()
  const leases = leasesFor(db)
  const shut = (loopId: string) => {
    open.get(loopId)?.device.driver.close()
    open.delete(loopId)
  }
  leases.onLost(shut)
  const sweep = setInterval(() => {
    for (const [loopId, { usedAt, listening }] of open)
      if (Date.now() - usedAt > IDLE_ms && !listening) {
        shut(loopId)
        void leases.giveBack(loopId).catch(() => undefined)
      }
  }, 60_000)
  sweep.unref()

  async function make(loopId: string, before: Open | undefined): Promise<Open> {
    const folder = await readFolder(db, loopId)
    const head = folder.versions.at(-1)
    const madeFrom = canonicalJson(head?.entries ?? {})
    if (before?.madeFrom === madeFrom) return before
    const machine = machineOf(studyOf(folder.loop.kind, head), {
      name: loopId,
      seed: `${loopId} ${Date.now()}`,
      at: before?.device.bench?.processAt(),
      kept: await readBench(db, loopId),
      practice: workOf(folder.workLog, 'bench').at(-1)?.case,
    })
    const link = runStandIn(machine, {
      pace,
      keep: (kept) => saveBench(db, loopId, kept as TransmitterState),
    })
    const recorder = recorderOf(link.driver)
    const use = { madeFrom, usedAt: Date.now(), listening: 0 }
    // The same object, so that what is counted at the driver is seen by who sweeps.
    return Object.assign(use, {
      device: { driver: counted(link.driver, use), bench: link.bench, recorder, benched: () => link.bench },
    })
  }

  return {
    async of(loopId) {
      const lease = await leases.take(loopId)
      if (!lease.mine)
        throw new HttpProblem(503, 'device-elsewhere', 'Another server holds the link to this device. Try again.')
      await requireBench(db, loopId)
      const known = open.get(loopId)
      const made = await make(loopId, known)
      // Somebody else may have opened it meanwhile.
      const other = open.get(loopId)
      if (other && other !== known && other.madeFrom === made.madeFrom) {
        if (made !== other) made.device.driver.close()
        return other.device
      }
      if (made !== other) other?.device.driver.close()
      open.set(loopId, made)
      made.usedAt = Date.now()
      return made.device
    },
    end: shut,
    async elsewhere(loopId) {
      const lease = await leases.take(loopId)
      return lease.mine ? undefined : lease.address
    },
    reachedAt: leases.reachedAt,
    async closeAll() {
      clearInterval(sweep)
      for (const loopId of [...open.keys()]) shut(loopId)
      await leases.close()
    },
  }
}
