// Which ports there are: adapters plugged in, gateways known, stand-ins of the bench.
import type { Person, Port, PortSetup } from '@calm-loop/contract'
import { createHash } from 'node:crypto'
import { lookup } from 'node:dns/promises'
import { SerialPort } from 'serialport'
import { z } from 'zod'
import type { Queries } from '../db/database.ts'
import { adaptersUsed, gateways, portSetups } from '../db/schema.ts'
import { Refusal } from '@calm-loop/core/refusal'
import { USUAL_LINE, type Reached } from './channel.ts'

/** A stand-in of the bench, as the start command tells it. */
export const StandIns = z.array(
  z.object({ name: z.string(), protocol: z.enum(['hart', 'modbus']), reached: z.string(), control: z.number() }),
)
export type StandIns = z.infer<typeof StandIns>

export interface KnownPort extends Port {
  readonly reached: Reached
}

const idOf = (key: string) => createHash('sha256').update(key).digest('hex').slice(0, 16)
export const gatewayId = (host: string, port: number): string => idOf(`tcp ${host}:${port}`)

function standInPort({ name, protocol, reached }: StandIns[number]): KnownPort {
  const tcp = reached.startsWith('tcp:')
  const at = tcp ? reached.slice(4) : reached
  return {
    // The same stand-in has another port or terminal after each start.
    id: idOf(`stand-in ${name}`),
    kind: 'stand-in',
    label: name,
    at,
    adapter: '',
    protocol,
    line: null,
    movedFrom: '',
    taken: '',
    reached: { kind: tcp ? 'tcp' : 'serial', at, protocol },
  }
}

type Adapter = Awaited<ReturnType<typeof SerialPort.list>>[number]
/** An adapter is known by what it carries, not by the name that it got this time. */
const adapterKey = (a: Adapter): string =>
  a.serialNumber ? [a.vendorId, a.productId, a.serialNumber].filter(Boolean).join(':') : ''

/** Sockets of the mainboard that nothing is plugged into are no ports to devices. */
const isAdapter = (a: Adapter): boolean => Boolean(a.serialNumber ?? a.vendorId ?? a.pnpId)

/** @param plugged adapters that are plugged in */
export async function listPorts(
  db: Queries,
  standIns: StandIns,
  plugged = () => SerialPort.list(),
): Promise<KnownPort[]> {
  const [adapters, known, used, setups] = await Promise.all([
    plugged().catch(() => []),
    db.select().from(gateways),
    db.select().from(adaptersUsed),
    db.select().from(portSetups),
  ])
  const pathOf = new Map(used.map((u) => [u.adapter, u.path]))
  return [
    ...standIns.map(standInPort),
    ...adapters.filter(isAdapter).map((a): KnownPort => {
      const adapter = adapterKey(a)
      const before = pathOf.get(adapter) ?? ''
      const id = idOf(`serial ${adapter || a.path}`)
      const set = setups.find((s) => s.portId === id)
      const protocol = set?.protocol ?? 'hart'
      const line = { baud: set?.baud ?? USUAL_LINE[protocol].baud, parity: set?.parity ?? USUAL_LINE[protocol].parity }
      return {
        id,
        kind: 'serial',
        label: a.manufacturer ?? 'Serial adapter',
        at: a.path,
        adapter,
        protocol,
        line,
        movedFrom: before && before !== a.path ? before : '',
        taken: '',
        reached: { kind: 'serial', at: a.path, protocol, ...line },
      }
    }),
    ...known.map(({ id, label, host, port, protocol }): KnownPort => {
      const at = `${host}:${port}`
      const reached = { kind: 'tcp' as const, at, protocol }
      return { id, kind: 'gateway', label, at, adapter: '', protocol, line: null, movedFrom: '', taken: '', reached }
    }),
  ]
}

/** Remembers where an adapter is used. */
export async function rememberAdapter(db: Queries, port: Port): Promise<void> {
  if (!port.adapter) return
  const set = { path: port.at, at: new Date() }
  await db
    .insert(adaptersUsed)
    .values({ adapter: port.adapter, ...set })
    .onConflictDoUpdate({ target: adaptersUsed.adapter, set })
}

const isOwn = (address: string) =>
  address.startsWith('127.') || ['::1', '::', '0.0.0.0'].includes(address) || address.startsWith('::ffff:127.')

/** The stand-in that answers at a host and port, whatever this machine is called there; undefined where none does. */
export async function standInAt(host: string, port: number, standIns: StandIns): Promise<string | undefined> {
  const there = standIns.find((s) => s.reached.startsWith('tcp:') && Number(s.reached.split(':').at(-1)) === port)
  if (!there) return undefined
  const found = await lookup(host, { all: true }).catch(() => [])
  return found.some((f) => isOwn(f.address)) ? there.name : undefined
}

/** Says what an adapter speaks. @throws Refusal `unsupported` where somebody else keeps speed and parity */
export async function setUpPort(db: Queries, port: Port, setup: PortSetup, person: Person): Promise<void> {
  if (port.kind !== 'serial')
    throw new Refusal('unsupported', `${port.label} is no serial adapter: speed and parity are kept at its other end.`)
  const set = { ...setup, byId: person.id, at: new Date() }
  await db
    .insert(portSetups)
    .values({ portId: port.id, ...set })
    .onConflictDoUpdate({ target: portSetups.portId, set })
}
