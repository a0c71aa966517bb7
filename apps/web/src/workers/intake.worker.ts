// Reading a list of ten thousand lines, and trying it, takes seconds: done here, with word of how far it is.
import {
  guessMapping,
  headsOf,
  isRefused,
  readRows,
  type Line,
  type Mapping,
  type RefusedLine,
  type Sheet,
} from '@calm-loop/core/intake'
import { sure } from '@calm-loop/core/sure'
import { expose } from 'comlink'
import { v7 as uuid } from 'uuid'
import { NotTaken, readSheets } from '../places/intake/read-sheets.ts'

/** Of a sheet, what is looked at while its columns are matched. */
export interface SheetLook {
  readonly heads: readonly string[]
  /** The first lines below the heads that have anything in them. */
  readonly samples: readonly (readonly string[])[]
}
export interface Tried {
  readonly good: number
  readonly refused: readonly RefusedLine[]
  /** What was written otherwise, or left out, by line. */
  readonly notes: readonly { readonly line: number; readonly note: string }[]
  /** Lines of the loops that could be made, by tag. */
  readonly lineOf: Readonly<Record<string, number>>
}
const SAMPLES = 3
/** Lines between two words of how far it is. */
const TELL_EVERY = 500

let sheets: readonly Sheet[] = []
let lines: readonly Line[] = []

const worker = {
  /** The sheets of a file; words where it is not taken. */
  async open(file: Blob, name: string): Promise<{ sheets?: { name: string; lines: number }[]; says?: string }> {
    try {
      sheets = await readSheets(file, name)
      return { sheets: sheets.map((s) => ({ name: s.name, lines: s.rows.filter((r) => r.length).length })) }
    } catch (error) {
      if (error instanceof NotTaken) return { says: error.message }
      throw error
    }
  },
  guess: (sheet: number): Mapping => guessMapping(sure(sheets[sheet])),
  look(sheet: number, mapping: Pick<Mapping, 'header' | 'headerLines'>): SheetLook {
    const of = sure(sheets[sheet])
    const below = of.rows.slice(mapping.header + mapping.headerLines)
    return {
      heads: headsOf(of, mapping),
      samples: below.filter((row) => row.some((c) => c.trim())).slice(0, SAMPLES),
    }
  },
  /** Tries every line; nothing is sent anywhere. */
  tryOut(sheet: number, mapping: Mapping, tell: (share: number) => void): Tried {
    const of = sure(sheets[sheet])
    const [good, refused]: [Line[], RefusedLine[]] = [[], []]
    let n = 0
    for (const read of readRows(of, mapping)) {
      if (isRefused(read)) refused.push(read)
      else good.push(read)
      if (++n % TELL_EVERY === 0) tell(read.line / of.rows.length)
    }
    lines = good
    const notes = good.flatMap(({ line, notes: all }) => all.map((note) => ({ line, note })))
    return { good: good.length, refused, notes, lineOf: Object.fromEntries(good.map((l) => [l.loop.tag, l.line])) }
  },
  /** The file that brings in what was tried, without these tags; each loop under an id of its own. */
  file(without: readonly string[]): { file: Blob; loops: number } {
    const out = new Set(without)
    const loops = lines
      .filter((l) => !out.has(l.loop.tag))
      .map(({ loop }) => ({ ...loop, id: uuid(), versionId: uuid() }))
    return { file: new Blob([JSON.stringify({ loops })]), loops: loops.length }
  },
}
export type IntakeWorker = typeof worker
expose(worker)
