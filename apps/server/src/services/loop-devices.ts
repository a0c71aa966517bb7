// Which device on which port is a loop’s own.
import type { LoopDevice, Person } from '@calm-loop/contract'
import { kindOf } from '@calm-loop/core/kinds'
import { Refusal } from '@calm-loop/core/refusal'
import { and, eq, ne } from 'drizzle-orm'
import type { Database, Queries } from '../db/database.ts'
import { loopDevices, loops, people } from '../db/schema.ts'
import { HttpProblem, notFound } from '../http/problems.ts'
import type { Ports } from '../ports/ports.ts'
import { record } from './audit.ts'
import { announce } from './events.ts'
import { inOneTurn } from './turns.ts'

/** The device tied to a loop; null where none is. */
export async function deviceOf(db: Queries, loopId: string): Promise<LoopDevice | null> {
  const [row] = await db
    .select({ tie: loopDevices, name: people.name })
    .from(loopDevices)
    .innerJoin(people, eq(people.id, loopDevices.byId))
    .where(eq(loopDevices.loopId, loopId))
  if (!row) return null
  const { portId, port, serial, address, simulated, byId, at } = row.tie
  return { portId, port, serial, address, simulated, by: { id: byId, name: row.name }, at: at.toISOString() }
}

/**
 * Ties the device that is at hand on a port to a loop, or takes off what is tied.
 * @throws Refusal `no-transmitter`, HttpProblem 404, 409 when another device is at hand there than was seen
 */
export async function tieDevice(
  { db, ports }: { readonly db: Database; readonly ports: Ports },
  loopId: string,
  wish: Pick<LoopDevice, 'portId' | 'serial'> | null,
  person: Person,
): Promise<LoopDevice | null> {
  const port = wish && (await ports.port(wish.portId))
  const there = wish && (await ports.session(wish.portId)).state().device
  if (wish && there?.serial !== wish.serial)
    throw new HttpProblem(
      409,
      'other-device',
      'Another device is at hand on this port now, or none. Find it again, then say whose it is.',
    )
  return inOneTurn(db, `loop ${loopId}`, async (tx) => {
    const [loop] = await tx.select({ kind: loops.kind }).from(loops).where(eq(loops.id, loopId))
    if (!loop) throw notFound('This loop')
    if (wish && kindOf(loop.kind).family !== 'current')
      throw new Refusal('no-transmitter', 'A discrete point has no device on a HART line.')
    if (port && there) {
      const [other] = await tx
        .select({ tag: loops.tag })
        .from(loopDevices)
        .innerJoin(loops, eq(loops.id, loopDevices.loopId))
        .where(and(eq(loopDevices.serial, there.serial), ne(loopDevices.loopId, loopId)))
      if (other)
        throw new HttpProblem(
          409,
          'other-device',
          `This device is ${other.tag}’s: a device belongs to one loop. Take it off there first.`,
        )
      const set = {
        portId: port.id,
        port: port.label,
        serial: there.serial,
        address: there.address,
        simulated: port.kind === 'stand-in',
        byId: person.id,
        at: new Date(),
      }
      await tx
        .insert(loopDevices)
        .values({ loopId, ...set })
        .onConflictDoUpdate({ target: loopDevices.loopId, set })
    } else await tx.delete(loopDevices).where(eq(loopDevices.loopId, loopId))
    const details = there && port ? { serial: there.serial, port: port.label, simulated: port.kind === 'stand-in' } : {}
    await record({ tx, personId: person.id, action: there ? 'device-tied' : 'device-untied', loopId, details })
    await announce(tx, { loopId, what: 'device', id: loopId, by: person.name })
    return deviceOf(tx, loopId)
  })
}
