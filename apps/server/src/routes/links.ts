// Live readings, and moving the stand-in's process.
import { Refusal } from '@calm-loop/core/refusal'
import type { Database } from '../db/database.ts'
import { openEventStream, type Mount } from '../http/mount.ts'
import type { Links } from '../link/links.ts'
import type { SampleTokens } from '../link/samples.ts'
import { record } from '../services/audit.ts'

export function mountLinks(mount: Mount, db: Database, links: Links, samples: SampleTokens): void {
  mount('link', async ({ params }) => (await links.of(params.loopId)).description)
  mount('linkStream', async ({ params, query, res }) => {
    const link = await links.of(params.loopId)
    let stop: () => void = () => undefined
    const send = openEventStream(res, () => stop())
    // A link made anew, as after a change of the entries, ends the stream: the page comes again and hears the new one.
    const unhear = link.subscribe(
      (reading) => {
        const at_ms = reading.at_ms ?? Date.now()
        const knots = Object.fromEntries(
          Object.entries(reading.knots).map(([id, value]) => [id, { value, unit: link.units[id] ?? '' }]),
        )
        send('reading', { ...reading, at_ms, token: samples.issue({ loopId: params.loopId, at_ms, knots }) })
      },
      () => void res.end(),
    )
    const untrend = query.trend ? link.trend?.((sample) => send('trend', sample)) : undefined
    stop = () => {
      unhear()
      untrend?.()
    }
  })
  const meterOf = async (loopId: string) => {
    const { meter } = await links.of(loopId)
    if (!meter) throw new Refusal('no-meter', 'This point has no simulated meter, or its entries do not make one yet.')
    return meter
  }
  mount('meterHeld', async ({ params }) => (await meterOf(params.loopId)).held())
  mount('commandMeter', async ({ params, body }) => {
    const meter = await meterOf(params.loopId)
    meter.command(body)
    return meter.held()
  })
  const transmitterOf = async (loopId: string) => {
    const { transmitter } = await links.of(loopId)
    if (!transmitter) throw new Refusal('no-transmitter', 'This point has no simulated transmitter.')
    return transmitter
  }
  mount('transmitter', async ({ params }) => (await transmitterOf(params.loopId)).view())
  mount('commandBench', async ({ params, body, person }) => {
    const transmitter = await transmitterOf(params.loopId)
    await transmitter.bench(body)
    if (body.do === 'practice') await record(db, person.id, 'practice', params.loopId, { case: body.case })
    return transmitter.view()
  })
  mount('revealPractice', async ({ params }) => {
    const { meter, transmitter } = await links.of(params.loopId)
    const own = meter?.reveal()
    if (own && own.case !== '') return own
    if (transmitter) return transmitter.reveal()
    throw new Refusal('no-meter', 'This point has no simulated meter, or its entries do not make one yet.')
  })
  mount('moveProcess', async ({ params, body }) => (await links.of(params.loopId)).move(body))
}
