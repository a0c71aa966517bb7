// Every field of every kind in every unit of its quantity: the unit layer is the only place that knows units, so a
// loop whose entry is
// typed in another unit is the same loop.
import { describe, expect, it } from 'vitest'
import { study } from '../loop/index.ts'
import { convertUnit, entryFrom, entryIn, parseQuantity, unitOf, unitsOf, type Unit } from '../quantity/index.ts'
import { sure } from '../sure/index.ts'
import { demoEntries } from './demo-entries.fixture.ts'
import { KINDS, readEntries, type Field, type PointKind } from './index.ts'

type QuantityField = Extract<Field, { type: 'quantity' }>
const fieldsOf = (kind: PointKind) => kind.fields.filter((f): f is QuantityField => f.type === 'quantity')
/** Unit of a number without one; it is not typed. */
const BARE = '1'
/** Units that a field takes as they stand: a gauge pressure is not typed in psia. */
const unitsFor = (field: QuantityField): Unit[] =>
  unitsOf(field.quantity).filter(
    (u) => u.symbol !== BARE && (!u.reference || u.reference === (field.reference ?? 'gauge')),
  )
/** As many digits as an entry may have. */
const typed = (value: number, unit: string) => `${Number(value.toPrecision(13))} ${unit}`
const near = (a: number, b: number, scale = 1) => Math.abs(a - b) <= 1e-8 * Math.max(Math.abs(a), Math.abs(b), scale)

describe.each(KINDS.map((k) => [k.id, k] as const))('%s', (id, kind) => {
  const fields = fieldsOf(kind)

  it('reads every field in every unit of its quantity, by symbol and by the label that it prints', () => {
    expect(fields.length).toBeGreaterThan(3)
    for (const field of fields)
      for (const unit of unitsFor(field))
        for (const name of new Set([unit.symbol, unit.label])) {
          const value = 7.25
          const parsed = parseQuantity(`${value} ${name}`, field)
          const at = `${field.key} in ${name}`
          if (!parsed.ok) throw new Error(`${at}: ${parsed.says}`)
          const entry = entryFrom(`${value} ${name}`, field)
          const reader = readEntries(kind.fields, { [field.key]: entry })
          const wanted = convertUnit(value, unit.symbol, field.unit)
          // A percentage and other bare numbers may be limited by the field itself.
          expect(near(entryIn(entry, field.unit)!, wanted, Math.abs(unit.offset)), at).toBe(true)
          const seen = reader.in(field.key, field.unit)
          if (seen !== undefined) expect(near(seen, wanted, Math.abs(unit.offset)), at).toBe(true)
        }
  })

  it('refuses every unit of another quantity in words, and keeps what was typed', () => {
    for (const field of fields) {
      const other = unitOf(field.quantity === 'mass-flow' ? 'mm' : 'kg/h')
      const parsed = parseQuantity(`3 ${other.symbol}`, field)
      expect(parsed.ok, field.key).toBe(false)
      if (!parsed.ok) expect(parsed.says, field.key).toMatch(/measures|unit/)
      expect(entryFrom(`3 ${other.symbol}`, field)).toEqual({ typed: `3 ${other.symbol}` })
    }
  })

  it('tells a hundredth of its range apart at every knot, whatever unit the range is typed in', () => {
    const range = fields.filter((f) => f.key === 'lrv' || f.key === 'urv')
    if (kind.family !== 'current' || range.length < 2) return
    for (const unit of unitsFor(sure(range[0]))) {
      const changed = Object.fromEntries(
        range.map((f) => {
          const own = entryIn(demoEntries(id)[f.key], f.unit)
          return [f.key, own === undefined ? '' : typed(convertUnit(own, f.unit, unit.symbol), unit.symbol)]
        }),
      )
      const { thread, scales } = study(kind, demoEntries(id, changed))
      thread.knots.forEach((knot, i) => {
        const { low, high } = scales[i]!
        if (low === undefined || high === undefined || low === high) return
        expect(10 ** -knot.decimals, `${knot.id} in ${unit.symbol}`).toBeLessThanOrEqual(Math.abs(high - low) / 100)
      })
    }
  })

  it('is the same loop whatever unit an entry is typed in', () => {
    const entries = demoEntries(id)
    const look = (changed: typeof entries) => {
      const s = study(kind, changed)
      // What the bench's process goes between.
      if (s.family === 'current') for (const v of Object.values(s.process() ?? {})) expect(v).not.toBeNaN()
      return { figures: s.figures, codes: s.findings.map((f) => f.code).sort(), missing: s.missing }
    }
    const plain = look(entries)
    expect(plain.figures.length).toBeGreaterThan(0)
    for (const field of fields) {
      const entry = entries[field.key]
      if (entry?.value === undefined || entry.unit === undefined) continue
      for (const unit of unitsFor(field)) {
        const text = typed(convertUnit(entry.value, entry.unit, unit.symbol), unit.symbol)
        const again = look({ ...entries, [field.key]: entryFrom(text, field) })
        const at = `${field.key}: ${text}`
        expect(again.missing, at).toEqual(plain.missing)
        expect(again.codes, at).toEqual(plain.codes)
        plain.figures.forEach((figure, i) => {
          const now = again.figures[i]!
          expect(now.id, at).toBe(figure.id)
          if (figure.value === undefined || now.value === undefined) {
            expect(now.value, `${figure.id}, ${at}`).toBe(figure.value)
            return
          }
          // A figure of the range is told in the unit of the range.
          const value = now.unit === figure.unit ? now.value : convertUnit(now.value, now.unit, figure.unit)
          expect(Math.abs(value - figure.value), `${figure.id}, ${at}`).toBeLessThanOrEqual(
            1e-6 * Math.max(1, Math.abs(figure.value)),
          )
        })
      }
    }
  })

  it('never shows a figure that is no number, however an entry is half typed', () => {
    const entries = demoEntries(id)
    for (const field of fields)
      for (const text of ['', '0', '-1', '1e-9', '999999999', '3 zork']) {
        const s = study(kind, { ...entries, [field.key]: entryFrom(text, field) })
        for (const figure of s.figures)
          expect(
            figure.value === undefined || Number.isFinite(figure.value),
            `${figure.id} with ${field.key} = ${text}`,
          ).toBe(true)
        for (const finding of s.findings)
          expect(
            `${finding.what} ${finding.why} ${finding.action}`,
            `${finding.code} with ${field.key} = ${text}`,
          ).not.toMatch(/NaN|undefined|Infinity|\[object/)
      }
  })
})
