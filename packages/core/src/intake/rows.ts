// Lines of a sheet as loops to be made, each whole, or refused with every reason; nothing is guessed at in between.
import { kindOf, versionOf, type Entries, type Field, type PointKind } from '../kinds/index.ts'
import { entryFrom, quantityName, type Entry } from '../quantity/index.ts'
import { tagFrom } from '../words/index.ts'
import { plainWords, type Column, type Mapping, type Sheet } from './table.ts'

/** A loop as a line tells of it. */
export interface NewLoop {
  readonly tag: string
  readonly service: string
  readonly area: string
  readonly kind: string
  readonly kindVersion: number
  readonly entries: Entries
}
export interface Line {
  /** In the file, from 1. */
  readonly line: number
  readonly loop: NewLoop
  /** What is left out, as such a loop has no entry for it, and what is written otherwise. */
  readonly notes: readonly string[]
}
export interface RefusedLine {
  readonly line: number
  /** As it stands in the file; '' where there is none. */
  readonly tag: string
  readonly why: readonly string[]
}
export type Read = Line | RefusedLine
export const isRefused = (read: Read): read is RefusedLine => 'why' in read

/** What is written where nothing is known. */
const NOTHING = /^(|-+|–|n\/?a|tbd|tba|\?+)$/i
const LONGEST = { service: 120, area: 80, text: 200 } as const
const RANGE = /^([-+]?\d+(?:[.,]\d+)?)\s*(\S*?)\s*(?:-|–|to|…|\.\.\.?)\s*([-+]?\d+(?:[.,]\d+)?)\s*(.*)$/

/** Columns that are no entries; and those whose unit may stand in a column of its own. */
const NO_ENTRY = new Set(['tag', 'service', 'area', 'kind', 'rangeUnit'])
const RANGED = new Set(['range', 'lrv', 'urv'])

/** How cells are read, given one line's kind. */
interface Reading {
  readonly fields: ReadonlyMap<string, Field>
  readonly decimalMark: '.' | ','
}

/** What a program would work out is no value that anybody wrote. */
const isFormula = (cell: string) => cell.startsWith('=')

function quantityOf(
  field: Extract<Field, { type: 'quantity' }>,
  cell: string,
  unit: string,
  of: Reading,
): Entry | string {
  const bare = /^[-+]?[\d.,\s]+$/.test(cell)
  const typed = bare && unit ? `${cell} ${unit}` : cell
  const { quantity, reference } = field
  const entry = entryFrom(typed, { quantity, unit: field.unit, reference, decimalMark: of.decimalMark })
  if (entry.value === undefined) return `${field.label}: “${typed}” cannot be read as ${quantityName(quantity)}.`
  // A figure without a unit is kept with the one that it was understood in.
  return entry
}

/** A cell as an entry; why not, in words. */
function entryOf(field: Field, cell: string, unit: string, of: Reading): Entry | string {
  if (isFormula(cell)) return `${field.label}: a formula stands there, and no value.`
  if (field.type === 'quantity') return quantityOf(field, cell, unit, of)
  if (field.type === 'choice') {
    const plain = plainWords(cell)
    const found = field.options.find((o) => o.value === cell || plainWords(o.label) === plain)
    if (found) return { typed: found.value }
    const among = field.options.slice(0, 6).map((o) => o.label)
    return `${field.label}: “${cell}” is none of ${among.join(', ')}${field.options.length > 6 ? ' …' : ''}.`
  }
  if (field.type !== 'text') return `${field.label} is not taken from a list.`
  return cell.length > LONGEST.text ? `${field.label}: more than ${LONGEST.text} letters.` : { typed: cell }
}

/** Both ends of a range in one cell, as two entries. */
function rangeOf(cell: string, unit: string, of: Reading): Record<string, Entry | string> {
  const found = RANGE.exec(cell)
  const ends = [of.fields.get('lrv'), of.fields.get('urv')]
  if (isFormula(cell)) return { lrv: 'Range: a formula stands there, and no value.' }
  if (!found) return { lrv: `Range: “${cell}” is not two ends, as in 0–10 bar.` }
  const [, low = '', own = '', high = '', after = ''] = found
  const said = after.trim() || own || unit
  return Object.fromEntries(
    ends.flatMap((field, i) =>
      field ? [[field.key, entryOf(field, said ? `${i ? high : low} ${said}` : i ? high : low, unit, of)]] : [],
    ),
  )
}

/** Who a loop is, by its plain columns; what is wrong with that. */
function identityOf(cell: (to: string) => string, mapping: Mapping): { why: string[]; kind: PointKind | undefined } {
  const why: string[] = []
  for (const [to, what] of [
    ['tag', 'Tag'],
    ['service', 'Service'],
    ['area', 'Area'],
  ] as const) {
    const text = cell(to)
    if (NOTHING.test(text)) why.push(`${what} is missing.`)
    else if (isFormula(text)) why.push(`${what}: a formula stands there, and no value.`)
    else if (to !== 'tag' && text.length > LONGEST[to]) why.push(`${what}: more than ${LONGEST[to]} letters.`)
  }
  const said = cell('tag')
  if (!why.some((w) => w.startsWith('Tag')) && !tagFrom(said))
    why.unshift(`Tag: “${said.slice(0, 60)}” is not letters and a number, such as LT-112.`)
  const words = plainWords(cell('kind'))
  const id = mapping.kinds[words] ?? ''
  if (!id) why.push(words ? `Kind: it is not settled what “${cell('kind')}” is.` : 'Kind is missing.')
  return { why, kind: id ? kindOf(id) : undefined }
}

function readLine(row: readonly string[], line: number, mapping: Mapping): Read {
  const at = new Map(mapping.columns.flatMap((c, i) => (c.to ? [[c.to, i] as const] : [])))
  const cell = (to: string) => (at.has(to) ? (row[at.get(to) ?? 0] ?? '').trim().replace(/\s+/g, ' ') : '')
  const { why, kind } = identityOf(cell, mapping)
  const said = cell('tag').slice(0, 60)
  const tag = tagFrom(said) ?? said
  if (!kind) return { line, tag, why }
  const of: Reading = { fields: new Map(kind.fields.map((f) => [f.key, f])), decimalMark: mapping.decimalMark }
  const entries: Record<string, Entry> = {}
  const notes: string[] = tag === said ? [] : [`${said} is written ${tag}`]
  for (const { to, unit: ofColumn } of mapping.columns) {
    const text = cell(to)
    if (!to || NOTHING.test(text) || NO_ENTRY.has(to)) continue
    const unit = (RANGED.has(to) && cell('rangeUnit')) || ofColumn
    const field = of.fields.get(to)
    const made = to === 'range' ? rangeOf(text, unit, of) : field ? { [to]: entryOf(field, text, unit, of) } : {}
    if (!Object.keys(made).length) notes.push(`left out: ${to} ${text}`)
    for (const [key, entry] of Object.entries(made))
      if (typeof entry === 'string') why.push(entry)
      else entries[key] = entry
  }
  if (why.length) return { line, tag, why }
  const loop = {
    tag,
    service: cell('service'),
    area: cell('area'),
    kind: kind.id,
    kindVersion: versionOf(kind),
    entries,
  }
  return { line, loop, notes }
}

/** Whether a line has anything at all in it. */
const isBlank = (row: readonly string[]) => row.every((c) => !c.trim())

/**
 * The lines of a sheet below its heads, each as a loop or refused: blank ones are passed over, a tag that stands twice
 * is refused where it stands again.
 */
export function* readRows(sheet: Sheet, mapping: Mapping): Generator<Read> {
  const seen = new Map<string, number>()
  for (let i = mapping.header + mapping.headerLines; i < sheet.rows.length; i++) {
    const row = sheet.rows[i] ?? []
    if (isBlank(row)) continue
    const read = readLine(row, i + 1, mapping)
    const tag = isRefused(read) ? read.tag : read.loop.tag
    const before = seen.get(tag.toLowerCase())
    if (tag && before !== undefined) {
      const why = [`${tag} stands in line ${before} already.`, ...(isRefused(read) ? read.why : [])]
      yield { line: read.line, tag, why }
      continue
    }
    if (tag) seen.set(tag.toLowerCase(), read.line)
    yield read
  }
}

/** Columns of which each may be taken once, and those without which no loop is made. */
export function wrongColumns(columns: readonly Column[]): string[] {
  const all = columns.map((c) => c.to).filter(Boolean)
  const twice = all.filter((to, i) => all.indexOf(to) !== i)
  const missing = ['tag', 'service', 'area'].filter((to) => !all.includes(to))
  return [
    ...missing.map((to) => `No column is the ${to}.`),
    ...[...new Set(twice)].map((to) => `Two columns are ${to}.`),
  ]
}
