// Live readings, and moving the stand-in's process.
import { Refusal } from '@calm-loop/core/refusal'
import { openEventStream, type Mount } from '../http/mount.ts'
import type { Links } from '../link/links.ts'

export function mountLinks(mount: Mount, links: Links): void {
  mount('link', async ({ params }) => (await links.of(params.loopId)).description)
  mount('linkStream', async ({ params, res }) => {
    const link = await links.of(params.loopId)
    let stop: () => void = () => undefined
    const send = openEventStream(res, () => stop())
    // A link made anew, as after a change of the entries, ends the stream: the page comes again and hears the new one.
    stop = link.subscribe(
      (reading) => send('reading', reading),
      () => void res.end(),
    )
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
  mount('revealPractice', async ({ params }) => (await meterOf(params.loopId)).reveal())
  mount('moveProcess', async ({ params, body }) => (await links.of(params.loopId)).move(body))
}
