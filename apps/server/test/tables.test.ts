// Rows of the site's own in its tables: changed without losing what was, and what a change would move told before.
import type { SiteRow, TableUses } from '@calm-loop/contract'
import { v7 as uuid } from 'uuid'
import { describe, expect, it } from 'vitest'
import { demoEntries, firstVersion } from '../../../packages/core/src/kinds/demo-entries.fixture.ts'
import { good, served } from './harness.ts'

const { ailsa } = await served()
const fills = (speed: string) => ({ material: 'own', wallSpeed: speed })
const row = (name: string, speed: string, follows?: string) => ({
  ...{ table: 'material', name, source: 'Gauged here', fills: fills(speed) },
  ...(follows ? { follows } : {}),
})
const keep = (id: string, body: object) => ailsa.call('addSiteRow', { rowId: id }, body)
const uses = async (body: object) => good(await ailsa.call('tableUses', {}, body)).body as TableUses
async function loopWith(tag: string, more: Record<string, string>): Promise<string> {
  const id = uuid()
  good(await ailsa.call('createLoop', { loopId: id }, { tag, service: 'Of a row', area: 'Test', kind: 'clamp-on' }))
  const version = firstVersion(demoEntries('clamp-on', more))
  good(await ailsa.call('saveVersion', { loopId: id, versionId: uuid() }, version))
  return id
}

describe('a row of the site’s own', () => {
  it('is changed by one that follows it; what was stays, and of two who change it the second is told', async () => {
    const [first, second] = [uuid(), uuid()]
    good(await keep(first, row('steel of the old line', '3190 m/s')))
    const changed = good(await keep(second, row('steel of the old line', '3210 m/s', first))).body as SiteRow
    expect(changed.follows).toBe(first)
    expect(await keep(second, row('steel of the old line', '3210 m/s', first))).toMatchObject({ status: 200 })
    expect(await keep(uuid(), row('mine', '3000 m/s', first))).toMatchObject({
      status: 409,
      body: { code: 'setting-changed' },
    })
    expect(await keep(uuid(), row('mine', '3000 m/s', uuid()))).toMatchObject({ status: 404 })
    const gas = {
      ...{ table: 'gas', name: 'x', source: 'y', fills: { gas: 'own', composition: 'methane 100 %' } },
      follows: second,
    }
    expect(await keep(uuid(), gas)).toMatchObject({ status: 404 })
    const all = good(await ailsa.call('siteRows')).body as SiteRow[]
    expect(all.filter((r) => r.name === 'steel of the old line')).toHaveLength(2)
  })
  it('is used where its figures, or those before them, stand; a change is told of before it is made', async () => {
    const [first, second] = [uuid(), uuid()]
    await loopWith('FT-7901', { material: 'own', wallSpeed: '3150 m/s' })
    await loopWith('FT-7902', { material: 'own', wallSpeed: '3160 m/s' })
    good(await keep(first, row('line four', '3150 m/s')))
    good(await keep(second, row('line four', '3160 m/s', first)))
    const found = await uses({ of: { rowId: second } })
    expect(found.loops.map((l) => [l.tag, l.row])).toEqual([
      ['FT-7901', first],
      ['FT-7902', second],
    ])
    expect(found.loops.flatMap((l) => l.moved)).toEqual([])
    const moved = await uses({ of: { rowId: second }, fills: fills('3300 m/s') })
    for (const l of moved.loops) expect(l.moved.map((m) => m.label).join(' ')).toMatch(/[Ss]pacing/)
    const same = await uses({ of: { rowId: second }, fills: fills('3160 m/s') })
    expect(same.loops.map((l) => l.moved.length > 0)).toEqual([true, false])
    expect(await uses({ of: { rowId: second } })).toEqual(found)
  })
  it('of the built-in ones is found by the choice, in loops of its kinds', async () => {
    const of = { choice: 'material', value: 'stainless-steel', kinds: ['clamp-on'] }
    await loopWith('FT-7903', { material: 'stainless-steel' })
    expect((await uses({ of })).loops.map((l) => l.tag)).toContain('FT-7903')
    expect((await uses({ of: { ...of, kinds: ['pressure'] } })).loops).toEqual([])
    expect((await uses({ of: { ...of, value: 'wood' } })).loops).toEqual([])
    expect(await ailsa.call('tableUses', {}, { of: { rowId: uuid() } })).toMatchObject({ status: 404 })
  })
})
