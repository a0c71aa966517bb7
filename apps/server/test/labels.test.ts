// Labels as they are printed: drawn as a printer would, and read back from the picture as a camera would.
import { labelText, readLabel } from '@calm-loop/contract/label'
import type { LoopPage, Session } from '@calm-loop/contract'
import jsQR from 'jsqr'
import { v7 as uuid } from 'uuid'
import { describe, expect, it } from 'vitest'
import { places } from '../src/documents/labels.ts'
import { listWhole } from '../src/services/loops.ts'
import { jobs } from '../src/workers/jobs.ts'
import { good, served } from './harness.ts'
import { drawn } from './paper.ts'

const { ailsa, server } = await served()
const INSTALLATION = uuid()
const loop = (tag: string, service = 'Rinse tank of the second wash line, north side') => ({
  ...{ id: uuid(), tag, service, area: 'Wash house' },
})
const MM = 72 / 25.4

type Page = Awaited<ReturnType<typeof drawn>>[number]
/** What is read in a part of a page, in points of the paper. */
function codeIn({ at, scale }: Page, [x, y, w, h]: [number, number, number, number]): string | undefined {
  const part = at.getImageData(...([x, y, w, h].map((v) => Math.round(v * scale)) as [number, number, number, number]))
  return jsQR(new Uint8ClampedArray(part.data), part.width, part.height)?.data
}

describe('a sheet of labels', () => {
  it('is read back label by label, from the place at which it begins', async () => {
    const loops = Array.from({ length: 25 }, (_, i) => loop(`LT-98${i}`))
    const asked = { installation: INSTALLATION, site: 'Holmsay Kelp Works', loops, sheet: '24' as const, from: 23 }
    const pages = await drawn(await jobs.labelsPdf(asked), 200)
    expect(pages.map((p) => [Math.round(p.width / MM), Math.round(p.height / MM)])).toEqual([
      [210, 297],
      [210, 297],
    ])
    const where = places(loops.length, asked)
    expect(where.filter((w) => w.page === 0)).toHaveLength(2)
    loops.forEach((l, i) => {
      const { page, x, y } = where[i]!
      const code = codeIn(pages[page]!, [x, y, 35 * MM, 37 * MM])
      expect(readLabel(code ?? '', INSTALLATION), l.tag).toEqual({ loopId: l.id })
    })
    // Nothing stands beyond its own label, nor where the sheet is used already.
    for (const [i, page] of pages.entries())
      for (const { str, transform, width } of page.words) {
        const [x, y] = [transform[4] as number, page.height - (transform[5] as number)]
        const at = where.find((w) => w.page === i && x >= w.x && x < w.x + 70 * MM && y >= w.y && y < w.y + 37 * MM)
        expect(at, str).toBeDefined()
        expect(x + width, str).toBeLessThan(at!.x + 68.5 * MM)
      }
  })
  it('bears the longest tags and services, and the name of the site', async () => {
    const longest = loop('X'.repeat(40), 'W'.repeat(120))
    const one = loop('FT-1', 'A')
    const asked = { installation: INSTALLATION, site: 'S'.repeat(120), loops: [longest, one], from: 1 }
    const pages = await drawn(await jobs.labelsPdf({ ...asked, sheet: 'single' }))
    expect(pages.map((p) => [Math.round(p.width / MM), Math.round(p.height / MM)])).toEqual([
      [70, 37],
      [70, 37],
    ])
    for (const [i, { id }] of [longest, one].entries()) {
      expect(codeIn(pages[i]!, [0, 0, 70 * MM, 37 * MM])).toBe(labelText(INSTALLATION, id))
      for (const { str, transform, width } of pages[i]!.words)
        expect((transform[4] as number) + width, str).toBeLessThan(70 * MM)
    }
  })
})

describe('labels of the register', () => {
  it('carry the installation that the session tells, for the loops that are asked for', async () => {
    const { installation } = good(await ailsa.call('session')).body as Session
    expect((good(await server.visitor().call('session')).body as Session).installation).toBeUndefined()
    const { loops } = good(await ailsa.raw('GET', '/api/loops?q=LT-112')).body as LoopPage
    const answer = await fetch(`${server.base}/api/labels.pdf?loopId=${loops[0]!.id}&sheet=single`, {
      headers: { cookie: ailsa.cookie },
    })
    expect(answer.headers.get('content-type')).toBe('application/pdf')
    const [page] = await drawn(new Uint8Array(await answer.arrayBuffer()))
    const code = codeIn(page!, [0, 0, 70 * MM, 37 * MM])
    expect(readLabel(code ?? '', installation!)).toEqual({ loopId: loops[0]!.id })
    expect(readLabel(code ?? '', uuid())).toEqual({ fault: 'elsewhere' })
  })
  it('are of a filter, and of nothing where it holds nothing', async () => {
    expect((await ailsa.raw('GET', '/api/labels.pdf?area=Gas')).status).toBe(200)
    expect((await ailsa.raw('GET', '/api/labels.pdf?q=nothing-of-this')).status).toBe(404)
    const ten = { list: () => Promise.resolve({ loops: Array<never>(10), next: 'more', areas: [] }) }
    await expect(listWhole(ten, {}, 25)).rejects.toMatchObject({ code: 'too-much-work' })
    expect((await ailsa.raw('GET', '/api/labels.pdf?from=25')).problem.code).toBe('invalid-input')
    expect((await ailsa.raw('GET', `/api/labels.pdf?loopId=${uuid()}`)).status).toBe(404)
    expect((await server.visitor().raw('GET', '/api/labels.pdf')).status).toBe(401)
  })
})
