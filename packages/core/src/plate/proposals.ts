// What a plate's words propose for the entries of a loop: each value with its place on the plate, for a person to
// confirm. Nothing is entered by reading.
import type { Entries, Field, PointKind } from '../kinds/index.ts'
import { around, type Box, type ReadLine, type ReadWord } from './reading.ts'

/** A value of the plate, and the entry that it is thought to belong to. */
export interface Proposal {
  /** Key of the entry; undefined where the plate does not say what it is. */
  readonly key: string | undefined
  /** What stands before it on the plate. */
  readonly label: string
  /** As an entry is typed. */
  readonly typed: string
  /** For each sign of `typed` whether it is to be looked at. */
  readonly doubt: readonly boolean[]
  readonly box: Box
}

/** Words by which plates call an entry: the first of `keys` that the loop has takes the value, the second a second. */
interface Called {
  readonly words: readonly string[]
  readonly keys: readonly string[]
  /** Both ends of a range: the keys come in twos. */
  readonly range?: boolean
}
const CALLED: readonly Called[] = [
  {
    words: ['serial number', 'serial no', 'serial', 'ser no', 's/n'],
    keys: ['serialA', 'serialB', 'serialA2', 'serialB2', 'sensorSerial', 'electrodeSerial', 'serial'],
  },
  { words: ['model', 'device', 'type'], keys: ['device'] },
  {
    words: ['supply', 'power', 'u', 'ub'],
    keys: ['supplyLeast', 'supplyMost', 'powerLeast', 'powerMost', 'liftOff', ''],
    range: true,
  },
  { words: ['range', 'span', 'limits'], keys: ['sensorLow', 'sensorHigh', 'lrv', 'urv'], range: true },
  { words: ['rated distance', 'sn', 'sr'], keys: ['rated'] },
]
/** Entries that say what the plate of this very loop calls another: letters → the entry beside them. */
const LETTERS = /Letters$/

/** Words of a plate as they are compared: a Greek rho is read as a p. */
const plain = (words: string) =>
  words
    .toLowerCase()
    .replace(/ρ/g, 'p')
    .replace(/[.:_]+/g, ' ')
    .replace(/\s+/g, ' ')
    .trim()
const isFigure = (word: string) => /\d/.test(word)

/** A line taken apart: what it calls the value, and the value. */
function halves(line: ReadLine, names: ReadonlySet<string>): { label: ReadWord[]; value: ReadWord[] } {
  for (let n = Math.min(3, line.words.length - 1); n >= 1; n--) {
    const label = line.words.slice(0, n)
    if (names.has(plain(label.map((w) => w.text).join(' ')))) return { label, value: line.words.slice(n) }
  }
  const at = line.words.findIndex((w) => isFigure(w.text))
  return at < 0
    ? { label: [...line.words], value: [] }
    : { label: line.words.slice(0, at), value: line.words.slice(at) }
}

/** Words as one text, each gap a sign that nobody doubts. */
function joined(words: readonly ReadWord[]): { typed: string; doubt: boolean[] } {
  const doubt = words.flatMap((w, i) => (i ? [false, ...w.doubt] : [...w.doubt]))
  return { typed: words.map((w) => w.text).join(' '), doubt }
}

const RANGE = /^([-+]?\d+(?:[.,]\d+)?)\s*(?:-|\.\.\.?|…|to)\s*([-+]?\d+(?:[.,]\d+)?)\s*(.*)$/
/** Both ends of a range as two values, each with the unit; undefined where it is none. */
function ends(typed: string, doubt: readonly boolean[]) {
  const found = RANGE.exec(typed)
  if (!found) return undefined
  const [, low = '', high = '', rest = ''] = found
  // What kind of voltage it is stands in an entry of its own.
  const unit = rest.replace(/\s*\b(AC|DC)\b\s*$/i, '').replace(/^V(AC|DC)$/i, 'V')
  const at = typed.indexOf(high, low.length + 1)
  const unitDoubt = doubt.slice(typed.length - rest.length, typed.length - rest.length + unit.length)
  const one = (figure: string, from: number) => ({
    typed: unit ? `${figure} ${unit}` : figure,
    doubt: [...doubt.slice(from, from + figure.length), ...(unit ? [false, ...unitDoubt] : [])],
  })
  return [one(low, 0), one(high, at)] as const
}

/**
 * What the lines of a plate propose for a loop of this kind, in its order; without a key what has a figure in it
 * and no entry is known for.
 */
export function proposals(
  kind: Pick<PointKind, 'fields'>,
  entries: Entries,
  lines: readonly ReadLine[],
): readonly Proposal[] {
  const fields = new Map<string, Field>(kind.fields.map((f) => [f.key, f]))
  const own: Called[] = kind.fields
    .filter((f) => LETTERS.test(f.key) && entries[f.key]?.typed)
    .map((f) => ({ words: [plain(entries[f.key]?.typed ?? '')], keys: [f.key.replace(LETTERS, 'Tag')] }))
  const called = [...own, ...CALLED].map((c) => ({ ...c, keys: c.keys.filter((k) => k === '' || fields.has(k)) }))
  const names = new Set(called.filter((c) => c.keys.length).flatMap((c) => c.words))
  const taken = new Set<string>()
  const next = (keys: readonly string[]) => keys.find((k) => k !== '' && !taken.has(k))
  const take = (key: string | undefined) => {
    if (key !== undefined) taken.add(key)
    return key
  }
  return lines.flatMap((line): Proposal[] => {
    const { label, value } = halves(line, names)
    if (!value.length) return []
    const words = joined(value)
    const name = label.map((w) => w.text).join(' ')
    const box = around(value.map((w) => w.box))
    const known = called.find((c) => c.words.includes(plain(name)) && c.keys.length)
    const both = known?.range ? ends(words.typed, words.doubt) : undefined
    if (known && both) {
      const [low, high] = known.keys.slice(0, 2)
      return both.flatMap((end, i) => {
        const key = i ? high : low
        return key ? [{ key: take(key), label: name, ...end, box }] : []
      })
    }
    if (!words.typed.split('').some((sign) => /\d/.test(sign)) && !known) return []
    return [{ key: known && !known.range ? take(next(known.keys)) : undefined, label: name, ...words, box }]
  })
}
