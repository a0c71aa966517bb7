// What the kinds of flow point share: ways to describe an entry and a figure, the run of the knots, the bench's
// process.
import { formatQuantity as show, type PressureReference, type QuantityName } from '../../quantity/index.ts'
import type { PracticeCase } from '../../device/index.ts'
import type { Knot } from '../../thread/index.ts'
import type { Working } from '../../working/index.ts'
import type { Field, Figure } from '../kind.ts'
import type { Reader } from '../reader.ts'
import { sure } from '../../sure/index.ts'

/** What a practice case hides, whatever else its kind adds. */
export interface Truth extends PracticeCase {
  /** What the meter holds in place of what was entered. */
  readonly held?: (keyed: Readonly<Record<string, string>>) => Readonly<Record<string, string>>
}
/** The truth of a practice case; the first one, in which nothing is wrong, where none is under way. */
export const truthIn = <T extends Truth>(truths: readonly T[], id: string): T =>
  truths.find((t) => t.id === id) ?? sure(truths[0])

type More = Partial<Pick<Field, 'required' | 'default' | 'when' | 'practice'>> & {
  readonly reference?: PressureReference
}

/** An entry of the Point stage with a unit. */
export const amount = ({
  key,
  group,
  label,
  quantity,
  unit,
  help,
  ...more
}: {
  readonly key: string
  readonly group: string
  readonly label: string
  readonly quantity: QuantityName
  readonly unit: string
  readonly help: string
} & More): Field => ({ key, stage: 'point', group, type: 'quantity', quantity, unit, label, help, ...more })

/** An entry of the Point stage that is one of several. */
export const choice = ({
  key,
  group,
  label,
  options,
  help,
  ...more
}: {
  readonly key: string
  readonly group: string
  readonly label: string
  readonly options: readonly (string | { value: string; label: string })[]
  readonly help: string
} & More): Field => ({
  key,
  stage: 'point',
  group,
  type: 'choice',
  label,
  help,
  options: options.map((o) => (typeof o === 'string' ? { value: o, label: o } : o)),
  ...more,
})

/** An entry of the Point stage in words, or digits kept as they were typed. */
export const words = ({
  key,
  group,
  label,
  help,
  ...more
}: { readonly key: string; readonly group: string; readonly label: string; readonly help: string } & More): Field => ({
  key,
  stage: 'point',
  group,
  type: 'text',
  label,
  help,
  ...more,
})

/** The unit that the loop speaks in: the one its range was typed in, else the usual one. */
export const loopUnit = (r: Reader, usual: string): string => (r.missing('urv').length ? usual : r.unit('urv'))

export const flowKnot = ({
  id,
  role,
  name,
  explains,
  quantity,
  unit,
  decimals,
}: {
  readonly id: string
  readonly role: Knot['role']
  readonly name: string
  readonly explains: string
  readonly quantity: QuantityName
  readonly unit: string
  readonly decimals: number
}): Knot => ({ id, role, name, explains, quantity, unit, decimals })

interface FigureSource {
  readonly needs?: readonly string[]
  readonly says?: string | undefined
  readonly working?: (value: number) => Omit<Working, 'title' | 'numbers'> & { numbers: string }
}
/** A figure of the Point stage: its value with working, or what it still needs, or why there is none. */
export function figure({
  id,
  label,
  unit,
  decimals,
  value,
  from,
}: {
  readonly id: string
  readonly label: string
  readonly unit: string
  readonly decimals: number
  readonly value: number | undefined
  readonly from: FigureSource
}): Figure {
  const head = { id, stage: 'point' as const, label, unit, decimals }
  if (value === undefined || !Number.isFinite(value))
    return from.needs?.length
      ? { ...head, needs: from.needs }
      : { ...head, says: from.says ?? 'outside what can be computed' }
  const { working } = from
  return working
    ? {
        ...head,
        value,
        working: () => ({
          title: label,
          ...working(value),
          numbers: `${working(value).numbers} = ${show(value, unit, { decimals })}`,
        }),
      }
    : { ...head, value }
}

/** How the bench's process of a flow can be moved: from none (or against the arrow) to a little above the range. */
export function flowBench(r: Reader, usual: string) {
  const unit = loopUnit(r, usual)
  const [a, b] = [r.in('lrv', unit), r.in('urv', unit)]
  if (a === undefined || b === undefined || a === b) return undefined
  const span = Math.abs(b - a)
  return {
    lowest: Math.min(a, b, 0),
    highest: Math.max(a, b) + span * 0.02,
    ratePerSecond: span / 12,
    scatter: span * 0.003,
    stopsAt: 0,
  }
}

/** Atmospheric pressure taken where only a gauge pressure is entered, kPa. */
export const ATMOSPHERE_kPa = 101.325
export const MANUAL = 'Tell operations and put the loop in manual: a false value drives valves and trips.'
