// A kind of flow point from what is its own: the rest is the same for all of them.
import type { MeterModel } from '../../device/index.ts'
import { gravestFirst, type Finding } from '../../findings/index.ts'
import type { FlowModel } from '../../flow/index.ts'
import type { Sheet } from '../../sheet/index.ts'
import type { Thread } from '../../thread/index.ts'
import type { CurrentKind, Entries, Field, Figure, SetupLine } from '../kind.ts'
import { missingByStage, readEntries, type Reader } from '../reader.ts'
import { rangeFindings, studyWiring, tripFindings } from '../two-wire/index.ts'
import { keyedOf } from './setup-lines.ts'
import { flowBench, loopUnit } from './shared.ts'

export interface FlowKindParts<Known> {
  readonly id: string
  readonly name: string
  readonly summary: string
  readonly fields: readonly Field[]
  /** Unit of flow taken while no range is entered. */
  readonly usual: string
  readonly check: CurrentKind['check']
  /** What is known of the point from its entries. */
  known(r: Reader): Known
  thread(r: Reader, known: Known): Thread
  figures(r: Reader, known: Known): Figure[]
  findings(r: Reader, known: Known): Finding[]
  sheets(r: Reader): readonly Sheet[]
  model(r: Reader, known: Known): FlowModel | undefined
  setup(entries: Entries): readonly SetupLine[]
  /** `keyed` is what its meter holds when it is as it should be; `unit` the loop’s. */
  meter(r: Reader, known: Known, keyed: Readonly<Record<string, string>>, unit: string): MeterModel | undefined
}

export function flowKind<Known>(k: FlowKindParts<Known>): CurrentKind {
  const read = (entries: Entries) => readEntries(k.fields, entries)
  return {
    id: k.id,
    name: k.name,
    summary: k.summary,
    family: 'current',
    fields: k.fields,
    check: k.check,
    setup: (entries) => k.setup(entries),
    desk: (entries) => studyWiring(read(entries)).desk,
    study(entries) {
      const r = read(entries)
      const known = k.known(r)
      const wiring = studyWiring(r)
      const unit = loopUnit(r, k.usual)
      return {
        thread: k.thread(r, known),
        figures: [...wiring.figures, ...k.figures(r, known)],
        findings: gravestFirst([
          ...wiring.findings,
          ...k.findings(r, known),
          ...rangeFindings(r, unit),
          ...tripFindings(r, unit),
        ]),
        missing: missingByStage(k.fields, entries),
      }
    },
    standIn: (entries) => flowBench(k.fields, entries, k.usual),
    sheets: (entries) => k.sheets(read(entries)),
    model(entries) {
      const r = read(entries)
      return k.model(r, k.known(r))
    },
    meter(entries) {
      const r = read(entries)
      return k.meter(r, k.known(r), keyedOf(k.setup(entries)), loopUnit(r, k.usual))
    },
  }
}
