// A sheet of an instrument list as text, and what its columns are: found out from their heads, settled by a person.
import { KINDS } from '../kinds/index.ts'
import { findUnit } from '../quantity/index.ts'

/** A sheet as it stands in its file, each cell as text, from its first line. */
export interface Sheet {
  readonly name: string
  readonly rows: readonly (readonly string[])[]
}

/** What a column can be besides an entry: part of who the loop is, both ends of its range in one cell, or its unit. */
export const PLAIN = ['tag', 'service', 'area', 'kind', 'range', 'rangeUnit'] as const
export type Plain = (typeof PLAIN)[number]

export interface Column {
  /** One of `PLAIN`, the key of an entry, or '' where the column is left out. */
  readonly to: string
  /** In which its figures are, where a cell does not say it; '' where it has none. */
  readonly unit: string
}
/** How a sheet is read. */
export interface Mapping {
  /** Line of the heads, from 0; what is above it is left out. */
  readonly header: number
  /** Lines that the heads take: two where they stand over one another. */
  readonly headerLines: number
  readonly columns: readonly Column[]
  /** Kind of a loop by the words that the sheet has for it, as `plainWords` makes them. */
  readonly kinds: Readonly<Record<string, string>>
  readonly decimalMark: '.' | ','
}

/** Words as they are compared: small, without signs. */
export const plainWords = (words: string): string =>
  words
    .toLowerCase()
    .replace(/[^\p{L}\p{N}%]+/gu, ' ')
    .trim()

const CALLED: readonly (readonly [to: string, words: readonly string[]])[] = [
  ['tag', ['tag', 'tag no', 'tag number', 'loop', 'loop no', 'loop tag', 'instrument', 'instrument tag']],
  ['service', ['service', 'description', 'duty', 'service description', 'measures what']],
  ['area', ['area', 'plant area', 'location', 'section', 'unit area']],
  ['kind', ['kind', 'type', 'instrument type', 'measurement', 'measuring principle', 'principle']],
  ['range', ['range', 'calibrated range', 'measuring range', 'span']],
  ['rangeUnit', ['unit', 'units', 'range unit', 'unit of range', 'engineering unit', 'eng unit']],
  ['device', ['device', 'model', 'make', 'make and model', 'make model']],
  ['serial', ['serial', 'serial no', 'serial number', 's n', 'ser no']],
  ['controls', ['controls', 'trips', 'interlock']],
  ['tell', ['tell', 'who must be told', 'operator', 'contact person']],
  ['lrv', ['lrv', 'range low', 'lower range', 'lower range value', 'low', 'min', '4 ma', 'range from', 'from']],
  ['urv', ['urv', 'range high', 'upper range', 'upper range value', 'high', 'max', '20 ma', 'range to', 'to']],
  ['supply', ['supply', 'loop supply', 'supply voltage']],
  ['liftOff', ['lift off', 'lift off voltage', 'minimum voltage', 'min voltage']],
  ['shunt', ['shunt', 'receiver shunt', 'resistor', 'burden']],
  ['cableLength', ['cable', 'cable length', 'length of cable', 'cable run']],
  ['conductor', ['conductor', 'cable size', 'core', 'wire size']],
  ['tolerance', ['tolerance', 'accuracy', 'tolerance of span']],
]
/** Entries by what the fields themselves are called, of every kind. */
const labels = (): ReadonlyMap<string, string> =>
  new Map(KINDS.flatMap((k) => k.fields.map((f) => [plainWords(f.label), f.key] as const)))

/** A head taken apart: its words, and the unit that stands in brackets or after a comma. */
export function headOf(text: string): { words: string; unit: string } {
  const brackets = /^(.*?)[([]([^)\]]+)[)\]]\s*$/.exec(text)
  if (brackets) return { words: plainWords(brackets[1] ?? ''), unit: (brackets[2] ?? '').trim() }
  const comma = /^(.+),\s*(\S{1,8})$/.exec(text.trim())
  return comma ? { words: plainWords(comma[1] ?? ''), unit: comma[2] ?? '' } : { words: plainWords(text), unit: '' }
}

/** The heads of a sheet, of two lines as one: a head over several columns goes for each of them. */
export function headsOf({ rows }: Sheet, { header, headerLines }: Pick<Mapping, 'header' | 'headerLines'>): string[] {
  const lines = rows.slice(header, header + headerLines)
  const width = Math.max(0, ...lines.map((l) => l.length))
  return Array.from({ length: width }, (_, i) =>
    [...new Set(lines.map((l) => (l[i] ?? '').trim()))].filter(Boolean).join(' '),
  )
}

/** Of a list that was made here: its heads name the entry. */
const NAMED = /\[([A-Za-z0-9]+)\]\s*$/
/** The head of an entry in a list that is made here, so that it is known when it comes back. */
export const headFor = ({ key, label }: { readonly key: string; readonly label: string }): string => `${label} [${key}]`
function namedIn(head: string, all: ReadonlyMap<string, string>): string {
  const key = NAMED.exec(head)?.[1] ?? ''
  return key !== '' && [...all.values()].includes(key) ? key : ''
}
const known = (words: string, all: ReadonlyMap<string, string>): string =>
  CALLED.find(([, names]) => names.includes(words))?.[0] ?? all.get(words) ?? ''

/** How many of a line's cells are heads that are known. */
const headsIn = (line: readonly string[], all: ReadonlyMap<string, string>) =>
  line.filter((cell) => (namedIn(cell, all) || known(headOf(cell).words, all)) !== '').length

/** The kind that a list's words mean: by its name, else the one with the longest words among them; '' where none is. */
export function kindFor(words: string): string {
  const plain = ` ${plainWords(words)} `
  const named = KINDS.find((k) => ` ${plainWords(k.name)} ` === plain || k.id === words.trim().toLowerCase())
  if (named) return named.id
  const fits = KINDS.flatMap((k) =>
    k.listed.filter((l) => plain.includes(` ${l} `)).map((l) => [l.length, k.id] as const),
  )
  return fits.sort(([a], [b]) => b - a)[0]?.[1] ?? ''
}

/** Numbers with a comma and no point in them, among those with either. */
function commaIsDecimal(rows: Sheet['rows']): boolean {
  let [commas, points] = [0, 0]
  for (const cell of rows.flat()) {
    if (/^-?\d+,\d+$/.test(cell.trim()) && !/^-?\d{1,3},\d{3}$/.test(cell.trim())) commas++
    if (/^-?\d+\.\d+$/.test(cell.trim())) points++
  }
  return commas > points
}

/** Lines at the top of a sheet among which its heads are looked for. */
const LOOK_AMONG = 20
/** How a sheet is probably read: for a person to look at and settle. */
export function guessMapping(sheet: Sheet): Mapping {
  const all = labels()
  const top = sheet.rows.slice(0, LOOK_AMONG)
  const scores = top.map((line) => headsIn(line, all))
  const header = Math.max(0, scores.indexOf(Math.max(0, ...scores)))
  // A second line of heads holds words or units, and no tag.
  const next = sheet.rows[header + 1] ?? []
  const unitLine = next.filter(Boolean).length > 0 && next.every((c) => !c || isUnit(c) || known(headOf(c).words, all))
  const headerLines = unitLine ? 2 : 1
  const heads = headsOf(sheet, { header, headerLines })
  const taken = new Set<string>()
  const columns = heads.map((head, i): Column => {
    const below = unitLine ? (next[i] ?? '') : ''
    const { words, unit } = headOf(isUnit(below) ? (sheet.rows[header]?.[i] ?? '') : head)
    const to = namedIn(head, all) || known(words, all)
    if (!to || taken.has(to)) return { to: '', unit: '' }
    taken.add(to)
    return { to, unit: isUnit(below) ? below.trim() : isUnit(unit) ? unit : '' }
  })
  const at = columns.findIndex((c) => c.to === 'kind')
  const said = new Set(at < 0 ? [] : sheet.rows.slice(header + headerLines).map((row) => plainWords(row[at] ?? '')))
  const kinds = Object.fromEntries([...said].filter(Boolean).map((words) => [words, kindFor(words)]))
  const decimalMark = commaIsDecimal(sheet.rows.slice(header + headerLines, header + 200)) ? ',' : '.'
  return { header, headerLines, columns, kinds, decimalMark }
}

/** Whether a text is a unit of something that is entered. */
export const isUnit = (text: string): boolean => text.trim() !== '' && findUnit(text.trim()) !== undefined
