// Live readings, what a device holds, and what is done at the bench of a simulated one.
import type { TransmitterView } from '@calm-loop/contract'
import type { Practice } from '@calm-loop/core/device'
import { Refusal } from '@calm-loop/core/refusal'
import type { Database } from '../db/database.ts'
import { openEventStream, type Mount } from '../http/mount.ts'
import type { Device, Links } from '../link/links.ts'
import { atTheDevice } from '../link/relay.ts'
import type { SampleTokens } from '../link/samples.ts'
import { record } from '../services/audit.ts'
import type { Ports } from '../ports/ports.ts'
import { connectBench } from '../services/bench.ts'
import { refuseMeterBeforeGate } from '../services/guards.ts'
import type { Recorders } from '../services/recorders.ts'
import { tieDevice } from '../services/loop-devices.ts'

const noMeter = () => new Refusal('no-meter', 'This point has no simulated meter, or its entries do not make one yet.')

async function meterHeld({ driver, bench }: Device) {
  const { meter } = (await driver.read()) ?? {}
  if (!meter) throw noMeter()
  return { held: { ...meter }, cases: [...(bench?.practice().meter?.cases ?? [])] }
}

async function transmitterView({ driver, bench }: Device): Promise<TransmitterView> {
  const { held, log = [] } = (await driver.read()) ?? {}
  if (!held) throw new Refusal('no-transmitter', 'This point has no simulated transmitter.')
  const practice = bench?.practice().transmitter
  return { held, log: [...log], cases: [...(practice?.cases ?? [])], practice: practice?.case ?? '' }
}

const revealed = ({ case: id, reveals }: Practice) => ({ case: id, reveals })

export interface LinkParts {
  readonly db: Database
  readonly links: Links
  readonly ports: Ports
  readonly samples: SampleTokens
  readonly recorders: Pick<Recorders, 'settle'>
}

export function mountLinks(mount: Mount, { db, links, ports, samples, recorders }: LinkParts): void {
  const there = atTheDevice(links)
  mount(
    'connectBench',
    async ({ params, body, person }) => {
      // What was seen of it until now is of its practice.
      if (!body.connected) await recorders.settle(params.loopId)
      const bench = await connectBench(db, params.loopId, body.connected, person)
      links.end(params.loopId)
      return { bench }
    },
    there,
  )
  mount('tieDevice', async ({ params, body, person }) => {
    const device = await tieDevice({ db, ports }, params.loopId, body.device, person)
    links.end(params.loopId)
    return { device }
  })
  mount('link', async ({ params }) => (await links.of(params.loopId)).driver.description, there)
  mount(
    'linkStream',
    async ({ params, query, res }) => {
      const { driver, simulated } = await links.of(params.loopId)
      let stop: () => void = () => undefined
      const send = openEventStream(res, () => stop())
      stop = driver.subscribe({
        reading(reading) {
          const at_ms = reading.at_ms ?? Date.now()
          const knots = Object.fromEntries(
            Object.entries(reading.knots).map(([id, value]) => [id, { value, unit: driver.units[id] ?? '' }]),
          )
          if (reading.reference !== undefined)
            knots['applied'] = { value: reading.reference, unit: driver.description.unit }
          send('reading', {
            ...reading,
            at_ms,
            token: samples.issue({ loopId: params.loopId, at_ms, simulated, knots }),
          })
        },
        ...(query.trend ? { trend: (sample) => send('trend', sample) } : {}),
        // A link made anew, as after a change of the entries, ends the stream: the page comes again and hears the new
        // one.
        closed: () => void res.end(),
      })
    },
    there,
  )
  mount('meterHeld', async ({ params }) => meterHeld(await links.of(params.loopId)), there)
  mount(
    'commandMeter',
    async ({ params, body }) => {
      const device = await links.of(params.loopId)
      await refuseMeterBeforeGate(db, params.loopId, body, async () => (await device.driver.read())?.meter)
      const acts = body.do === 'practice' || body.do === 'mount' || body.do === 'gas' || body.do === 'process'
      if (acts) await device.benched().act({ do: 'meter', act: body })
      else await device.driver.command(body)
      return meterHeld(device)
    },
    there,
  )
  mount('transmitter', async ({ params }) => transmitterView(await links.of(params.loopId)), there)
  mount(
    'commandBench',
    async ({ params, body, person }) => {
      const device = await links.of(params.loopId)
      const { do: what } = body
      await device.benched().act(what === 'practice' ? { do: 'transmitter-case', case: body.case } : body)
      if (what === 'practice')
        await record({
          tx: db,
          personId: person.id,
          action: 'practice',
          loopId: params.loopId,
          details: { case: body.case },
        })
      return transmitterView(device)
    },
    there,
  )
  mount(
    'revealPractice',
    async ({ params }) => {
      const { meter, transmitter } = (await links.of(params.loopId)).benched().practice()
      if (meter && meter.case !== '') return revealed(meter)
      if (transmitter) return revealed(transmitter)
      throw noMeter()
    },
    there,
  )
  mount(
    'moveProcess',
    async ({ params, body }) => {
      const bench = (await links.of(params.loopId)).benched()
      await bench.act('wanted' in body ? { do: 'move', wanted: body.wanted } : { do: 'run', running: body.running })
    },
    there,
  )
}
