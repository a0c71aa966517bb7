// A kind of flow point from what is its own: the rest is the same for all of them.
import type { MeterModel } from '../../device/index.ts'
import type { Finding } from '../../findings/index.ts'
import type { FlowModel } from '../../flow/index.ts'
import type { QuantityName } from '../../quantity/index.ts'
import type { Sheet } from '../../sheet/index.ts'
import type { Thread } from '../../thread/index.ts'
import type { ProcedureId } from '../../procedure/index.ts'
import type { CurrentKind, Entries, Field, Figure, Keep, SetupLine } from '../kind.ts'
import type { Reader } from '../reader.ts'
import { carriedReader, insteadOf, otherOf, type Carried } from './carried.ts'
import { rangeProcess } from '../two-wire/index.ts'
import { keyedOf } from './setup-lines.ts'
import { flowBench, loopUnit } from './shared.ts'
import { sure } from '../../sure/index.ts'

export interface FlowKindParts<Known> {
  readonly id: string
  readonly name: string
  readonly summary: string
  readonly listed: readonly string[]
  readonly version?: number
  readonly migrate?: (entries: Entries, from: number) => Entries
  readonly fields: readonly Field[]
  /** Unit of flow taken while no range is entered. */
  readonly usual: string
  /** Where the loop may carry another value than its usual flow. */
  readonly carried?: Carried
  readonly check: CurrentKind['check']
  /** What is known of the point from its entries. */
  known(r: Reader, keep: Keep): Known
  thread(r: Reader, known: Known): Thread
  figures(r: Reader, known: Known): Figure[]
  findings(r: Reader, known: Known): Finding[]
  sheets(r: Reader): readonly Sheet[]
  doubt(r: Reader, known: Known): FlowModel | undefined
  setup(r: Reader, known: Known): readonly SetupLine[]
  /** Procedures that its sensor can be led through; a flow zero where none are named. */
  readonly procedures?: readonly ProcedureId[]
  rootAtReceiver?(r: Reader): boolean
  sensorLimits?: (r: Reader, unit: string) => { low: number | undefined; high: number | undefined }
  /** Largest flow that its meter is taken to without a range, in the usual unit; undefined while unknown. */
  readonly without?: (known: Known) => number | undefined
  /** `keyed` is what its meter holds when it is as it should be; `unit` the loop’s. */
  meter(r: Reader, known: Known, keyed: Readonly<Record<string, string>>, unit: string): MeterModel | undefined
}

/** Read on its own screen: a value without a current, from none to the most that it is taken to. */
function asPortable(entries: Entries, unit: string, most: number): Entries {
  const end = (value: number) => ({ typed: `${value} ${unit}`, value, unit })
  const [low, high] = [end(0), end(Number(most.toPrecision(2)))]
  return {
    ...entries,
    ...{ carries: { typed: '' }, output: { typed: 'digital bus' } },
    ...{ lrv: low, urv: high, receiverLow: low, receiverHigh: high },
  }
}

const isFlow = (quantity: QuantityName) => quantity.endsWith('flow')

export function flowKind<Known>(k: FlowKindParts<Known>): CurrentKind {
  return {
    id: k.id,
    name: k.name,
    summary: k.summary,
    listed: k.listed,
    family: 'current',
    ...(k.version === undefined ? {} : { version: k.version }),
    ...(k.migrate ? { migrate: k.migrate } : {}),
    fields: k.fields,
    check: k.check,
    ...(k.carried ? { instead: (r: Reader) => insteadOf(sure(k.carried), r) } : {}),
    has: { meter: true, setup: true, doubt: true, sheets: true },
    look(r, keep) {
      const known = k.known(r, keep)
      const other = k.carried && otherOf(k.carried, r)
      const own = k.carried ? carriedReader(k.carried, r) : r
      const unit = loopUnit(own, other?.unit ?? k.usual)
      const setup = () => k.setup(r, known)
      return {
        thread: k.thread(r, known),
        figures: k.figures(r, known),
        findings: k.findings(r, known),
        rangeUnit: unit,
        tripUnit: unit,
        procedures: k.procedures ?? ['flow-zero'],
        rootAtReceiver: k.rootAtReceiver?.(r) ?? false,
        process: () => (other && !isFlow(other.quantity) ? rangeProcess(own, unit) : flowBench(own, unit)),
        sheets: () => k.sheets(r),
        doubt: () => k.doubt(r, known),
        setup,
        portable() {
          const most = k.without?.(known)
          return most === undefined ? undefined : asPortable(r.entries, k.usual, most)
        },
        meter: () => k.meter(r, known, keyedOf(setup()), unit),
        ...(k.sensorLimits ? { sensorLimits: (of: string) => sure(k.sensorLimits)(r, of) } : {}),
      }
    },
  }
}
