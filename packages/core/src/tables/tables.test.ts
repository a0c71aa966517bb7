// Tables as they are looked through, and rows of the site's own: what stands, what came before, who uses them.
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { demoEntries } from '../kinds/demo-entries.fixture.ts'
import { kindOf } from '../kinds/index.ts'
import { study } from '../loop/index.ts'
import { entryFrom } from '../quantity/index.ts'
import {
  builtInTables,
  kindsChoosing,
  kindsOfRow,
  OWN_ROWS,
  OWN_TABLES,
  standingRows,
  usesRow,
  type KeptRow,
} from './index.ts'

describe('built-in tables', () => {
  it.each(builtInTables().map((t) => [t.name, t] as const))(
    '%s: a source, and a cell for each head in each row',
    (_, t) => {
      expect(t.source.length).toBeGreaterThan(8)
      expect(t.rows.length).toBeGreaterThan(1)
      expect(new Set(t.rows.map((r) => r.id)).size).toBe(t.rows.length)
      for (const row of t.rows) {
        expect(row.cells).toHaveLength(t.heads.length)
        expect(row.cells.join(' ')).not.toMatch(/NaN|undefined|Infinity/)
        if (t.source === 'Row by row') expect(row.source?.length).toBeGreaterThan(8)
      }
    },
  )
  it('give a row of one’s own every figure that it needs, read as it is meant', () => {
    for (const t of builtInTables()) {
      if (!t.own) continue
      const { figures } = OWN_ROWS[t.own]
      const kinds = kindsOfRow(OWN_ROWS[t.own])
      for (const row of t.rows.filter((r) => r.fills))
        for (const { key } of figures) {
          const field = kindOf(kinds[0]!).fields.find((f) => f.key === key)!
          const typed = row.fills![key]!
          if (field.type === 'quantity')
            expect(entryFrom(typed, field).value, `${t.name} ${row.id} ${key}`).toBeDefined()
          else expect(typed).not.toBe('')
        }
    }
  })
  it('have rows that some kind of loop can choose, where they say so', () => {
    for (const t of builtInTables().filter((b) => b.choice))
      expect(
        t.rows.some((r) => kindsChoosing(t.choice!, r.id).length > 0),
        t.name,
      ).toBe(true)
    expect(kindsChoosing('material', 'wood')).toEqual([])
  })
  it('say what the loops that use a row reckon with: copied, its figures are the same', () => {
    const entries = demoEntries('clamp-on', { material: 'carbon-steel', fluidTemp: '20 °C' })
    const steel = builtInTables()
      .find((t) => t.id === 'materials')!
      .rows.find((r) => r.id === 'carbon-steel')!
    const field = kindOf('clamp-on').fields.find((f) => f.key === 'wallSpeed')!
    if (field.type !== 'quantity') throw new Error('no quantity')
    const own = { ...entries, material: { typed: 'own' }, wallSpeed: entryFrom(steel.fills!['wallSpeed']!, field) }
    const spacing = (of: typeof entries) =>
      study(kindOf('clamp-on'), of).figures.find((f) => /spacing/i.test(f.id))?.value
    expect(spacing(entries)).toBeDefined()
    expect(spacing(own)).toBeCloseTo(spacing(entries)!, 6)
  })
})

it('a fill that is copied reckons as the built-in one does: its specific gravity is that of the same water', () => {
  const field = kindOf('level-dp').fields.find((f) => f.key === 'legSg')!
  if (field.type !== 'quantity') throw new Error('no quantity')
  const fills = builtInTables()
    .find((t) => t.id === 'fills')!
    .rows.filter((r) => r.fills)
  expect(fills.length).toBeGreaterThan(2)
  for (const { id, fills: copied } of fills) {
    const entries = demoEntries('level-dp', { arrangement: 'seals', legFill: id, legTemp: '20 °C', sealsApart: '3 m' })
    const own = { ...entries, legFill: { typed: 'own' }, legSg: entryFrom(copied!['legSg']!, field) }
    const ends = (of: typeof entries) => {
      const known = study(kindOf('level-dp'), of)
      return known.family === 'current' ? known.rangeFromMounting?.('mbar') : undefined
    }
    expect(ends(entries), id).toBeDefined()
    expect(ends(own)!.low, id).toBeCloseTo(ends(entries)!.low, 1)
  }
})

describe('rows of the site’s own', () => {
  it('fill entries that their kinds have, and make the choice that wants them', () => {
    expect(OWN_TABLES.filter((t) => !kindsOfRow(OWN_ROWS[t]).length)).toEqual([])
    for (const table of OWN_TABLES)
      for (const id of kindsOfRow(OWN_ROWS[table]).slice(0, 1)) {
        const { fields } = kindOf(id)
        const choice = fields.find((f) => f.key === OWN_ROWS[table].choice)
        expect(choice?.type === 'choice' && choice.options.some((o) => o.value === 'own'), table).toBe(true)
        for (const { key } of OWN_ROWS[table].figures)
          expect(
            fields.some((f) => f.key === key),
            key,
          ).toBe(true)
      }
  })
  const row = (id: string, follows?: string): KeptRow => ({ ...{ id, table: 'liquid', name: id, fills: {} }, follows })
  it('stand where none follows them, with those before them', () => {
    const found = standingRows([row('a'), row('b', 'a'), row('c', 'b'), row('x')])
    expect(found.map(({ row: r, before }) => [r.id, before.map((b) => b.id)])).toEqual([
      ['c', ['b', 'a']],
      ['x', []],
    ])
  })
  it('end, whatever follows what', () => {
    const rows = fc.array(fc.tuple(fc.nat(9), fc.option(fc.nat(9), { nil: undefined })), { maxLength: 12 })
    fc.assert(
      fc.property(rows, (links) => {
        const all = [
          ...new Map(
            links.map(([id, to]) => [id, row(String(id), to === undefined ? undefined : String(to))]),
          ).values(),
        ]
        for (const { row: r, before } of standingRows(all)) expect(before).not.toContain(r)
      }),
    )
  })
  it('are used where every entry is typed as they fill it in', () => {
    const fills = { liquid: 'own', ownSpeed: '1340 m/s' }
    expect(usesRow({ liquid: { typed: 'own' }, ownSpeed: { typed: '1340 m/s' }, od: { typed: '9' } }, fills)).toBe(true)
    expect(usesRow({ liquid: { typed: 'own' }, ownSpeed: { typed: '1341 m/s' } }, fills)).toBe(false)
    expect(usesRow({}, {})).toBe(false)
  })
})
