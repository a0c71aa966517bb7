import { study } from '@calm-loop/core/loop'
import { LiveReading, workOf, type FolderView, type LoopPage, type SiteRow } from '@calm-loop/contract'
import { sheetState } from '@calm-loop/core/sheet'
import { currentKindOf } from '@calm-loop/core/kinds'
import pg from 'pg'
import { v7 as uuid } from 'uuid'
import { describe, expect, it } from 'vitest'
import { applicationConnection } from '../src/db/database.ts'
import { listenTo, served } from './harness.ts'

const { server, ailsa, magnus } = await served()
const folder = async (loopId: string) => (await ailsa.call('folder', { loopId })).body as FolderView
const idOf = async (tag: string) => ((await ailsa.raw('GET', `/api/loops?q=${tag}`)).body as LoopPage).loops[0]!.id
const add = (loopId: string, body: object, entryId = uuid()) => ailsa.call('addWork', { loopId, entryId }, body)

describe('a run sheet', () => {
  const step = (run: string, id: string, more: object = {}) => ({
    what: 'step',
    sheet: 'zero',
    run,
    step: id,
    title: id,
    value: null,
    words: '',
    ...more,
  })
  const kgph = (v: number) => ({ typed: `${v} mbar`, value: v, unit: 'mbar' })
  it('goes step by step, in order, with what each step asks for, and is read by whoever opens it', async () => {
    const loopId = await idOf('FT-402')
    const run = uuid()
    expect((await add(loopId, step(run, 'low'))).problem.code).toBe('step-out-of-order')
    expect((await add(loopId, step(run, 'told'))).problem.code).toBe('words-missing')
    expect((await add(loopId, step(run, 'nothing'))).problem.code).toBe('no-such-step')
    expect((await add(loopId, step(run, 'told', { words: 'Bree' }))).status).toBe(200)
    expect((await add(loopId, step(run, 'told', { words: 'Bree' }))).problem.code).toBe('step-out-of-order')
    expect((await add(loopId, step(run, 'low'))).status).toBe(200)
    expect((await add(loopId, step(run, 'equal'))).status).toBe(200)
    expect((await add(loopId, step(run, 'found'))).problem.code).toBe('value-missing')
    const lie = { typed: '3 mbar', value: 4, unit: 'mbar' }
    expect((await add(loopId, step(run, 'found', { value: lie }))).problem.code).toBe('entry-mismatch')
    const metres = { typed: '3 m', value: 3, unit: 'm' }
    expect((await add(loopId, step(run, 'found', { value: metres }))).problem.code).toBe('incommensurable')
    expect((await add(loopId, step(run, 'found', { value: kgph(3) }))).status).toBe(200)
    // Somebody else cannot begin a second run beside it in the middle.
    expect((await add(loopId, step(uuid(), 'low'))).problem.code).toBe('step-out-of-order')
    const view = await folder(loopId)
    const sheet = study(currentKindOf('orifice-dp'), view.versions.at(-1)!.entries).sheets!().find(
      (s) => s.id === 'zero',
    )!
    expect(sheetState(sheet, workOf(view.workLog, 'step'))).toMatchObject({
      run,
      finished: false,
      next: { id: 'left' },
    })
  })
  it('takes a step once, however often its answer was lost', async () => {
    const loopId = await idOf('FT-101')
    const [run, entryId] = [uuid(), uuid()]
    const first = { ...step(run, 'permit', { words: 'Bree' }), sheet: 'mount' }
    const twice = [await add(loopId, first, entryId), await add(loopId, first, entryId)]
    expect(twice.map((a) => a.status)).toEqual([200, 200])
    expect(twice[1]!.body).toEqual(twice[0]!.body)
    expect((await add(loopId, { ...first, words: 'Else' }, entryId)).problem.code).toBe('id-reused')
    expect(workOf((await folder(loopId)).workLog, 'step').filter((e) => e.run === run)).toHaveLength(1)
  })
  it('that waited out of coverage keeps when it was done beside when it came, once', async () => {
    const [loopId, run, entryId] = [await idOf('FT-330'), uuid(), uuid()]
    const body = JSON.stringify({ ...step(run, 'permit', { words: 'PTW-1' }), sheet: 'mount' })
    const send = (id: string, waited: string) =>
      ailsa.raw('PUT', `/api/loops/${loopId}/work/${id}`, body, {
        'content-type': 'application/json',
        'x-waited-ms': waited,
      })
    const first = await send(entryId, String(3 * 3_600_000))
    expect(first.status).toBe(200)
    const { at, doneAt } = first.body as { at: string; doneAt: string }
    expect(Math.abs(Date.parse(at) - Date.parse(doneAt) - 3 * 3_600_000)).toBeLessThan(5000)
    expect((await send(entryId, '7200000')).body).toEqual(first.body)
    // It was no practice: while the bench is connected it does not become one.
    await ailsa.connectBench(loopId)
    expect((await send(uuid(), '7200000')).problem.code).toBe('bench-connected')
    expect((await ailsa.call('connectBench', { loopId }, { connected: false })).status).toBe(200)
  })
  it.each(['200', '-4', 'yesterday', '1e99'])('that says it waited %s ms has one time', async (waited) => {
    const [loopId, run] = [await idOf('FT-330'), uuid()]
    const body = JSON.stringify({ ...step(run, 'permit', { words: 'PTW-1' }), sheet: 'mount' })
    const answer = await ailsa.raw('PUT', `/api/loops/${loopId}/work/${uuid()}`, body, {
      'content-type': 'application/json',
      'x-waited-ms': waited,
    })
    expect([answer.status, answer.body]).toEqual([200, expect.not.objectContaining({ doneAt: expect.anything() })])
  })
  it('is for technicians, and only where there is such a sheet', async () => {
    const loopId = await idOf('FT-101')
    expect(
      (await magnus.call('addWork', { loopId, entryId: uuid() }, step(uuid(), 'told', { words: 'x' }))).status,
    ).toBe(403)
    const other = await idOf('ZS-501')
    expect((await add(other, step(uuid(), 'told', { words: 'x' }))).problem.code).toBe('not-a-current')
  })
})

describe('a figure in a step', () => {
  const mm = (value: number) => ({ typed: `${value} mm`, value, unit: 'mm' })
  it('is held against its plan: kept with a word where it is doubtful, refused where it is far off', async () => {
    const loopId = await idOf('FT-101')
    const run = uuid()
    const step = (id: string, value: object | null, words = '') =>
      add(loopId, { what: 'step', sheet: 'mount', run, step: id, title: id, value, words })
    expect((await step('permit', null, 'PTW-9')).status).toBe(200)
    // 7.4 mm entered.
    expect((await step('gauge', mm(6.4))).problem).toMatchObject({
      code: 'step-doubtful',
      detail: expect.stringContaining('Wall entered 7.4 mm; 6.4 mm typed.'),
    })
    expect((await step('gauge', mm(2.1), 'sure')).problem.code).toBe('step-off-plan')
    expect((await step('gauge', mm(6.4), 'Worn; gauged at three places.')).status).toBe(200)
    for (const id of ['prepare', 'couplant']) expect((await step(id, null)).status).toBe(200)
    expect((await step('spacing', mm(60))).problem.code).toBe('step-off-plan')
  })
  it('of a gas lies above its floor, and a stem at its centre line', async () => {
    const put = async (tag: string, sheet: string, steps: readonly [string, object | null, string][]) => {
      const [loopId, run] = [await idOf(tag), uuid()]
      const codes: string[] = []
      for (const [id, value, words] of steps) {
        const answer = await add(loopId, { what: 'step', sheet, run, step: id, title: id, value, words })
        codes.push(answer.status === 200 ? 'kept' : answer.problem.code)
      }
      return codes
    }
    const bar = (value: number) => ({ typed: `${value} bar`, value, unit: 'bar' })
    expect(
      await put('FT-330', 'mount', [
        ['permit', null, 'PTW-9'],
        ['gauge', mm(7.11), ''],
        ['prepare', null, ''],
        ['floor', bar(3), 'It rises later'],
        ['floor', bar(18), ''],
      ]),
    ).toEqual(['kept', 'kept', 'kept', 'step-off-plan', 'kept'])
    const before = ['mark', 'rods', 'seat', 'open'].map((id): [string, null, string] => [id, null, ''])
    expect(
      (
        await put('FT-310', 'insert', [
          ['told', null, 'Bree'],
          ...before,
          ['in', mm(300), 'Tight there'],
          ['in', mm(397), ''],
          ['in', mm(403), ''],
        ])
      ).slice(5),
    ).toEqual(['step-off-plan', 'step-doubtful', 'kept'])
  })
})

describe('the range that a device shows', () => {
  const range = (lrv: string, urv: string) => {
    const end = (typed: string) => ({ typed, value: Number.parseFloat(typed), unit: typed.split(' ')[1]! })
    return { what: 'device-range', lrv: end(lrv), urv: end(urv) }
  }
  it('is typed where there is no link, in any unit of its own, and has a span', async () => {
    const loopId = await idOf('PDT-118')
    expect((await add(loopId, range('0 mbar', '250 mbar'))).status).toBe(200)
    expect((await add(loopId, range('0 Pa', '25 kPa'))).status).toBe(200)
    expect((await add(loopId, range('25 mbar', '2.5 kPa'))).problem.code).toBe('zero-span')
    expect((await add(loopId, range('0 mm', '250 mm'))).problem.code).toBe('incommensurable')
    const lie = { ...range('0 mbar', '250 mbar'), urv: { typed: '250 mbar', value: 200, unit: 'mbar' } }
    expect((await add(loopId, lie)).problem.code).toBe('entry-mismatch')
    const bundle = (await ailsa.call('bundle', { loopId })).text
    expect(bundle).toContain('"device-range"')
  })
})

describe('what is sent to the log of work', () => {
  it.each([
    // Only the server logs a survey.
    [{ what: 'survey', interval_s: 1, unit: 'm3/h', note: '' }],
    [{ what: 'survey-rows', survey: uuid(), rows: [[1, 2, 3, 4, 5]] }],
    [{ what: 'survey-end', survey: uuid(), total: 1, rows: 1 }],
    [{ what: 'zero', unit: 'm', before: 1, after: 0, spread: 0, limit: null, note: '' }],
    [{ what: 'sound-speed', expected_mps: -1, measured_mps: 1, grade: 'good', causes: [], note: '' }],
    [{ what: 'zork' }],
  ])('refuses %j', async (body) => {
    expect((await add(await idOf('FT-410'), body)).status).toBe(400)
  })
  it('stays as it was: the application may neither change nor delete what was logged', async () => {
    const pool = new pg.Pool(applicationConnection(server.applicationUrl))
    for (const text of ["update work_log set what = 'zero'", 'delete from work_log', 'delete from site_rows'])
      await expect(pool.query(text)).rejects.toThrow(/permission denied/)
    await pool.end()
  })
})

describe('the set-up sheet', () => {
  it.each(['FT-101', 'FT-210', 'FT-310', 'FT-330', 'FT-402'])('%s prints', async (tag) => {
    const pdf = await ailsa.call('setupPdf', { loopId: await idOf(tag) })
    expect([pdf.status, pdf.text.slice(0, 5)]).toEqual([200, '%PDF-'])
  })
  it('is not there for a kind that has none', async () => {
    expect((await ailsa.call('setupPdf', { loopId: await idOf('LT-112') })).problem.code).toBe('no-setup-sheet')
  })
})

describe('the site’s own rows', () => {
  it('are kept once, for everyone, and only by technicians', async () => {
    const row = {
      table: 'liquid',
      name: 'alginate liquor 3 %',
      fills: { liquid: 'own', ownSpeed: '1525 m/s', ownDensity: '1058 kg/m3', ownViscosity: '38 mPa.s' },
      source: 'laboratory, 3 Mar 2026',
    }
    const rowId = uuid()
    for (const _ of [1, 2]) expect((await ailsa.call('addSiteRow', { rowId }, row)).status).toBe(200)
    expect((await ailsa.call('addSiteRow', { rowId }, { ...row, name: 'else' })).problem.code).toBe('id-reused')
    expect((await ailsa.call('addSiteRow', { rowId: uuid() }, { ...row, source: ' ' })).status).toBe(400)
    expect((await magnus.call('addSiteRow', { rowId: uuid() }, row)).status).toBe(403)
    const rows = (await magnus.call('siteRows', {})).body as SiteRow[]
    expect(rows.filter((r) => r.id === rowId)).toMatchObject([{ ...row, by: { name: 'Ailsa Fenn' } }])
  })
})

describe('the meter behind the link', () => {
  it('holds what was entered, takes commands, hides its practice case until asked, and shows itself live', async () => {
    const loopId = await idOf('FT-210')
    await ailsa.connectBench(loopId)
    const held = () => ailsa.call('meterHeld', { loopId })
    expect(((await held()).body as { held: Record<string, string> }).held['flowCal']).toBe('72.3841')
    const lost = await ailsa.call('commandMeter', { loopId }, { do: 'practice', case: 'C' })
    expect((lost.body as { held: Record<string, string> }).held['flowCal']).toBeUndefined()
    const write = () => ailsa.call('commandMeter', { loopId }, { do: 'write', values: { flowCal: '72.3841' } })
    // What was lost is entered again by its sheet, at the bench as in the plant.
    expect((await write()).problem.code).toBe('gate-before')
    const run = uuid()
    const step = (id: string, words = '', marked?: string[]) =>
      add(loopId, { what: 'step', sheet: 'memory', run, step: id, title: id, value: null, words, marked })
    // Its alerts are read before anything else, from its own list; none is an answer too.
    expect((await step('told', 'Bree')).problem.code).toBe('step-out-of-order')
    expect((await step('alerts', 'characterization')).problem.code).toBe('marks-not-offered')
    expect((await step('alerts', '', ['rust'])).problem.code).toBe('marks-not-offered')
    expect((await step('alerts', '', ['memory-lost', 'electronics'])).problem.code).toBe('words-missing')
    expect((await step('alerts', '', ['memory-lost'])).status).toBe(200)
    expect((await step('told', 'Bree', [])).problem.code).toBe('marks-not-offered')
    for (const [id, words] of [
      ['told', 'Bree'],
      ['identity', ''],
    ] as const)
      expect((await step(id, words)).status).toBe(200)
    const written = await write()
    expect((written.body as { held: Record<string, string> }).held['flowCal']).toBe('72.3841')
    // “Every constant” is not confirmed while most of them were not read back.
    expect((await step('constants')).problem).toMatchObject({ code: 'not-read-back' })
    const line = (key: string, held: string) => ({ key, label: key, text: '72.3841', held })
    expect((await add(loopId, { what: 'read-back', lines: [line('flowCal', '72.3841')] })).status).toBe(200)
    expect((await step('constants')).problem.detail).toMatch(/\d+ of \d+ lines are not read back as entered: /)
    for (const body of [
      { do: 'zero', length_s: 10 },
      { do: 'health', output: 'hold' },
    ])
      expect((await ailsa.call('commandMeter', { loopId }, body)).problem).toMatchObject({
        code: 'gate-before',
        detail: expect.stringContaining('read the active alerts'),
      })
    expect((await ailsa.call('revealPractice', { loopId })).text).toContain('memory was lost')
    expect((await ailsa.call('commandMeter', { loopId }, { do: 'practice', case: 'Z' })).problem.code).toBe(
      'unknown-practice',
    )
    expect((await ailsa.call('commandMeter', { loopId }, { do: 'zero', length_s: 1 })).status).toBe(400)
    expect((await magnus.call('commandMeter', { loopId }, { do: 'start' })).status).toBe(403)
    const events = await listenTo(server, ailsa, `/api/loops/${loopId}/link/stream`, (e) => e.length > 0)
    expect(LiveReading.parse(events[0]!.data).meter).toMatchObject({ practice: 'C', phase: 'running', digital: null })
  })
  it('is not there for a point without one', async () => {
    await ailsa.connectBench(await idOf('TT-405'))
    expect((await ailsa.call('meterHeld', { loopId: await idOf('TT-405') })).problem.code).toBe('no-meter')
  })
})
