// Parts of the shelf by themselves: an electrode's history, its calibration at the bench, the one at a point, and the
// gate that tells buffers apart.
import type { ElectrodeView } from '@calm-loop/contract'
import { bufferPh, idealSlope_mV } from '@calm-loop/core/analysis'
import { describe, expect, it } from 'vitest'
import { demoEntries } from '../../../packages/core/src/kinds/demo-entries.fixture.ts'
import RedoxDrawing from '../src/kinds/orp/PointDrawing.vue'
import ElectrodeDrawing from '../src/kinds/ph/PointDrawing.vue'
import ElectrodeShelf from '../src/places/kit/ElectrodeShelf.vue'
import { LOOP_ID } from '../src/stores/server.fixture.ts'
import { disabled, open, parts, press, router, settle, show, SIGNED, textOf } from './panel.ts'
import { until } from './until.ts'

parts()

type Entry = ElectrodeView['log'][number]
let made = 0
const entry = (day: string, body: object): Entry =>
  ({ id: `e${++made}`, by: SIGNED.by, at: `${day}T10:00:00.000Z`, ...body }) as Entry
const entered = (serial: string, more: object = {}) =>
  entry('2024-11-01', { what: 'entered', sort: 'ph', serial, model: 'glass', memory: false, ...more })
const points = (share: number, offset: number) =>
  ['4.00', '7.00'].map((buffer) => {
    const is = bufferPh(buffer, 25).ph
    return { buffer, temp_C: 25, is, mV: share * idealSlope_mV(25) * (is - 7) + offset }
  })
const calibration = (day: string, share: number, offset = 0, more: object = {}) =>
  entry(day, { what: 'calibrated', points: points(share, offset), ...more })
const view = (id: string, ...log: Entry[]): ElectrodeView => ({ id, log })
const GOOD = view('a', entered('G-1'), calibration('2026-10-01', 0.99, 1))
const WORN = view(
  'b',
  entered('G-2'),
  entry('2024-11-02', { what: 'plugged-in', loopId: LOOP_ID, tag: 'AT-1' }),
  ...[0.99, 0.975, 0.96, 0.945].map((s, i) => calibration(`202${5 + (i >> 1)}-0${1 + 6 * (i % 2)}-10`, s, i)),
)
const PAST = view('c', entered('G-3'), calibration('2025-10-01', 0.98, 0, { bestBefore: '2026-01-01' }))
const NEVER = view('d', entered('R-1', { sort: 'orp' }))

/** The shelf with these electrodes on it; what is put on record comes back with its electrode. */
async function shelf(views: readonly ElectrodeView[], chosen = '') {
  const asked = open({
    kind: 'ph',
    entries: demoEntries('ph'),
    answers: {
      'GET /api/electrodes': () => views,
      'GET /api/site-rows': () => [],
      'PUT /api/electrodes/*/log/*': ({ path, body }) => {
        const id = path.split('/')[3]!
        const before = views.find((v) => v.id === id)?.log ?? []
        return { id, log: [...before, entry('2026-11-20', body as object)] }
      },
    },
  })
  const part = show(ElectrodeShelf)
  await router.push('/kit?do=electrodes')
  await settle()
  if (chosen) await part.find(`[data-electrode="${chosen}"]`).trigger('click')
  await until(() => expect(chosen ? part.find('h2').text() : '').toContain(chosen))
  return { part, put: () => asked.filter((a) => a.method === 'PUT').map((a) => a.body) }
}
const field = (part: ReturnType<typeof show>, label: RegExp) => {
  const found = part.findAll('.entry').find((e) => label.test(e.find('label').text()))
  if (!found) throw new Error(`no field ${String(label)}`)
  return found.find('input')
}

describe('the shelf', () => {
  it('shows each electrode with what is left of it, and the rule that it is judged by', async () => {
    const { part } = await shelf([GOOD, WORN, PAST, NEVER], 'G-3')
    expect(part.findAll('.glass').map((g) => g.attributes('data-electrode'))).toEqual(['G-1', 'G-2', 'G-3', 'R-1'])
    expect(textOf(part)).toContain('Past its best: 1 Jan 2026. Not plugged in after its best-before day.')
    expect(part.findAll('.glass.stop')).toHaveLength(2)
  })
  it('foretells the day from the history over the points that it served, with how sure it is', async () => {
    const { part } = await shelf([WORN], 'G-2')
    expect(part.find('[data-test="replacement"]').text()).toMatch(/It will want replacing about\s+\d+ \w+ 202[78]/)
    expect(part.find('[data-test="replacement"]').text()).toContain('95 of 100')
    expect(part.findAll('circle.at-point')).toHaveLength(4)
    expect(textOf(part)).toContain('Served AT-1 from 2 Nov 2024 on.')
    // Plugged in, it is not calibrated at the bench.
    expect(part.find('[data-test="calibrate"]').exists()).toBe(false)
  })
  it('puts a calibration on record once its buffers are known, whichever comes first', async () => {
    const { part, put } = await shelf([GOOD], 'G-1')
    await press(part, 'calibrate')
    const rows = () => part.findAll('[data-row]')
    const type = async (row: number, temp: string, mV: string) => {
      const [t, v] = rows()[row]!.findAll('input')
      await t!.setValue(temp)
      await v!.setValue(mV)
    }
    await type(0, '25', '0.5')
    expect(rows()[0]!.text()).toContain('7.00: pH 7.00 there')
    expect(disabled(part, 'keep-calibration')).toBe(true)
    await type(1, '25', '1')
    await settle()
    expect(textOf(part)).toContain('The same buffer stands there twice.')
    await type(1, '25', '172.6')
    expect(part.find('[data-test="found"]').text()).toContain('97.0 %')
    await part.find('form.calibrate').trigger('submit')
    await settle()
    expect(put()).toMatchObject([
      {
        what: 'calibrated',
        points: [
          { buffer: '7.00', is: 7 },
          { buffer: '4.00', is: 4, mV: 172.6 },
        ],
      },
    ])
    expect(part.find('form.calibrate').exists()).toBe(false)
  })
  it('takes the offset of a redox electrode in its solution', async () => {
    const { part, put } = await shelf([NEVER], 'R-1')
    await press(part, 'calibrate')
    await field(part, /^Its potential/).setValue('220 mV')
    await field(part, /^Temperature/).setValue('25')
    await field(part, /^Electrode gives/).setValue('226')
    expect(part.find('[data-test="found"]').text()).toContain('6.0 mV off: good.')
    await part.find('form.calibrate').trigger('submit')
    await settle()
    expect(put()).toMatchObject([{ what: 'calibrated', points: [{ is: 220, mV: 226 }] }])
  })
  it('is filled with what is new, and what is broken is put out of use with a word', async () => {
    const { part, put } = await shelf([GOOD], 'G-1')
    await press(part, 'Put it out of use')
    const form = part.findAll('form').find((f) => f.text().includes('Why it is put out of use'))!
    expect(form.find('button[type=submit]').attributes('disabled')).toBeDefined()
    await form.find('input').setValue('glass cracked')
    await form.trigger('submit')
    await settle()
    expect(put()).toEqual([{ what: 'retired', words: 'glass cracked' }])
    expect(textOf(part)).toContain('Out of use: glass cracked.')
    await press(part, 'enter-electrode')
    await field(part, /^Serial number/).setValue('G-9')
    await field(part, /^What it is/).setValue('glass')
    await part.find('form[aria-label="Enter an electrode"]').trigger('submit')
    await settle()
    expect(put().at(-1)).toMatchObject({ what: 'entered', sort: 'ph', serial: 'G-9', memory: true })
  })
  it('that is empty says what it would be for', async () => {
    const { part } = await shelf([])
    expect(textOf(part)).toContain('The shelf is empty.')
  })
})

describe('the electrode at a point', () => {
  async function at(views: readonly ElectrodeView[], kind: 'ph' | 'orp' = 'ph') {
    const asked = open({
      kind,
      entries: demoEntries(kind),
      answers: {
        'GET /api/electrodes': () => views,
        'PUT /api/electrodes/*/log/*': ({ path }) => views.find((v) => v.id === path.split('/')[3]),
      },
    })
    const part = show(kind === 'ph' ? ElectrodeDrawing : RedoxDrawing)
    await settle()
    return { part, put: () => asked.filter((a) => a.method === 'PUT').map((a) => a.body) }
  }
  it('is named with what it holds; read up again, or taken out with a word', async () => {
    const { part, put } = await at([GOOD, WORN])
    expect(textOf(part)).toContain('Plugged in: G-2')
    expect(part.findAll('circle.point')).toHaveLength(2)
    await press(part, 'read-up')
    expect(put()).toEqual([{ what: 'plugged-in', loopId: LOOP_ID }])
    expect(disabled(part, 'take-out')).toBe(true)
    await field(part, /^Why it is taken out/).setValue('exchanged')
    await part.find('form.do').trigger('submit')
    await settle()
    expect(put().at(-1)).toEqual({ what: 'taken-out', words: 'exchanged' })
  })
  it('comes from the shelf: those that fit, and none that is stopped', async () => {
    const { part, put } = await at([GOOD, PAST, NEVER])
    expect(part.findAll('[data-plug]').map((b) => b.attributes('data-plug'))).toEqual(['G-1', 'G-3'])
    expect(part.find('[data-plug="G-3"]').attributes('disabled')).toBeDefined()
    await part.find('[data-plug="G-1"]').trigger('click')
    await settle()
    expect(put()).toEqual([{ what: 'plugged-in', loopId: LOOP_ID }])
  })
  it('of a redox point stands under its two rulers', async () => {
    const { part } = await at([NEVER], 'orp')
    const said = part.find('svg').attributes('aria-label')!
    expect(said).toContain('210 mV apart')
    expect(textOf(part)).toContain('hexacyanoferrate, 25 °C: 430 mV')
    expect(part.find('[data-plug="R-1"]').attributes('disabled')).toBeDefined()
  })
})
