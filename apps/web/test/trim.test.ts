// Trim as pages: as found and its diagnosis, guided work to its end, as left beside as found, the bench.
import { expect, it, vi } from 'vitest'
import { until } from './until.ts'
import {
  choose,
  click,
  connectBench,
  fill,
  gone,
  openLoop,
  pagesFor,
  press,
  pressAt,
  read,
  see,
  type,
  work,
} from './visit.ts'

pagesFor('ailsa')
const gate = (id: string) => `[data-gate="${id}"]`
const witness = (id: string) => `[data-witness="${id}"] input`
const take = async (values: Record<string, string>) => {
  for (const [id, text] of Object.entries(values)) await type(witness(id), text)
  await pressAt('take-point')
}
/** Takes a point that is taken: the form is empty again. */
const taken = async (values: Record<string, string>) => {
  await take(values)
  await until(() => expect(document.querySelector<HTMLInputElement>(witness('applied'))!.value).toBe(''))
}
const points = (count: number) =>
  until(() => expect(document.querySelectorAll('[data-points="as-found"] tbody tr').length).toBe(count))
const verdict = (is: string) =>
  until(() => expect(document.querySelector('[data-verdict]')?.getAttribute('data-verdict')).toBe(is))

it(
  'as found is judged: refused in words, diagnosed, left alone within the limit, sent to service when no trim ' +
    'can mend it',
  async () => {
    await openLoop('PDT-118', '/trim')
    await see('[data-stage-errors="sensor"]')
    await pressAt('new-set')
    await take({ applied: '1300 mbar', digital: '7,2 mbar' })
    await see('form.take [role="alert"]', 'outside the sensor’s limits')
    expect(document.querySelector<HTMLInputElement>(witness('digital'))!.value).toBe('7,2 mbar')
    await type(witness('current'), '1.048 V')
    await see('[data-witness="current"]', '4.192 mA')
    await taken({ applied: '0 mbar' })
    await points(1)
    await see('[data-test="no-diagnosis"]', 'at least two points')
    await taken({ applied: '600 mbar', digital: '607.2 mbar' })
    await points(2)
    await verdict('adjust')
    await see('[data-action="zero-trim"]', 'Afterwards the loop would read within')
    await see('[data-stage-errors="sensor"]', 'the thread parts here')
    await press(/parts at/, '[data-points="as-found"] tbody tr')
    await read('As found,')
    await see('section.thread', '+1.20 % of span')
    await pressAt('new-set')
    for (const v of [0, 600]) {
      await taken({ applied: `${v} mbar`, digital: `${v + 1} mbar` })
    }
    await verdict('leave')
    await see('[data-verdict]', 'Leave it alone')
    for (const [applied, digital] of [
      ['300', '310'],
      ['150', '155'],
    ]) {
      await taken({ applied: `${applied} mbar`, digital: `${digital} mbar` })
    }
    await verdict('service')
    await see('[data-verdict]', 'No trim can mend this')
  },
)

it(
  'a zero trim is led gate by gate; the manifold refuses what would hurt; ' + 'cancelled, it is put back in order',
  async () => {
    await openLoop('PDT-118', '/trim')
    await connectBench()
    await taken({ applied: '0 mbar', digital: '7.2 mbar' })
    await work('Guided work')
    await until(() => document.querySelector<HTMLElement>('[data-procedure="zero-trim"]')!.click())
    await pressAt('begin-run')
    await see(gate('told'))
    await fill(/^Who was told/, 'Rolf, channel 3')
    await pressAt('pass-gate')
    await see(gate('manual'))
    await pressAt('pass-gate')
    await see(gate('trips'))
    await pressAt('pass-gate')
    await see('[data-test="refused"]', 'Permit number')
    await fill(/Permit/, 'PTW-204')
    await pressAt('pass-gate')
    await see(gate('as-found'))
    await pressAt('pass-gate')
    await see(gate('warning'), 'The site’s procedure, local codes and licensed practice come first')
    await pressAt('pass-gate')
    await see(gate('out-1-low'))
    const valve = async (id: string, to: string) => {
      const wanted = () => document.querySelector(`.valve.wanted[data-valve="${id}"]`)
      await see(`.valve.wanted[data-valve="${id}"]`)
      // A valve is not heard while the answer to the one before is on its way.
      await until(async () => {
        if (wanted()) await click(wanted()!)
        await vi.waitFor(() => expect(wanted(), `${id} to ${to}`).toBeNull(), { timeout: 500 })
      })
    }
    await until(async () => {
      await click('[data-valve="equalize"]')
      // Clicked again before the answer is there, the page would take the words away again.
      const refused = () => document.querySelector('[data-test="refused"]')?.textContent ?? ''
      await vi.waitFor(() => expect(refused()).toContain('straight through the manifold'), { timeout: 2000 })
    })
    await valve('low', 'shut')
    await valve('equalize', 'open')
    await valve('high', 'shut')
    await see(gate('off-process'))
    await pressAt('pass-gate')
    await see(gate('stable'))

    await pressAt('cancel')
    await see('.ask', 'low-side block valve shut')
    await fill(/^Why/, 'not today')
    await pressAt('cancel-now')
    await see('[data-undo="input"]')
    const byHand = async (text: string) => {
      await type('.by-hand input', text)
      await pressAt('undone')
    }
    await byHand('nothing was connected')
    await gone('[data-undo="input"]')
    await valve('high', 'open')
    await valve('equalize', 'shut')
    await valve('low', 'open')
    for (const next of ['told-back', 'bypass', 'automatic']) {
      await see(`[data-undo="${next}"]`)
      await byHand('Rolf told')
      await gone(`[data-undo="${next}"]`)
    }
    await until(() =>
      expect(document.querySelector('[data-run="zero-trim"]')!.getAttribute('data-status')).toBe('ended'),
    )
    await work('As left')
    await see('[data-test="changes"]', 'Zero trim cancelled: not today')
  },
)

it('the bench: practice cases, what it hides, a device that is protected', async () => {
  await openLoop('TT-405', '/trim?do=bench')
  await read('The bench is not connected')
  await connectBench()
  await pressAt('reveal')
  await see('[data-test="revealed"]', '0.09 mA too much')
  await choose(await see('.entry', 'Practice'), 'case 1')
  await see('.entry', 'case 1')
  await pressAt('protect')
  await see('[data-test="protect"]', 'to off')
  await pressAt('protect')
  await see('[data-test="protect"]', 'to on')
})
