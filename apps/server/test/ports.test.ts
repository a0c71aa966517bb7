// Ports against stand-in processes on real lines: found, read, written and read back, whatever the line does.
import type { DeviceFile, DeviceHistory, DeviceWrite, LinkState, Person, Port } from '@calm-loop/contract'
import { existsSync, readFileSync } from 'node:fs'
import { v7 as uuid } from 'uuid'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { listPorts, setUpPort } from '../src/ports/registry.ts'
import { standIn, stopAll, type Running } from '../../stand-in/test/processes.ts'
import { good, listenTo, startServer, type TestServer, type Visitor } from './harness.ts'

const SOCAT = existsSync('/usr/bin/socat')
const CAUTIONS = ['manual', 'trips', 'area']
let running: Record<'pressure' | 'ph' | 'level-modbus', Running>
let server: TestServer
let ailsa: Visitor
let magnus: Visitor
const standInList = () =>
  Object.entries(running).map(([name, { reached, control }]) => ({
    name,
    protocol: name.endsWith('modbus') ? ('modbus' as const) : ('hart' as const),
    reached,
    control,
  }))

beforeAll(async () => {
  const [pressure, ph, bus] = await Promise.all([
    standIn('pressure', ...(SOCAT ? ['--pty'] : ['--tcp', '0'])),
    standIn('ph', '--tcp', '0'),
    standIn('level-modbus', '--tcp', '0'),
  ])
  running = { pressure, ph, 'level-modbus': bus }
  server = await startServer({ standIns: standInList() })
  ailsa = await server.as('ailsa')
  magnus = await server.as('magnus')
})
afterAll(async () => {
  await server.stop()
  stopAll()
})

const portNamed = async (label: string): Promise<string> =>
  (good(await ailsa.call('ports')).body as Port[]).find((p) => p.label === label)!.id
const stateOf = async (portId: string) => good(await ailsa.call('linkState', { portId })).body as LinkState
const idle = async (portId: string) => {
  await expect.poll(async () => (await stateOf(portId)).doing).toBe('idle')
  return stateOf(portId)
}
async function connected(label: string, address = 0): Promise<string> {
  const portId = await portNamed(label)
  const state = good(await ailsa.call('connectDevice', { portId }, { address })).body as LinkState
  expect(state.device?.address).toBe(address)
  return portId
}
/** The device of a slow line: it is asked once at an address, and on a busy machine it may answer late. */
async function found(portId: string): Promise<NonNullable<LinkState['device']>> {
  for (let i = 0; i < 5; i++) {
    good(await ailsa.call('probePort', { portId }, { from: 0, to: 0 }))
    const { device } = await idle(portId)
    if (device) return device
  }
  throw new Error('no device is found')
}
async function uploaded(portId: string, anew = true): Promise<LinkState> {
  good(await ailsa.call('uploadDevice', { portId }, { anew }))
  return idle(portId)
}
const write = (portId: string, values: Record<string, number | string | null>, more: object = {}, id = uuid()) =>
  ailsa.call('writeValues', { portId }, { id, values, cautions: CAUTIONS, ...more })
const written = async (...args: Parameters<typeof write>) => good(await write(...args)).body as DeviceWrite[]

describe('ports', () => {
  it('are listed, with what they speak; only a technician works with them', async () => {
    const ports = good(await magnus.call('ports')).body as Port[]
    expect(ports.map((p) => [p.label, p.kind, p.protocol])).toEqual(
      expect.arrayContaining([
        ['pressure', 'stand-in', 'hart'],
        ['level-modbus', 'stand-in', 'modbus'],
      ]),
    )
    const portId = await portNamed('pressure')
    expect((await magnus.call('connectDevice', { portId }, { address: 0 })).status).toBe(403)
    expect(
      (await ailsa.call('addGateway', {}, { label: 'G', host: '127.0.0.1', port: 9, protocol: 'hart' })).status,
    ).toBe(403)
    expect((await ailsa.call('linkState', { portId: '0'.repeat(16) })).status).toBe(404)
  })
  it('that cannot be opened say why in words', async () => {
    const rona = await server.as('rona')
    const gone = { label: 'Nowhere', host: '127.0.0.1', port: 9, protocol: 'hart' }
    good(await rona.call('addGateway', {}, gone))
    const portId = await portNamed('Nowhere')
    const { problem } = await ailsa.call('connectDevice', { portId }, { address: 0 })
    expect(problem).toMatchObject({ code: 'port-lost', detail: expect.stringContaining('nothing listens there') })
  })
})

describe('a device', () => {
  it('is found, and says by which description it is read', async () => {
    const portId = await portNamed('pressure')
    good(await ailsa.call('probePort', { portId }, {}))
    const state = await idle(portId)
    expect(state.device).toMatchObject({ tag: 'PT-104', description: { id: 'pressure-standard' } })
    expect(state.probed).toMatchObject([{ address: 0, outcome: 'device' }])
    const ph = await connected('ph')
    expect((await stateOf(ph)).device?.description.id).toBe('universal')
  })
  it('that is silent is given up, with the next three things; stopping does no harm', async () => {
    const portId = await portNamed('ph')
    await running.ph.say('silent')
    good(await ailsa.call('probePort', { portId }, { from: 0, to: 2 }))
    const state = await idle(portId)
    expect(state.probed.map((l) => l.outcome)).toEqual(['silence', 'silence', 'silence'])
    expect(state.tryNext).toHaveLength(3)
    const { loops } = good(await ailsa.raw('GET', '/api/loops?q=LT-112')).body as { loops: { id: string }[] }
    good(await ailsa.call('probePort', { portId }, { from: 0, to: 0, loopId: loops[0]!.id }))
    expect((await idle(portId)).tryNext[0]).toMatch(/The loop as drawn has \d+ Ω/)
    good(await ailsa.call('probePort', { portId }, { from: 0, to: 63 }))
    expect((await ailsa.call('probePort', { portId }, {})).problem.code).toBe('link-busy')
    good(await ailsa.call('stopLink', { portId }))
    expect((await idle(portId)).probed.length).toBeLessThan(20)
    await running.ph.say('normal')
  })
  it('is asked for by its tag', async () => {
    const portId = await portNamed('ph')
    good(await ailsa.call('probePort', { portId }, { tag: 'AT-402' }))
    // Not the address that nobody asked by, but the one it tells.
    expect((await idle(portId)).device).toMatchObject({ tag: 'AT-402', address: 0 })
    good(await ailsa.call('probePort', { portId }, { tag: 'AT-999' }))
    expect((await idle(portId)).tryNext).toHaveLength(3)
  })
  it('is read with its progress, and read on where it was stopped', async () => {
    const portId = await connected('pressure')
    const state = await uploaded(portId)
    expect(state.values).toMatchObject({ tag: 'PT-104', unit: 'kPa', urv: 600, fillOfTheCell: 'SILICONE' })
    expect(state).toMatchObject({ upload: null, readAt: expect.any(String) })
    expect(state.counts).toMatchObject({ unanswered: 0 })
    const before = state.counts.sent
    await uploaded(portId, false)
    expect((await stateOf(portId)).counts.sent - before).toBeLessThan(4)
  })
  it('shows what it believes of its current', async () => {
    const portId = await connected('pressure')
    const states = await listenTo(server, ailsa, `/api/ports/${portId}/stream`, (heard) =>
      heard.some((e) => (e.data as LinkState).live),
    )
    expect((states.at(-1)!.data as LinkState).live?.mA).toBeCloseTo(10.4, 1)
  })
})

describe('a write', () => {
  it('is read back and compared; the same again is the same', async () => {
    const portId = await connected('pressure')
    await uploaded(portId)
    const id = uuid()
    const [one] = await written(portId, { damping: 1.6 }, {}, id)
    expect(one).toMatchObject({ state: 'held', to: 1.6, held: Math.fround(1.6), by: 'Ailsa Fenn' })
    const sent = (await stateOf(portId)).counts.sent
    expect(await written(portId, { damping: 1.6 }, {}, id)).toMatchObject([{ state: 'held' }])
    expect((await stateOf(portId)).counts.sent - sent).toBeLessThan(3)
  })
  it('of both ends of a range moves the current, so its cautions come first', async () => {
    const portId = await connected('pressure')
    await uploaded(portId)
    expect((await write(portId, { urv: 500 }, { cautions: ['manual'] })).problem.code).toBe('cautions-open')
    const rows = await written(portId, { lrv: 10, urv: 510 })
    expect(rows.map((r) => [r.parameter, r.state]).sort()).toEqual([
      ['lrv', 'held'],
      ['urv', 'held'],
    ])
    expect((await stateOf(portId)).values).toMatchObject({ lrv: 10, urv: 510 })
    expect((await written(portId, { urv: 9000 }))[0]).toMatchObject({
      state: 'refused',
      says: expect.stringContaining('too high'),
    })
    await written(portId, { lrv: 0, urv: 600 })
  })
  it('to a protected device is refused in its own words', async () => {
    const portId = await connected('pressure')
    await running.pressure.say('protect')
    const [row] = await written(portId, { damping: 3 })
    expect(row).toMatchObject({ state: 'refused', says: expect.stringContaining('write-protected') })
    await running.pressure.say('unprotect')
  })
  it('whose answers are lost is unknown until it is read back, and nothing is written over it', async () => {
    const portId = await connected('pressure')
    await uploaded(portId)
    await running.pressure.say('lose')
    expect(await written(portId, { damping: 4.4 })).toMatchObject([
      { state: 'unknown', says: expect.stringContaining('read back first') },
    ])
    expect((await write(portId, { damping: 5 })).problem.code).toBe('read-back-first')
    await running.pressure.say('normal')
    const told = good(await ailsa.call('commandDevice', { portId }, { do: 'read-again' })).body as LinkState
    expect(told.writes[0]).toMatchObject({ state: 'held', to: 4.4, says: expect.stringContaining('bit by bit') })
    expect(await written(portId, { damping: 5 })).toMatchObject([{ state: 'held' }])
  })
  it('that was on its way when the server died is unknown for the next', async () => {
    const portId = await connected('ph')
    const { device } = await stateOf(portId)
    const id = uuid()
    await server.pool.query(
      `insert into device_writes (id, parameter, serial, label, "from", "to", held, state, says, by, by_name)
       select $1, 'damping', $2, 'Damping', '0.4', '9', null, 'sent', '', id, 'Ailsa Fenn' from people limit 1`,
      [id, device!.serial],
    )
    good(await ailsa.call('leaveDevice', { portId }))
    await connected('ph')
    expect((await stateOf(portId)).writes.find((w) => w.id === id)).toMatchObject({ state: 'unknown' })
    expect((await write(portId, { damping: 2 })).problem.code).toBe('read-back-first')
    good(await ailsa.call('commandDevice', { portId }, { do: 'read-again' }))
    expect((await stateOf(portId)).writes.find((w) => w.id === id)).toMatchObject({ state: 'differs' })
    expect(await written(portId, { damping: 2 })).toMatchObject([{ state: 'held' }])
  })
  it('to a forgetful device is not stored until it is told to', async () => {
    await running.ph.say('forget')
    const portId = await connected('ph')
    good(await ailsa.call('leaveDevice', { portId }))
    await connected('ph')
    await written(portId, { damping: 6 })
    expect(await stateOf(portId)).toMatchObject({ unstored: true, device: { forgetful: true } })
    expect(good(await ailsa.call('commandDevice', { portId }, { do: 'store' })).body).toMatchObject({ unstored: false })
  })
  it('leaves a change of its own to be called compared, up to the counter that was read back', async () => {
    const portId = await connected('pressure')
    await written(portId, { message: 'CHECKED' })
    const seen = await ailsa.call('commandDevice', { portId }, { do: 'seen' })
    expect((good(seen).body as LinkState).live?.flags).not.toContain('configuration-changed')
  })
  it('that comes while the line is at work is not left waiting on record', async () => {
    const portId = await connected('ph')
    await ailsa.call('lookAtHistory', { portId })
    const { info } = (await ailsa.call('deviceHistory', { portId })).body as DeviceHistory
    void ailsa.call('downloadHistory', { portId }, { from_s: info!.newest_s - 300 * 3600, hours: 300, every_s: 10 })
    await expect.poll(async () => (await stateOf(portId)).doing, { interval: 5 }).toBe('reading')
    const id = uuid()
    expect((await write(portId, { damping: 2 }, {}, id)).problem.code).toBe('link-busy')
    good(await ailsa.call('stopLink', { portId }))
    await idle(portId)
    expect((await stateOf(portId)).writes.some((w) => w.id === id)).toBe(false)
    expect(await written(portId, { damping: 2 }, {}, id)).toMatchObject([{ state: 'held' }])
  })
  it('of a current needs its cautions, and says that it is fixed', async () => {
    const portId = await connected('pressure')
    const fix = (cautions: string[]) => ailsa.call('commandDevice', { portId }, { do: 'fix', mA: 12, cautions })
    expect((await fix([])).problem.code).toBe('cautions-open')
    expect((good(await fix(CAUTIONS)).body as LinkState).live).toMatchObject({
      mA: 12,
      flags: expect.arrayContaining(['current-fixed']),
    })
    expect(Number(await running.pressure.say('meter'))).toBeCloseTo(12.04, 2)
    const after = good(await ailsa.call('commandDevice', { portId }, { do: 'release' })).body as LinkState
    expect(after.live?.flags).not.toContain('current-fixed')
  })
})

describe('descriptions and files', () => {
  const file = JSON.parse(readFileSync(new URL('../../../demo/descriptions/ph.json', import.meta.url), 'utf8')) as {
    version: number
    parameters: object[]
  }
  it('one that is missing is imported, and the device is read by it', async () => {
    const faulty = { ...file, parameters: [{ ...file.parameters[0], group: 'nowhere' }] }
    expect((await ailsa.call('importDescription', {}, faulty)).problem.code).toBe('description-faulty')
    good(await ailsa.call('importDescription', {}, file))
    good(await ailsa.call('importDescription', {}, file))
    const other = { ...file, parameters: file.parameters.slice(1) }
    expect((await ailsa.call('importDescription', {}, other)).problem).toMatchObject({
      code: 'description-there',
      detail: expect.stringContaining('version 2'),
    })
    const portId = await connected('ph')
    expect((await uploaded(portId)).values).toMatchObject({ slope: Math.fround(58.2) })
    expect((await write(portId, { slope: 57 })).problem.code).toBe('constant-kept')
    expect(await written(portId, { slope: 57 }, { constants: ['slope'] })).toMatchObject([{ state: 'held' }])
  })
  it('a configuration is saved once, by the serial of its device', async () => {
    const portId = await connected('ph')
    await uploaded(portId)
    const id = uuid()
    const saved = good(await ailsa.call('saveDeviceFile', { portId }, { id, note: 'as found' })).body as DeviceFile
    expect(saved).toMatchObject({ tag: 'AT-402', characterization: expect.arrayContaining(['slope']) })
    good(await ailsa.call('saveDeviceFile', { portId }, { id, note: 'as found' }))
    const all = good(await ailsa.raw('GET', `/api/device-files?serial=${saved.serial}`)).body as DeviceFile[]
    expect(all.map((f) => f.id)).toEqual([id])
  })
})

describe('its past', () => {
  it('is looked at, read in pieces, read on after a break, and given as CSV', async () => {
    const portId = await connected('pressure')
    expect((good(await ailsa.call('deviceHistory', { portId })).body as DeviceHistory).info).toBeNull()
    const { info, events } = good(await ailsa.call('lookAtHistory', { portId })).body as DeviceHistory
    expect(info).toMatchObject({ interval_s: 10, events: 6 })
    expect(events.map((e) => e.kind)).toEqual(['event', 'change', 'alarm', 'alarm', 'change', 'event'])
    const wish = { from_s: info!.newest_s - 6 * 3600, hours: 5, every_s: 10 }
    good(await ailsa.call('downloadHistory', { portId }, wish))
    await idle(portId)
    expect((good(await ailsa.call('deviceHistory', { portId })).body as DeviceHistory).rows).toHaveLength(1801)
    // The line falls silent in the middle of the next piece: what came stays, and only the rest is asked for.
    await running.pressure.say('silent')
    const more = { ...wish, hours: 6 }
    await ailsa.call('downloadHistory', { portId }, more)
    // Whoever began it may not have waited: the state says what became of it.
    expect((await idle(portId)).says).toContain('What was read is kept; read on.')
    const broken = await idle(portId).then(
      async () => (await ailsa.call('deviceHistory', { portId })).body as DeviceHistory,
    )
    expect(broken).toMatchObject({ missing: 360 })
    await running.pressure.say('normal')
    good(await ailsa.call('downloadHistory', { portId }, more))
    await idle(portId)
    const whole = good(await ailsa.call('deviceHistory', { portId })).body as DeviceHistory
    expect(whole.missing).toBe(0)
    expect(whole.rows).toHaveLength(2161)
    const csv = (await ailsa.call('historyCsv', { portId })).text.split('\r\n')
    expect(csv[0]).toBe('time,what,value,unit,words')
    expect(csv.filter((l) => /^\d.*,value,/.test(l))).toHaveLength(2161)
    expect(csv.some((l) => l.endsWith(',alarm,,,Value above 80 % of range'))).toBe(true)
  })
})

describe('what breaks', () => {
  it('a port gone in the middle of an upload keeps what was read, and is taken up again', async () => {
    const slow = await standIn('level', '--tcp', '0', '--baud1200')
    const rona = await server.as('rona')
    const at = { label: 'Slow', host: '127.0.0.1', port: slow.port, protocol: 'hart' }
    good(await rona.call('addGateway', {}, at))
    const portId = await portNamed('Slow')
    expect((await found(portId)).tag).toBe('LT-112')
    good(await ailsa.call('uploadDevice', { portId }, { anew: true }))
    await expect.poll(async () => (await stateOf(portId)).upload?.done).toBeGreaterThan(1)
    await slow.stop()
    await expect.poll(async () => (await stateOf(portId)).doing).toBe('lost')
    const state = await stateOf(portId)
    expect(state.says).toContain('What was read is kept')
    expect(state.values).toHaveProperty('tag')
    expect((await ailsa.call('uploadDevice', { portId }, { anew: false })).problem.code).toBe('no-device')
    expect((await ailsa.call('connectDevice', { portId }, { address: 0 })).problem.code).toBe('port-lost')
  })
  it('a port gone in the middle of a write leaves it unknown, and what was to follow unsent', async () => {
    const slow = await standIn('pressure', '--tcp', '0', '--baud1200', '--id', '77')
    const rona = await server.as('rona')
    good(await rona.call('addGateway', {}, { label: 'Cut', host: '127.0.0.1', port: slow.port, protocol: 'hart' }))
    const portId = await portNamed('Cut')
    expect((await found(portId)).tag).toBe('PT-104')
    const asked = write(portId, { damping: 3, message: 'LATER' })
    const states = async () => (await stateOf(portId)).writes.map((w) => w.state)
    await expect.poll(states, { interval: 10 }).toContain('sent')
    await slow.stop()
    const rows = good(await asked).body as DeviceWrite[]
    expect(rows.map((r) => r.state).sort()).toEqual(['refused', 'unknown'])
  })
  it('whoever looks at a port goes on looking when it is let go and taken up again', async () => {
    const portId = await connected('ph')
    const heard = listenTo(
      server,
      ailsa,
      `/api/ports/${portId}/stream`,
      (events) => {
        const doing = events.map((e) => (e.data as LinkState).doing)
        return doing.includes('closed') && doing.at(-1) === 'idle'
      },
      async () => {
        await new Promise((resolve) => setTimeout(resolve, 300))
        good(await ailsa.call('leaveDevice', { portId }))
        await new Promise((resolve) => setTimeout(resolve, 300))
        good(await ailsa.call('connectDevice', { portId }, { address: 0 }))
      },
    )
    expect(((await heard).at(-1)!.data as LinkState).device?.tag).toBe('AT-402')
  })
  it('a server that dies between a write and its read-back leaves it unknown for the next', async () => {
    const dying = await startServer({ on: server, standIns: standInList() })
    const there = await dying.as('ailsa')
    const portId = await portNamed('ph')
    good(await ailsa.call('leaveDevice', { portId }))
    good(await there.call('connectDevice', { portId }, { address: 0 }))
    // The port is held by that server alone.
    expect((await ailsa.call('connectDevice', { portId }, { address: 0 })).problem.code).toBe('port-taken')
    await running.ph.say('lose')
    const id = uuid()
    void there.call('writeValues', { portId }, { id, values: { damping: 7.5 } }).catch(() => undefined)
    const sent = async () =>
      (await server.pool.query<{ state: string }>('select state from device_writes where id = $1', [id])).rows[0]?.state
    await expect.poll(sent, { interval: 5 }).toBe('sent')
    await dying.die()
    // With a process its connections end, and its rights with them.
    await server.pool.query(
      `select pg_terminate_backend(pid) from pg_locks join pg_stat_activity using (pid)
       where locktype = 'advisory' and datname = current_database() and usename = current_user`,
    )
    await running.ph.say('normal')
    await expect.poll(async () => (await ailsa.call('connectDevice', { portId }, { address: 0 })).status).toBe(200)
    expect((await stateOf(portId)).writes.find((w) => w.id === id)?.state).toBe('unknown')
    good(await ailsa.call('commandDevice', { portId }, { do: 'read-again' }))
    expect((await stateOf(portId)).writes.find((w) => w.id === id)).toMatchObject({ state: 'held', to: 7.5 })
  })
})

describe('a serial adapter', () => {
  const plugged = () =>
    Promise.resolve([
      { path: '/dev/ttyUSB0', serialNumber: 'A50285', manufacturer: 'Maker', vendorId: '0403' },
    ] as never)
  const listed = async () => (await listPorts(server.db, [], plugged)).find((p) => p.kind === 'serial')!
  it('speaks HART as it is usual, until somebody says otherwise', async () => {
    expect(await listed()).toMatchObject({ protocol: 'hart', line: { baud: 1200, parity: 'odd' } })
    const { person } = good(await ailsa.raw('GET', '/api/session')).body as { person: Person }
    await setUpPort(server.db, await listed(), { protocol: 'modbus', baud: 19_200, parity: 'even' }, person)
    const set = await listed()
    expect(set).toMatchObject({ protocol: 'modbus', line: { baud: 19_200, parity: 'even' } })
    expect(set.reached).toMatchObject({ kind: 'serial', protocol: 'modbus', baud: 19_200, parity: 'even' })
  })
  it('is set up there, and nothing else is', async () => {
    const setup = { protocol: 'modbus', baud: 9600, parity: 'none' }
    const portId = await portNamed('pressure')
    expect((await ailsa.call('setUpPort', { portId }, setup)).problem.code).toBe('unsupported')
    expect((await magnus.call('setUpPort', { portId }, setup)).status).toBe(403)
    expect((await ailsa.call('setUpPort', { portId: '0'.repeat(16) }, setup)).status).toBe(404)
  })
})

describe('a register', () => {
  const put = (register: object, value: number, cautions: readonly string[] = CAUTIONS) =>
    portNamed('level-modbus').then((portId) =>
      ailsa.call('writeRegister', { portId }, { unit: 1, register, value, cautions }),
    )
  const onRecord = async () => {
    const sql = `select action from audit where action like 'register-%' order by id`
    return (await server.pool.query<{ action: string }>(sql)).rows.map((r) => r.action)
  }
  const holding = { name: 'Damping', table: 'holding', address: 10, type: 'float32', order: 'ABCD' }
  it('is written with its cautions said, and read back', async () => {
    expect((await put(holding, 5, [])).problem.code).toBe('cautions-open')
    expect(good(await put(holding, 5.5)).body).toMatchObject({ value: 5.5, says: 'held, read back' })
    expect(await onRecord()).toEqual(['register-write', 'register-write-ended'])
  })
  it('that can only be read, or lies outside its limits, is refused before anything is sent', async () => {
    for (const [register, value] of [
      [{ ...holding, readOnly: true }, 1],
      [{ ...holding, table: 'input' }, 1],
      [{ ...holding, most: 10 }, 11],
      [{ ...holding, least: 0 }, -1],
      [{ name: 'On', table: 'coil', address: 0, type: 'bit' }, 2],
      [{ ...holding, type: 'int16' }, 70_000],
    ] as const)
      expect((await put(register, value)).problem.code).toBe('value-refused')
    // Nothing was sent, and nothing says that it was.
    expect(await onRecord()).toHaveLength(2)
  })
  it('that the device does not have is refused by it, and shows what it holds', async () => {
    expect(good(await put({ ...holding, address: 900 }, 1)).body).toMatchObject({
      says: 'refused with exception 2',
      value: null,
    })
  })
})

describe('a Modbus line', () => {
  it('is scanned, and its map read', async () => {
    const portId = await portNamed('level-modbus')
    const report = good(await ailsa.call('scanBus', { portId }, { from: 1, to: 2 })).body as {
      lines: { outcome: string }[]
    }
    expect(report.lines[0]!.outcome).toBe('device')
    const map = {
      unit: 1,
      rtu: { baud: 9600, parity: 'none' },
      registers: [
        { name: 'Level', table: 'input', address: 0, type: 'float32', order: 'CDAB', unit: 'm' },
        { name: 'Nothing', table: 'input', address: 900, type: 'int16' },
      ],
    }
    const [level, nothing] = good(await ailsa.call('readRegisters', { portId }, { map })).body as {
      value: number | null
      says: string
      number: number
    }[]
    expect(level).toMatchObject({ number: 30_001, value: expect.closeTo(2.4, 1) as number })
    expect(nothing).toMatchObject({ value: null, says: 'refused with exception 2' })
  })
  it('keeps what was said, bytes and meaning', async () => {
    const portId = await portNamed('pressure')
    const log = good(await ailsa.call('lineLog', { portId })).body as { way: string; hex: string; says: string }[]
    expect(log.some((e) => e.way === 'out' && e.says.startsWith('ask 0, address 0'))).toBe(true)
    expect(log.some((e) => e.way === 'in' && e.says.includes('urv=600'))).toBe(true)
  })
})
