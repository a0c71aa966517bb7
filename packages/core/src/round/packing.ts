// One list of what to bring: kit first, then things, each in words, as page and paper show it.
import { formatQuantity } from '../quantity/index.ts'
import type { MissingKit, PackedFor, Piece, Place } from './kit.ts'
import { isLateMade, type RoundPlan } from './plan.ts'
import { onShelf, type Shelf } from './stock.ts'
import { SPARE_FUSE } from './works.ts'

export interface PackLine {
  /** What it is ticked by. */
  readonly key: string
  readonly what: string
  readonly count: number
  readonly tags: readonly string[]
  /** The piece of kit that it is. */
  readonly piece?: Piece
  /** For what it is not quite good enough, or who has it. */
  readonly mind: readonly string[]
}

const end = (value: number, unit: string) => formatQuantity(value, unit, { trim: true })
/** `0 mm to 3000 mm` */
export const placeWords = ({ low, high, unit }: Place): string => `${end(low, unit)} to ${end(high, unit)}`

const shortOf = ({ need, at, ratio }: PackedFor, wanted: number): string =>
  ratio === undefined
    ? `${need.tag}: ${at.what}, its figures say nothing of its worth`
    : `${need.tag}: ${at.what}, ${Number(ratio.toPrecision(2))} to 1 instead of ${wanted} to 1`

const line = (what: string, count = 1) => ({ key: what, what, count, mind: [] })

/** Things that age are named with what lies in the kit; what is past its date is to be minded. */
function thing({ what, count, tags }: RoundPlan['bring'][number], shelf: Shelf): PackLine {
  const { good, past } = onShelf(what, shelf)
  return { ...line(what, count), what: good.length ? `${what}: ${good.join('; ')}` : what, tags, mind: past }
}

/** @param wanted least ratio of tolerance to uncertainty @param shelf what of the kit ages */
export function packLines(plan: Pick<RoundPlan, 'kit' | 'bring'>, wanted: number, shelf: Shelf): PackLine[] {
  const kit = plan.kit.map(({ piece, uses }) => ({
    ...{ key: `kit ${piece.id}`, what: `${piece.name}, ${piece.serial}`, count: 1, piece },
    tags: [...new Set(uses.map((u) => u.need.tag))],
    mind: uses.filter((u) => u.short).map((u) => shortOf(u, wanted)),
  }))
  // Whatever reads a current has a fuse of its own that can blow.
  const fused = plan.kit.filter(({ piece }) => piece.ranges.some((r) => r.quantity === 'current'))
  const things = plan.bring.flatMap((brought): PackLine[] =>
    brought.what === SPARE_FUSE && fused.length
      ? fused.map(({ piece: { name } }) => ({ ...line(`spare fuse for ${name}`), tags: brought.tags }))
      : [thing(brought, shelf)],
  )
  return [...kit, ...things]
}

export interface LackLine {
  readonly words: string
  readonly tags: readonly string[]
}
/** What no piece of the kit can do, each once with its loops. */
export function lackLines(missing: readonly MissingKit[]): LackLine[] {
  const lines = new Map<string, string[]>()
  for (const { need, why } of missing) {
    const words =
      why === 'past-due'
        ? `${need.what}, ${placeWords(need)}: the piece that reads it is past its due date`
        : `${need.what}, ${placeWords(need)}: nothing in the kit reads it`
    lines.set(words, [...(lines.get(words) ?? []), need.tag])
  }
  return [...lines].map(([words, tags]) => ({ words, tags }))
}

/** `LT-101, LT-102 and 3 more` */
export function tagWords(tags: readonly string[], most = 3): string {
  const [shown, more] = [tags.slice(0, most), tags.length - most]
  return more > 0 ? `${shown.join(', ')} and ${more} more` : shown.join(', ')
}

/** `Check overdue since 10 Jun 2026`; @param day a date in words */
export const checkWords = (
  { due, overdue }: { due: string; overdue: boolean },
  day: (date: string) => string,
): string => `Check ${overdue ? 'overdue since' : 'due'} ${day(due)}`
/** What is done at a stop, in words: its check, then its jobs. */
export const stopWords = (
  { check, jobs }: Pick<RoundPlan['stops'][number], 'check' | 'jobs'>,
  day: (date: string) => string,
): string[] => [
  ...(check ? [checkWords(check, day)] : []),
  ...jobs.map((j) => `${j.what}${j.by ? `, by ${day(j.by)}` : ''}${isLateMade(j) ? ' (due before it was made)' : ''}`),
]
