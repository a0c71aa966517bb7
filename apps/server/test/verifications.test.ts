// A verification in its place is signed by the rules of a check, sealed, and has a certificate of its own.
import { canonicalJson, workOf, type Bundle, type FolderView, type LoopPage } from '@calm-loop/contract'
import { standOfRun, verificationsOf, visitsOf } from '@calm-loop/contract/judging'
import { demoEntries, firstVersion } from '../../../packages/core/src/kinds/demo-entries.fixture.ts'
import { v7 as uuid } from 'uuid'
import { describe, expect, it } from 'vitest'
import { asOwner } from '../src/db/database.ts'
import { runContent } from '../src/documents/run-certificate.ts'
import { currentStudyOf, studyOf } from '../src/services/studies.ts'
import { verdictIn } from '../src/services/summary-of.ts'
import { verificationIn } from '../src/services/verification-in.ts'
import { good, PASSWORD, served, startServer, type Visitor } from './harness.ts'
import { texts } from './paper-texts.ts'

const { server, ailsa, rona, magnus } = await served()
const folderOf = async (loopId: string, who: Visitor = ailsa) =>
  (await who.call('folder', { loopId })).body as FolderView
type Begun = { loopId: string; runId: string }

/** A new loop of the kind, entered by one and led through its sheet by another. */
async function verified(
  tag: string,
  { factor = 1, steps = Infinity, practice = false, by = ailsa, entered = ailsa } = {},
): Promise<Begun> {
  const [loopId, runId] = [uuid(), uuid()]
  const kind = 'thermal-insertion'
  good(await entered.call('createLoop', { loopId }, { tag, service: 'Flare', area: 'Test', kind }))
  good(await entered.call('saveVersion', { loopId, versionId: uuid() }, firstVersion(demoEntries(kind))))
  if (practice) good(await by.connectBench(loopId))
  const sheet = currentStudyOf(kind, (await folderOf(loopId)).versions[0]).sheets!().find((s) => s.id === 'verify')!
  const expected = sheet.judge!({ figures: new Map([['temp', { value: 20, unit: 'degC' }]]) })!.lines
  const figure = (step: string, ask: { unit: string; plan?: unknown }) => {
    const point = expected[Number(step.replace('point-', '')) - 1]
    const value = point ? Number((point.expected * factor).toFixed(1)) : step === 'temp' ? 20 : 408
    return { typed: `${value} ${ask.unit}`, value, unit: ask.unit }
  }
  for (const step of sheet.steps.slice(0, steps)) {
    const value = step.ask ? figure(step.id, step.ask) : null
    const head = { what: 'step', sheet: 'verify', run: runId, step: step.id, title: step.title }
    good(await by.call('addWork', { loopId, entryId: uuid() }, { ...head, value, words: step.askWords ? 'Bree' : '' }))
  }
  return { loopId, runId }
}
const sign = (who: Visitor, at: Begun, role: string, more: object = {}, entryId = uuid()) =>
  who.call(
    'signRun',
    { ...at, entryId },
    { ...{ role, statement: 'Seen.', ambient: '18 °C', password: PASSWORD, gearIds: [] }, ...more },
  )
const one = (folder: FolderView) => verificationsOf(folder, (v) => studyOf(folder.loop.kind, v))[0]!

describe('a verification', () => {
  it('is signed by who did it and by another, sealed, and verified by its fingerprint', async () => {
    const at = await verified('FT-7001')
    const id = uuid()
    const first = good(await sign(ailsa, at, 'performed', {}, id))
    expect(good(await sign(ailsa, at, 'performed', {}, id)).body).toEqual(first.body)
    expect((await sign(ailsa, at, 'performed')).problem.code).toBe('signed')
    good(await sign(magnus, at, 'reviewed', { ambient: 'said otherwise' }))
    const folder = await folderOf(at.loopId)
    const of = one(folder)
    expect(of).toMatchObject({ finished: true, number: `FT-7001/${of.from.slice(0, 4)}-V1`, judged: { pass: true } })
    expect(of.signatures).toMatchObject([
      { role: 'performed', standing: 'sealed', ambient: '18 °C', practice: false, seal: { run: at.runId } },
      { role: 'reviewed', standing: 'sealed', ambient: '18 °C' },
    ])
    expect(of.signatures[0]!.seal!.verdict).toMatchObject({ pass: true })
    expect(folder.versions[0]!.sealedAt).not.toBeNull()
    const { digest } = of.signatures[0]!
    expect((await server.visitor().call('verify', { digest })).body).toEqual({ stands: true })
    const trail = await server.pool.query('select action from audit where loop_id = $1', [at.loopId])
    expect(trail.rows).toEqual(expect.arrayContaining([{ action: 'run-performed' }, { action: 'run-reviewed' }]))
  })
  it('is not signed unfinished, by a stranger, in the wrong role, twice by one person, or in practice', async () => {
    const open = await verified('FT-7002', { steps: 6 })
    const code = async (...a: Parameters<typeof sign>) => (await sign(...a)).problem.code
    expect(await code(ailsa, open, 'performed')).toBe('run-not-finished')
    expect(await code(magnus, open, 'performed')).toBe('wrong-role')
    expect(await code(ailsa, open, 'reviewed')).toBe('wrong-role')
    const at = await verified('FT-7003', { by: rona })
    expect(await code(magnus, at, 'reviewed')).toBe('not-yet-signed')
    expect(await code(ailsa, at, 'performed')).toBe('no-hand')
    expect(await code(rona, at, 'performed', { password: 'not mine' })).toBe('wrong-password')
    good(await sign(rona, at, 'performed'))
    expect(await code(rona, at, 'reviewed')).toBe('own-work')
    expect(await code(ailsa, { ...at, runId: uuid() }, 'performed')).toBe('not-found')
    const bench = await verified('FT-7004', { practice: true })
    for (const who of [ailsa, magnus])
      expect(await code(who, bench, who === ailsa ? 'performed' : 'reviewed')).toBe('practice')
    expect(workOf((await folderOf(bench.loopId)).workLog, 'run-signed')).toEqual([])
  })
  it('is not countersigned by who entered what it is judged by', async () => {
    const at = await verified('FT-7005', { by: ailsa, entered: rona })
    good(await sign(ailsa, at, 'performed'))
    expect((await sign(rona, at, 'reviewed')).problem.code).toBe('own-range')
    good(await sign(magnus, at, 'reviewed'))
  })
  it('that is outside its limits is signed as that', async () => {
    const at = await verified('FT-7006', { factor: 0.93 })
    good(await sign(ailsa, at, 'performed'))
    const { signatures, judged } = one(await folderOf(at.loopId))
    expect(judged!.pass).toBe(false)
    expect(signatures[0]!.seal!.verdict).toMatchObject({ pass: false })
    expect(signatures[0]!.seal!.verdict!.errorPct).toBeCloseTo(-7, 0)
  })
  it('takes kit past its date only with a reason, and nothing that is no kit', async () => {
    const at = await verified('FT-7007')
    expect((await sign(ailsa, at, 'performed', { gearIds: [uuid()] })).problem.code).toBe('unknown-gear')
    const piece = { id: uuid(), name: 'Gauge G9', serial: 'G-9', measures: 'pressure', range: '', uncertainty: '' }
    good(await rona.call('saveGear', { gearId: piece.id }, { ...piece, due: '2020-01-31', range: '0–4 bar' }))
    expect((await sign(ailsa, at, 'performed', { gearIds: [piece.id] })).problem.code).toBe('gear-expired')
    good(await sign(ailsa, at, 'performed', { gearIds: [piece.id], expiredReason: 'No other at hand' }))
    const folder = await folderOf(at.loopId)
    const words = texts(runContent(folder, one(folder), { address: 'http://plant.example' }))
    expect(words).toMatch(/Gauge G9.*EXPIRED when used: No other at hand/)
  })
})

let tags = 7100
describe('what was signed of a verification', () => {
  it.each([
    ['a figure', `update work_log set body = jsonb_set(body, '{value,value}', '1') where body->>'step' = 'point-2'`],
    ['a step', `update work_log set body = jsonb_set(body, '{words}', '"Nobody"') where body->>'step' = 'told'`],
    ['the kit', `update work_log set body = jsonb_set(body, '{ambient}', '"-40 °C"') where what = 'run-signed'`],
    ['the statement', `update work_log set body = jsonb_set(body, '{statement}', '"No."') where what = 'run-signed'`],
    ['the place', `update loops set service = 'Another flare' where true`],
    ['its seal', `update seals set own = false where body->>'run' is not null`],
  ])('cannot be changed by anyone without its being seen: %s', async (_, sql) => {
    const at = await verified(`FT-${++tags}`)
    good(await sign(ailsa, at, 'performed'))
    const signed = one(await folderOf(at.loopId))
    await asOwner(server.ownerUrl, async (_db, client) => {
      const loop = sql.startsWith('update seals') ? `body->>'loop'` : sql.startsWith('update loops') ? 'id' : 'loop_id'
      await client.query(`${sql} and ${loop} = '${at.loopId}'`)
    })
    const folder = await folderOf(at.loopId)
    expect(standOfRun(one(folder))).toBe('broken')
    expect(folder.row.state).toBe('seal-broken')
    const listed = (await ailsa.raw('GET', `/api/loops?q=${folder.loop.tag}`)).body as LoopPage
    expect(listed.loops[0]!.state).toBe('seal-broken')
    expect((await sign(magnus, at, 'reviewed')).problem.code).toBe('seal-broken')
    const { digest } = signed.signatures[0]!
    expect((await server.visitor().call('verify', { digest })).body).toEqual({ stands: false })
    expect(texts(runContent(folder, one(folder), { address: '' }))).toContain('SEAL BROKEN')
  })
  it('goes along in a bundle, counts for nothing elsewhere, and comes back out as it went in', async () => {
    const at = await verified('FT-7301')
    good(await sign(ailsa, at, 'performed'))
    good(await sign(magnus, at, 'reviewed'))
    const { text } = await ailsa.call('bundle', { loopId: at.loopId })
    const other = await startServer()
    try {
      const there = await other.as('ailsa')
      const send = (body: string) =>
        there.raw('POST', '/api/bundles', body, { 'content-type': 'application/octet-stream' })
      const forged = JSON.parse(text) as Bundle
      const step = workOf(forged.folder.workLog, 'step').find((s) => s.step === 'point-1')!
      step.value = { ...step.value!, value: 50, typed: '50 kg/h' }
      expect((await send(canonicalJson(forged))).problem.code).toBe('signature-broken')
      good(await send(text))
      const folder = await folderOf(at.loopId, there)
      expect(one(folder).signatures.map((s) => [s.standing, s.elsewhere])).toEqual(Array(2).fill(['claimed', true]))
      expect(standOfRun(one(folder))).toBe('elsewhere')
      expect((await there.call('bundle', { loopId: at.loopId })).text).toBe(text)
      const paper = texts(runContent(folder, one(folder), { address: '' }))
      expect(paper).toContain('Made elsewhere')
      expect(paper).not.toContain('Fingerprint')
      expect((await sign(await other.as('magnus'), at, 'reviewed')).problem.code).toBe('imported')
      const { digest } = one(folder).signatures[0]!
      expect((await other.visitor().call('verify', { digest })).body).toEqual({ stands: false })
    } finally {
      await other.stop()
    }
  })
})

describe('its certificate', () => {
  it('has its number, figures, rule, kit, steps, names, and what it does not show', async () => {
    const at = await verified('FT-7401')
    good(await sign(ailsa, at, 'performed'))
    good(await sign(magnus, at, 'reviewed'))
    const folder = await folderOf(at.loopId)
    const words = texts(runContent(folder, verificationIn(folder, at.runId), { address: 'http://plant.example' }))
    for (const said of [
      /Certificate of verification FT-7401\/\d{4}-V1/,
      /Verified: inside its limits/,
      /Step 4/,
      /within ±2.*%/,
      /Not checked: the velocity profile/,
      /No test equipment was named/,
      /Loosen the gland/,
      /Performed by Ailsa Fenn/,
      /Reviewed by Magnus Orrin/,
      /Surroundings 18 °C/,
      /plant\.example\/verify\?is=/,
    ])
      expect(words).toMatch(said)
    const pdf = await ailsa.call('runCertificate', at)
    expect([pdf.status, pdf.headers.get('content-type'), pdf.text.slice(0, 5)]).toEqual([
      200,
      'application/pdf',
      '%PDF-',
    ])
    expect((await ailsa.call('runCertificate', { ...at, runId: uuid() })).status).toBe(404)
  })
  it('that nobody signed is a working copy, and of practice no certificate', async () => {
    const at = await verified('FT-7402', { factor: 0.93 })
    const paper = (folder: FolderView, run: string) =>
      texts(runContent(folder, verificationIn(folder, run), { address: '' }))
    const words = paper(await folderOf(at.loopId), at.runId)
    expect(words).toContain('NOT SIGNED: this is a working copy')
    expect(words).toContain('Not verified: outside its limits')
    const bench = await verified('FT-7403', { practice: true })
    const practised = paper(await folderOf(bench.loopId), bench.runId)
    expect(practised).toContain('Practice sheet')
    expect(practised).not.toContain('NOT SIGNED')
  })
  it('stands among what is open of its visit until both have signed', async () => {
    const at = await verified('FT-7404')
    const open = async () => {
      const folder = await folderOf(at.loopId)
      const look = { studyOf: (v: FolderView['versions'][number] | undefined) => studyOf(folder.loop.kind, v) }
      const [visit] = visitsOf(folder, { ...look, verdictOf: verdictIn(folder) })
      return visit!.parts.find((p) => p.sort === 'sheet')!
    }
    expect(await open()).toMatchObject({ came: expect.stringContaining('inside its limits'), open: ['not signed'] })
    good(await sign(ailsa, at, 'performed'))
    expect((await open()).open).toEqual(['not countersigned'])
    good(await sign(magnus, at, 'reviewed'))
    expect((await open()).open).toEqual([])
  })
})
