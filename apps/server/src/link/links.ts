// Which loops are connected: a link is opened when first asked for, made anew when the loop's entries change, and
// closed when nobody has used it for a while.
import { answering, canonicalJson, workOf, type FolderView, type LoopDevice } from '@calm-loop/contract'
import type { TransmitterState } from '@calm-loop/core/device'
import { chainOf, machineOf, type Study } from '@calm-loop/core/loop'
import { Refusal } from '@calm-loop/core/refusal'
import type { Database } from '../db/database.ts'
import { HttpProblem } from '../http/problems.ts'
import type { Ports } from '../ports/ports.ts'
import { noDeviceHere, readBench, saveBench } from '../services/bench.ts'
import { readFolder } from '../services/folder.ts'
import { studyOf } from '../services/studies.ts'
import type { Bench, Driver, Link } from './driver.ts'
import { leasesFor } from './leases.ts'
import { recorderOf, type Recorder } from './recorder.ts'
import { runStandIn } from './stand-in.ts'
import { wireDriver } from './wire-driver.ts'

const IDLE_ms = 10 * 60_000

/** A device as the work on its loop needs it. */
export interface Device extends Link {
  readonly recorder: Recorder
  /** What it shows is simulated, and no record. */
  readonly simulated: boolean
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
export function linksFor(db: Database, ports: Ports, pace = 1): Links {
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
    const answers = answering(folder)
    if (!answers) throw noDeviceHere()
    const tie = answers === 'device' ? folder.device : null
    const madeFrom = canonicalJson([head?.entries ?? {}, answers, tie])
    if (before?.madeFrom === madeFrom) return before
    const study = studyOf(folder.loop.kind, head)
    const link = tie ? await wired(study, tie) : await simulated(study, folder, before)
    const recorder = recorderOf(link.driver)
    const use = { madeFrom, usedAt: Date.now(), listening: 0 }
    const benched = () => {
      if (link.bench) return link.bench
      throw new Refusal('no-bench', 'That is done at the device itself: what answers here is no simulated process.')
    }
    // The same object, so that what is counted at the driver is seen by who sweeps.
    return Object.assign(use, {
      device: {
        driver: counted(link.driver, use),
        ...(link.bench ? { bench: link.bench } : {}),
        recorder,
        benched,
        simulated: folder.bench !== null,
      },
    })
  }
  /** @throws Refusal `loop-incomplete`, `no-transmitter`, HttpProblem 404, 409, 503, 504 */
  async function wired(study: Study, tie: LoopDevice): Promise<Link> {
    if (study.family !== 'current')
      throw new Refusal('no-transmitter', 'A discrete point has no device on a HART line.')
    const session = await ports.session(tie.portId)
    await session.attach(tie.serial)
    return { driver: wireDriver(session, chainOf(study), tie.serial) }
  }
  async function simulated(study: Study, folder: FolderView, before: Open | undefined): Promise<Link> {
    const loopId = folder.loop.id
    const machine = machineOf(study, {
      name: loopId,
      seed: `${loopId} ${Date.now()}`,
      at: before?.device.bench?.processAt(),
      kept: await readBench(db, loopId),
      practice: workOf(folder.workLog, 'bench').at(-1)?.case,
    })
    return runStandIn(machine, { pace, keep: (kept) => saveBench(db, loopId, kept as TransmitterState) })
  }

  return {
    async of(loopId) {
      const lease = await leases.take(loopId)
      if (!lease.mine)
        throw new HttpProblem(503, 'device-elsewhere', 'Another server holds the link to this device. Try again.')
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
