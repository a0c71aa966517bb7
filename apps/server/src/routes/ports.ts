// Finding devices, reading and writing them; their descriptions and files; Modbus lines.
import type { BusLine, LinkState } from '@calm-loop/contract'
import { publishedSchema } from '@calm-loop/core/description'
import { circuitWords } from '@calm-loop/core/loop'
import { stringify } from 'csv-stringify/sync'
import type { Database } from '../db/database.ts'
import { gateways } from '../db/schema.ts'
import { HttpProblem } from '../http/problems.ts'
import { openEventStream, type Mount } from '../http/mount.ts'
import { descriptionHeads, filesOf, importDescription, saveFile } from '../ports/device-store.ts'
import { diagnosed, openModbusLine, type ModbusLine } from '../ports/modbus-line.ts'
import type { Ports } from '../ports/ports.ts'
import { BUS_WORDS, readOne, registerWrite, writeOne } from '../ports/registers.ts'
import { refuseUncautioned } from '../ports/writer.ts'
import { gatewayId, setUpPort, type KnownPort } from '../ports/registry.ts'
import { record } from '../services/audit.ts'
import { readFolder } from '../services/folder.ts'
import { studyOf } from '../services/studies.ts'

const listed = ({ reached: _, ...port }: KnownPort) => port

/** Says a work that was begun goes on; what fails in it is told by the state, not by an answer that nobody awaits. */
async function begun(work: Promise<void>, state: () => LinkState): Promise<LinkState> {
  // Refused at once, or under way: a refusal comes within the turn in which the line is opened.
  await Promise.race([work, new Promise((resolve) => setTimeout(resolve, 400))])
  work.catch(() => undefined)
  return state()
}

async function onBus<T>(ports: Ports, id: string, work: (line: ModbusLine, port: KnownPort) => Promise<T>): Promise<T> {
  return ports.holding(id, async (port) => {
    const line = await openModbusLine(port.reached, ports.logOf(id), () => undefined).catch((error: Error) => {
      throw new HttpProblem(503, 'port-lost', `${port.label} cannot be opened: ${error.message}.`)
    })
    try {
      return await work(line, port)
    } finally {
      line.close()
    }
  })
}

/** What the circuit of a loop says where nothing answers. @throws HttpProblem 404 */
async function circuitOf(db: Database, loopId: string): Promise<string[]> {
  const { loop, versions } = await readFolder(db, loopId)
  return circuitWords(studyOf(loop.kind, versions.at(-1)))
}

export function mountPorts(mount: Mount, db: Database, ports: Ports): void {
  mount('ports', async () => (await ports.list()).map(listed))
  mount('addGateway', async ({ body, person }) => {
    const standIn = await ports.standInAt(body.host, body.port)
    if (standIn)
      throw new HttpProblem(
        422,
        'simulated',
        `There the stand-in “${standIn}” answers. As a gateway its figures would pass for real: use it as listed.`,
      )
    const row = { ...body, id: gatewayId(body.host, body.port) }
    await db
      .insert(gateways)
      .values(row)
      .onConflictDoUpdate({ target: gateways.id, set: { label: body.label, protocol: body.protocol } })
    await record({ tx: db, personId: person.id, action: 'gateway-saved', loopId: null, details: { ...body } })
    return (await ports.list()).map(listed)
  })
  mount('setUpPort', async ({ params, body, person }) => {
    const port = await ports.port(params.portId)
    ports.letGo(port.id, body.protocol)
    await setUpPort(db, port, body, person)
    await record({
      tx: db,
      personId: person.id,
      action: 'port-set-up',
      loopId: null,
      details: { port: port.label, ...body },
    })
    return (await ports.list()).map(listed)
  })
  mount('linkState', async ({ params }) => (await ports.session(params.portId)).state())
  mount('linkStates', async ({ params, res }) => {
    const session = await ports.session(params.portId)
    let stop: () => void = () => undefined
    const send = openEventStream(res, () => stop())
    const tell = () => void send('state', session.state())
    stop = session.subscribe(tell)
    tell()
  })
  mount('probePort', async ({ params, body }) => {
    const session = await ports.session(params.portId)
    const circuit = body.loopId ? await circuitOf(db, body.loopId) : []
    return begun(session.probe(body, circuit), session.state)
  })
  mount('connectDevice', async ({ params, body }) => {
    const session = await ports.session(params.portId)
    await session.connect(body.address)
    return session.state()
  })
  mount('stopLink', async ({ params }) => {
    const session = await ports.session(params.portId)
    session.stop()
    return session.state()
  })
  mount('leaveDevice', async ({ params }) => {
    const session = await ports.session(params.portId)
    session.leave()
    return session.state()
  })
  mount('uploadDevice', async ({ params, body }) => {
    const session = await ports.session(params.portId)
    return begun(session.upload(body.anew), session.state)
  })
  mount('deviceParameters', async ({ params }) => {
    const { groups, parameters } = (await ports.session(params.portId)).description()
    return { groups, parameters }
  })
  mount('writeValues', async ({ params, body, person }) => (await ports.session(params.portId)).write(body, person))
  mount('commandDevice', async ({ params, body, person }) => {
    const session = await ports.session(params.portId)
    await session.command(body)
    const state = session.state()
    if (body.do !== 'read-again')
      await record({
        tx: db,
        personId: person.id,
        action: 'device-told',
        loopId: null,
        details: { serial: state.device?.serial ?? '', ...body },
      })
    return state
  })
  mount('deviceHistory', async ({ params }) => (await ports.session(params.portId)).history())
  mount('lookAtHistory', async ({ params }) => {
    const session = await ports.session(params.portId)
    await session.lookAtHistory()
    return session.history()
  })
  mount('downloadHistory', async ({ params, body }) => {
    const session = await ports.session(params.portId)
    return begun(session.downloadHistory(body), session.state)
  })
  mount('historyCsv', async ({ params, res }) => {
    const session = await ports.session(params.portId)
    const { rows, events, unit } = session.history()
    const time = (t_s: number) => new Date(t_s * 1000).toISOString()
    const all = [
      ...rows.map(([t_s, value]) => [t_s, 'value', value === null ? '' : String(value), unit, '']),
      ...events.map((e) => [e.t_s, e.kind, '', '', e.says]),
    ].sort((a, b) => Number(a[0]) - Number(b[0]))
    res
      .type('text/csv; charset=utf-8')
      .attachment(`${session.state().device?.tag || 'device'} past.csv`)
      .send(
        stringify(
          [['time', 'what', 'value', 'unit', 'words'], ...all.map(([t_s, ...rest]) => [time(Number(t_s)), ...rest])],
          {
            record_delimiter: 'windows',
            escape_formulas: true,
          },
        ),
      )
  })
  mount('lineLog', async ({ params, query }) => {
    await ports.port(params.portId)
    return ports.logOf(params.portId).after(query.after)
  })
  mount('descriptions', () => descriptionHeads(db))
  mount('importDescription', async ({ body, person }) => {
    await importDescription(db, body, person)
    return descriptionHeads(db)
  })
  mount('descriptionSchema', async ({ res }) => {
    res.type('application/json').send(JSON.stringify(publishedSchema(), null, 2))
  })
  mount('deviceFiles', ({ query }) => filesOf(db, query.serial))
  mount('saveDeviceFile', async ({ params, body, person }) => {
    const session = await ports.session(params.portId)
    const { device, values } = session.state()
    if (!device) throw new HttpProblem(409, 'no-device', 'No device is connected here. Find it first.')
    const { serial, expandedType, tag, description } = device
    const constants = session.description().parameters.filter((p) => p.characterization && p.id in values)
    return saveFile(
      db,
      {
        format: 'calm-loop/device-file/1',
        id: body.id,
        serial,
        expandedType,
        tag: typeof values['tag'] === 'string' ? values['tag'] : tag,
        description: { id: description.id, version: description.version },
        at: new Date().toISOString(),
        by: person.name,
        note: body.note,
        loopId: body.loopId,
        values,
        characterization: constants.map((p) => p.id),
      },
      person,
    )
  })
  mount('scanBus', ({ params, body, signal }) =>
    onBus(ports, params.portId, async (line, port) => {
      const lines: BusLine[] = []
      for (let unitId = body.from; unitId <= body.to && !signal.aborted; unitId++) {
        const got = await line.ask({ unitId, function: 3, start: 0, count: 1 }, 1)
        lines.push({ unitId, outcome: got.outcome, took_ms: Math.round(got.took_ms), says: BUS_WORDS[got.outcome] })
      }
      return { lines, diagnosis: diagnosed(lines, port.reached.kind === 'serial') }
    }),
  )
  mount('writeRegister', async ({ params, body, person }) => {
    refuseUncautioned(body.cautions)
    const request = registerWrite(body)
    const { unit, register, value } = body
    const note = (action: string, more: object) => {
      const details = { port: params.portId, unit, register: register.name, value, ...more }
      return record({ tx: db, personId: person.id, action, loopId: null, details })
    }
    return onBus(ports, params.portId, async (line) => {
      // On record before it goes out, and what came of it after.
      await note('register-write', {})
      const held = await writeOne(line, body, request)
      await note('register-write-ended', { says: held.says, held: held.value })
      return held
    })
  })
  mount('readRegisters', ({ params, body, signal }) =>
    onBus(ports, params.portId, async (line) => {
      const read = []
      for (const register of body.map.registers) {
        if (signal.aborted) break
        read.push(await readOne(line, body.map.unit, register))
      }
      return read
    }),
  )
}
