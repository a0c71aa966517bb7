import type { FolderView, WireEntry } from '@calm-loop/contract'
import { GATE_WORDS, LISTS, PLAIN, propose, takeOut, writeWiring } from '@calm-loop/core/wiring'
import { parse } from 'csv-parse/sync'
import { v7 as uuid } from 'uuid'
import { describe, expect, it } from 'vitest'
import { checkBegun, served, startServer } from './harness.ts'

const { ailsa, magnus } = await served()
const folder = async (loopId: string) => (await ailsa.call('folder', { loopId })).body as FolderView

/** The plain arrangement, which is what the test loop's entries propose. */
const drawn = writeWiring(propose(PLAIN))
const gate = (gate: 'power-off' | 'safe-to-energise', wiring = drawn) => ({
  what: 'gate' as const,
  gate,
  words: GATE_WORDS[gate],
  told: 'Bree, lock 14',
  wiring,
})
const reading = (value: number, changed: object = {}) => ({
  what: 'reading' as const,
  spot: { of: 'volts' as const, red: 'RX:IN', black: 'RX:0V' },
  read: { typed: `${value} V`, value, unit: 'V' },
  expected: 3,
  signal_mA: 12,
  supersedes: null,
  reason: '',
  ...changed,
})

async function saveWiring(loopId: string, text: string) {
  const head = (await folder(loopId)).versions.at(-1)!
  return ailsa.call(
    'saveVersion',
    { loopId, versionId: uuid() },
    {
      parentId: head.id,
      parentRevision: head.revision,
      revision: 0,
      entries: { ...head.entries, wiring: { typed: text } },
      reason: '',
      seal: false,
    },
  )
}

describe('the gates of wiring work', () => {
  it('let nobody energise what was not proved dead, and each stands on record once', async () => {
    const { loopId } = await checkBegun(ailsa, 'LT-841')
    const put = (entryId: string, body: object) => ailsa.call('addWireEntry', { loopId, entryId }, body)
    expect((await put(uuid(), gate('safe-to-energise'))).problem).toMatchObject({ status: 422, code: 'power-not-off' })
    const id = uuid()
    const first = await put(id, gate('power-off'))
    expect(first.status, first.text).toBe(200)
    expect((await put(id, gate('power-off'))).text).toBe(first.text)
    expect((await put(id, gate('power-off', `${drawn} `))).problem.code).toBe('id-reused')
    expect((await put(uuid(), gate('safe-to-energise'))).status).toBe(200)
    expect((await folder(loopId)).wireLog.map((e) => e.what === 'gate' && e.gate)).toEqual([
      'power-off',
      'safe-to-energise',
    ])
  })
  it('are refused while the wiring has a stop, and for a wiring other than the one on record', async () => {
    const { loopId } = await checkBegun(ailsa, 'LT-842')
    const put = (body: object) => ailsa.call('addWireEntry', { loopId, entryId: uuid() }, body)
    const open = writeWiring(takeOut(propose(PLAIN), 'C1'))
    expect((await saveWiring(loopId, open)).status).toBe(200)
    expect((await put(gate('power-off'))).problem).toMatchObject({ status: 409, code: 'wiring-changed' })
    expect((await put(gate('power-off', open))).status).toBe(200)
    expect((await put(gate('safe-to-energise', open))).problem).toMatchObject({
      status: 422,
      code: 'loop-open',
      accepted: expect.stringContaining('conductors'),
    })
  })
  it('are for technicians only', async () => {
    const { loopId } = await checkBegun(ailsa, 'LT-843')
    expect((await magnus.call('addWireEntry', { loopId, entryId: uuid() }, gate('power-off'))).problem.code).toBe(
      'wrong-role',
    )
  })
})

describe('readings at the terminals', () => {
  it('are added, corrected with a reason, and never changed', async () => {
    const { loopId } = await checkBegun(ailsa, 'LT-844')
    const put = (entryId: string, body: object) => ailsa.call('addWireEntry', { loopId, entryId }, body)
    const id = uuid()
    expect((await put(id, reading(2.1))).status).toBe(200)
    expect((await put(uuid(), reading(2.4, { supersedes: id }))).status).toBe(400)
    expect((await put(uuid(), reading(2.4, { supersedes: uuid(), reason: 'leads slipped' }))).problem.code).toBe(
      'no-such-reading',
    )
    expect((await put(uuid(), reading(2.4, { supersedes: id, reason: 'leads slipped' }))).status).toBe(200)
    // Neither does one that names nothing replace what stands.
    expect((await put(uuid(), reading(2.6))).problem.code).toBe('already-read')
    const log = (await folder(loopId)).wireLog as Extract<WireEntry, { what: 'reading' }>[]
    expect(log.map((r) => r.read.value)).toEqual([2.1, 2.4])
    expect(log[0]!.by.name).toBe('Ailsa Fenn')
  })
  it('are refused where there is no such terminal, or typed and understood part', async () => {
    const { loopId } = await checkBegun(ailsa, 'LT-845')
    const put = async (body: object) =>
      (await ailsa.call('addWireEntry', { loopId, entryId: uuid() }, body)).problem.code
    expect(await put(reading(2, { spot: { of: 'volts', red: 'XX:1', black: 'RX:0V' } }))).toBe('no-such-terminal')
    expect(
      await put(
        reading(2, { spot: { of: 'current', conductor: 'C99' }, read: { typed: '2 mA', value: 2, unit: 'mA' } }),
      ),
    ).toBe('no-such-terminal')
    expect(await put(reading(2, { read: { typed: '3 V', value: 2, unit: 'V' } }))).toBe('entry-mismatch')
    expect(await put(reading(2, { read: { typed: '2 mA', value: 2, unit: 'mA' } }))).toBe('incommensurable')
    expect(await put({ what: 'gate', gate: 'open-sesame' })).toBe('invalid-input')
  })
})

describe('the wiring on record', () => {
  it('is refused when it is damaged, and kept whole otherwise', async () => {
    const { loopId } = await checkBegun(ailsa, 'LT-846')
    for (const text of ['{}', drawn.slice(0, -2), JSON.stringify({ ...propose(PLAIN), more: 1 })])
      expect((await saveWiring(loopId, text)).status).toBe(422)
    expect((await saveWiring(loopId, drawn)).status).toBe(200)
    expect((await folder(loopId)).versions.at(-1)!.entries['wiring']).toEqual({ typed: drawn })
  })
  it('goes out as PDF, SVG and CSV, and a bundle with its log comes back byte for byte', async () => {
    const { loopId } = await checkBegun(ailsa, 'LT-847')
    await ailsa.call('addWireEntry', { loopId, entryId: uuid() }, gate('power-off'))
    await ailsa.call('addWireEntry', { loopId, entryId: uuid() }, reading(2.9))
    const pdf = await ailsa.call('wiringPdf', { loopId })
    expect(pdf.status).toBe(200)
    expect(pdf.text.startsWith('%PDF')).toBe(true)
    const svg = (await ailsa.call('wiringSvg', { loopId })).text
    expect(svg).toMatch(/^<svg .*Wiring of LT-847.*RX/s)
    const rows = parse<Record<string, string>>((await ailsa.call('wiringCsv', { loopId })).text, { columns: true })
    expect(rows).toHaveLength(propose(PLAIN).conductors.length)
    expect(rows.find((r) => r['to'] === 'RX:IN')).toMatchObject({
      colour: 'black',
      expected_mA: '12',
      counted_from: 'earth',
    })
    expect(Number(rows.find((r) => r['to'] === 'RX:24V')!['expected_V'])).toBeGreaterThan(23)
    for (const paper of ['A4', 'A3'] as const) {
      const drawing = await ailsa.raw('GET', `/api/loops/${loopId}/loop-drawing.pdf?paper=${paper}`)
      expect(drawing.status).toBe(200)
      expect(drawing.text.match(/\/Type \/Page\b(?!s)/g)).toHaveLength(1)
    }
    const ferrules = await ailsa.call('wiringList', { loopId, list: 'ferrules' })
    expect(parse<Record<string, string>>(ferrules.text, { columns: true })).toHaveLength(
      propose(PLAIN).conductors.flatMap((c) => [c.from, c.to].filter(Boolean)).length,
    )
    for (const list of LISTS) expect((await ailsa.call('wiringList', { loopId, list })).status).toBe(200)
    expect(JSON.parse((await ailsa.call('deviceSchema')).text).$id).toBe('calm-loop/device-1')
    expect((await ailsa.call('wiringList', { loopId, list: 'prices' })).status).toBe(400)
    const bundle = (await ailsa.call('bundle', { loopId })).text
    expect(JSON.parse(bundle).folder.wireLog).toHaveLength(2)
    const other = await startServer({ empty: false })
    try {
      const there = await other.as('ailsa')
      expect(
        (await there.raw('POST', '/api/bundles', bundle, { 'content-type': 'application/octet-stream' })).status,
      ).toBe(200)
      expect((await there.call('bundle', { loopId })).text).toBe(bundle)
    } finally {
      await other.stop()
    }
  })
})
