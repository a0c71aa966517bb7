// The papers of a loop in US customary units: nothing on them is in another; and the units that new loops begin in.
import type { Check, FolderView, WorkEntry } from '@calm-loop/contract'
import { study } from '@calm-loop/core/loop'
import { KINDS } from '@calm-loop/core/kinds'
import { v7 as uuid } from 'uuid'
import { afterAll, describe, expect, it, vi } from 'vitest'
import { demoEntries, firstVersion } from '../../../packages/core/src/kinds/demo-entries.fixture.ts'
import { printer } from '../src/documents/pdf.ts'
import { jobs } from '../src/workers/jobs.ts'
import { good, served } from './harness.ts'

/** What would be printed, instead of the paper. */
const printing = vi.spyOn(printer, 'print').mockImplementation((definition) => Promise.resolve(definition as never))
afterAll(() => printing.mockRestore())
const { ailsa, rona } = await served()

const METRIC = /\d ?(mm|cm|m|km|bar|mbar|kPa|MPa|°C|m³\/h|l\/s|l\/min|m³|kg\/h|t\/h|kg\/m³|m\/s)(?![\w/²³])/g
/** Every word of a document's definition, drawings too. */
function wordsOf(node: unknown): string[] {
  if (typeof node === 'string') return [node]
  if (Array.isArray(node)) return [textOf(node), ...node.flatMap(wordsOf)]
  if (typeof node !== 'object' || node === null) return []
  const { svg, text, ...rest } = node as { svg?: string; text?: unknown }
  const drawn = svg ? [...svg.matchAll(/<text[^>]*>([^<]*)</g)].map(([, words]) => words ?? '') : []
  return [...drawn, textOf(text), ...Object.values(rest).flatMap(wordsOf)]
}
/** Runs of one line are one text. */
const textOf = (node: unknown): string =>
  typeof node === 'string'
    ? node
    : Array.isArray(node) && node.every((n) => typeof n === 'string' || (n && typeof n === 'object' && 'text' in n))
      ? node.map((n) => (typeof n === 'string' ? n : textOf((n as { text: unknown }).text))).join('')
      : ''
const metricIn = (definition: unknown) => [
  ...new Set(wordsOf(definition).flatMap((text) => [...text.matchAll(METRIC)].map(([found]) => `${found}: ${text}`))),
]

const US = {
  ...{ units: 'US customary', od: '6.625 in', wall: '0.28 in', liner: 'none', material: 'carbon-steel' },
  ...{ faceOffset: '0 in', barPitch: '0.5 in', fluidTemp: '68 °F', fluidPressure: '45 psi', setSpacing: '' },
  ...{ upstream: '12 ft', downstream: '6 ft', cableLength: '300 ft', cableTemp: '86 °F', conductor: 'AWG 18' },
  ...{ lrv: '0 gpm', urv: '1200 gpm', receiverLow: '0 gpm', receiverHigh: '1200 gpm', cutoff: '5 gpm' },
}
async function loopInUs() {
  const [loopId, versionId] = [uuid(), uuid()]
  good(await ailsa.call('createLoop', { loopId }, { tag: 'FT-9901', service: 'Rinse', area: 'Test', kind: 'clamp-on' }))
  const entries = demoEntries('clamp-on', US)
  const version = firstVersion(entries)
  good(await ailsa.call('saveVersion', { loopId, versionId }, version))
  const folder = good(await ailsa.call('folder', { loopId })).body as FolderView
  return { versionId, folder }
}

describe('papers of a loop in US customary units', () => {
  it('speak of nothing else: set-up sheet, wiring, drawing, certificate, survey', async () => {
    const { versionId, folder } = await loopInUs()
    const demo = good(await ailsa.raw('GET', '/api/loops?q=FT-402')).body as { loops: { id: string }[] }
    const other = good(await ailsa.call('folder', { loopId: demo.loops[0]!.id })).body as FolderView
    const known = study(
      KINDS.find((k) => k.id === 'clamp-on')!,
      folder.versions[0]!.entries,
    )
    const process = known.family === 'current' ? known.thread.knots[0]! : undefined
    // A check of another loop, as it would have been read here.
    const scaled = (value: number) => Number((value * (1200 / 2500)).toFixed(1))
    const signed = other.checks[0]!
    const readings = signed.readings.map((r) => ({
      ...r,
      reads: Object.fromEntries(
        Object.entries(r.reads).map(([id, read]) =>
          read.unit === 'kg/h'
            ? [id, { typed: `${scaled(read.value)} gpm`, value: scaled(read.value), unit: 'gpm' }]
            : [id, read],
        ),
      ),
    }))
    const range = { lrv: 0, urv: 1200, unit: 'gpm' }
    const check: Check = { ...signed, versionId, gear: [], range, readings }
    const begun = {
      ...{ what: 'survey', interval_s: 60, unit: 'gpm', note: 'night rate', hours: 8, practice: false },
      ...{ id: uuid(), by: { id: uuid(), name: 'Ailsa Fenn' }, at: '2026-11-05T07:30:00.000Z' },
    } as Extract<WorkEntry, { what: 'survey' }>
    const rows = JSON.stringify([
      [1_793_863_800_000, 310, 0, 1482, 80],
      [1_793_863_860_000, 320, 315, 1483, 81],
    ])
    const papers: Record<string, unknown> = {
      setup: await jobs.setupPdf({ folder }),
      wiring: await jobs.wiringPdf({ folder, signal: { mA: 12 } as never }),
      drawing: await jobs.loopDrawing({ folder, paper: 'A4' }),
      certificate: await jobs.certificate({
        folder: { ...folder, checks: [check] },
        check,
        paper: { address: 'http://here' },
      }),
      survey: await jobs.surveyPdf({ folder, begun, chunks: [rows] }),
    }
    expect(process?.unit).toBe('gpm')
    for (const [name, paper] of Object.entries(papers)) {
      expect(wordsOf(paper).length, name).toBeGreaterThan(20)
      expect(metricIn(paper), name).toEqual([])
    }
    expect(wordsOf(papers['survey']).join(' ')).toMatch(/486\d(\.\d)? ft\/s to 486\d(\.\d)? ft\/s/)
  })
})

describe('the units of a site', () => {
  const own = { units: 'chosen one by one', chosen: { pressure: 'psi', distance: 'ft-in' } }
  it('are set by who has the duty, kept, and refused where a unit is of another quantity', async () => {
    expect(good(await ailsa.call('siteUnits')).body).toEqual({ units: 'metric', chosen: {} })
    expect((await ailsa.call('saveSiteUnits', {}, own)).status).toBe(403)
    for (const wrong of [
      { units: 'furlongs', chosen: {} },
      { units: 'metric', chosen: { pressure: 'degF' } },
      { units: 'metric', chosen: { colour: 'mm' } },
    ])
      expect((await rona.call('saveSiteUnits', {}, wrong)).problem.code).toBe('invalid-input')
    good(await rona.call('saveSiteUnits', {}, own))
    expect(good(await ailsa.call('siteUnits')).body).toEqual(own)
  })
})
