// What a site settles where schools of practice differ; and the head of its papers: its logo, its decimal mark.
import type { FolderView, Session, SiteLogo, SitePractice } from '@calm-loop/contract'
import { SETTING_HEADER, settingMark } from '@calm-loop/contract/setting-mark'
import { USUAL_PRACTICE } from '@calm-loop/contract'
import sharp from 'sharp'
import { afterAll, describe, expect, it, vi } from 'vitest'
import { printer } from '../src/documents/pdf.ts'
import { jobs } from '../src/workers/jobs.ts'
import { good, served } from './harness.ts'

const { server, ailsa, magnus, rona } = await served()
const SETTLED: SitePractice = {
  schools: { faultAction: 'low', acLegend: 'na-ac' },
  intervals: { ph: '3 months' },
  decimalMark: ',',
}
const picture = (width: number, height: number) =>
  sharp({ create: { width, height, channels: 3, background: '#24524A' } })

describe('schools of practice', () => {
  it('are settled by who sets limits, and told to everyone', async () => {
    expect((await ailsa.call('saveSitePractice', {}, SETTLED)).problem.code).toBe('wrong-role')
    expect(good(await ailsa.call('sitePractice')).body).toEqual(USUAL_PRACTICE)
    expect(good(await magnus.call('saveSitePractice', {}, SETTLED)).body).toEqual(SETTLED)
    expect(good(await ailsa.call('sitePractice')).body).toEqual(SETTLED)
    expect((good(await ailsa.call('session')).body as Session).decimalMark).toBe(',')
    const { rows } = await server.pool.query<{ details: unknown }>(
      "select details from audit where action = 'practice' order by id desc limit 1",
    )
    expect(rows[0]?.details).toEqual(SETTLED)
  })
  it.each([
    ['no practice', { schools: { colour: 'red' } }],
    ['a way that is none of it', { schools: { faultAction: 'sideways' } }],
    ['an interval that nobody can choose', { intervals: { ph: '1 day' } }],
    ['a kind that there is not', { intervals: { steam: '3 months' } }],
    ['a mark that is none', { decimalMark: ';' }],
  ])('refuse %s', async (_what, change) => {
    const answer = await magnus.call('saveSitePractice', {}, { ...SETTLED, ...change })
    expect(answer.problem.code).toBe('invalid-input')
  })
  it('tell the second of two who settle at once', async () => {
    const was = settingMark(USUAL_PRACTICE)
    const late = { ...SETTLED, decimalMark: '.' as const }
    const answer = await magnus.raw('PUT', '/api/settings/practice', JSON.stringify(late), {
      ...{ 'content-type': 'application/json', [SETTING_HEADER]: was },
    })
    expect(answer.problem).toMatchObject({ code: 'setting-changed', current: SETTLED })
  })
})

describe('duties of roles', () => {
  it('are not set over what another has set since they were seen', async () => {
    const seen = (good(await rona.call('session')).body as Session).duties
    const put = (duties: object, was: object) =>
      rona.raw('PUT', '/api/settings/duties', JSON.stringify(duties), {
        ...{ 'content-type': 'application/json', [SETTING_HEADER]: settingMark(was) },
      })
    const first = { ...seen, kit: 'reviewer' }
    expect(good(await put(first, seen)).body).toEqual(first)
    expect((await put({ ...seen, rows: 'reviewer' }, seen)).problem).toMatchObject({
      ...{ code: 'setting-changed', current: first },
    })
    expect(good(await rona.call('duties')).body).toEqual(first)
    good(await put(seen, first))
  })
})

describe('the logo of papers', () => {
  const put = (bytes: Buffer | string) => rona.raw('PUT', '/api/settings/logo', bytes)
  it('is kept small, as a PNG and without what a camera writes beside it', async () => {
    const jpeg = await picture(2400, 900)
      .withExif({ IFD0: { Artist: 'Nobody' } })
      .jpeg()
      .toBuffer()
    const { logo } = good(await put(jpeg)).body as SiteLogo
    const kept = Buffer.from(String(logo).replace('data:image/png;base64,', ''), 'base64')
    const { format, width, height, exif } = await sharp(kept).metadata()
    expect({ format, width, height, exif }).toEqual({ format: 'png', width: 480, height: 180, exif: undefined })
    expect(good(await ailsa.call('siteLogo')).body).toEqual({ logo })
    expect((await ailsa.raw('PUT', '/api/settings/logo', jpeg)).problem.code).toBe('wrong-role')
  })
  it('is told by its content: no drawing with scripts, no text, no bomb, no half of a picture', async () => {
    const svg = '<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9"><script>alert(1)</script></svg>'
    const bomb = await picture(16_000, 16_000).png({ compressionLevel: 9 }).toBuffer()
    expect(bomb.length).toBeLessThan(2_000_000)
    const whole = await picture(300, 300).png().toBuffer()
    for (const bytes of [svg, 'GIF89a', '%PDF-1.7', bomb, whole.subarray(0, 60)])
      expect((await put(bytes)).problem.code).toBe('not-a-picture')
    expect((good(await ailsa.call('siteLogo')).body as SiteLogo).logo).not.toBeNull()
  })
  it('stands at the head of papers, until it is taken off', async () => {
    const printing = vi.spyOn(printer, 'print').mockImplementation((definition) => Promise.resolve(definition as never))
    const { loops } = good(await ailsa.raw('GET', '/api/loops?q=FT-402')).body as { loops: { id: string }[] }
    const folder = good(await ailsa.call('folder', { loopId: loops[0]!.id })).body as FolderView
    const { logo } = good(await ailsa.call('siteLogo')).body as SiteLogo
    const head = { name: 'Works', address: '', procedure: '', ...(logo ? { logo } : {}) }
    const printed = async (site: typeof head & { decimalMark: '.' | ',' }) =>
      JSON.stringify(await jobs.setupPdf({ folder, site }))
    const [point, comma] = [await printed({ ...head, decimalMark: '.' }), await printed({ ...head, decimalMark: ',' })]
    expect(point).toContain(`"image":"${logo}"`)
    // Figures that are worked out have the mark of the site; what was typed stands as it was typed.
    expect(comma).not.toBe(point)
    expect(comma.replace(/(\d),(?=\d)/g, '$1.')).toBe(point.replace(/(\d),(?=\d)/g, '$1.'))
    expect(await printed({ ...head, decimalMark: '.' })).toBe(point)
    printing.mockRestore()
    expect(good(await put('')).body).toEqual({ logo: null })
  })
})
afterAll(() => magnus.call('saveSitePractice', {}, USUAL_PRACTICE))
