// Which pieces of kit a round needs: those in date whose range holds what is to be measured and that are good enough
// for it, as few as will do.
import { instrumentUncertainty, rangeFor, type InstrumentRange } from '../check/index.ts'
import { convertUnit } from '../quantity/index.ts'

/** A place at which a loop can be measured, or a known value given. */
export interface Place {
  /** What it is, as the list says it. */
  readonly what: string
  readonly unit: string
  readonly low: number
  readonly high: number
  /** Tolerance there, in `unit`, above 0. */
  readonly tolerance: number
}
/** What is to be measured at a loop, and how well. */
export interface Need extends Place {
  readonly tag: string
  /** Other places that will do as well, as the pressure at a cell in place of the level above it. */
  readonly or?: readonly Place[]
}
/** A piece of test equipment. */
export interface Piece {
  readonly id: string
  readonly name: string
  readonly serial: string
  /** Its own calibration holds to the end of this day, YYYY-MM-DD. */
  readonly due: string
  /** Who has it; null where it lies in its place. */
  readonly holder: string | null
  readonly ranges: readonly InstrumentRange[]
}
export interface PackedFor {
  readonly need: Need
  /** Where it is measured with this piece. */
  readonly at: Place
  /** Tolerance by expanded uncertainty (k = 2) at the worse end; undefined where its figures say nothing. */
  readonly ratio: number | undefined
  /** Below the ratio that the site asks for. */
  readonly short: boolean
}
export interface Packed {
  readonly piece: Piece
  readonly uses: readonly PackedFor[]
}
export const WHY_MISSING = ['no-range', 'past-due'] as const
export interface MissingKit {
  readonly need: Need
  /** No piece has such a range, or each that has is past its own due date. */
  readonly why: (typeof WHY_MISSING)[number]
}

const COVERAGE = 2

interface Fitting {
  readonly at: Place
  readonly ratio: number | undefined
}
/** Where a piece serves a need best: of several places the one of the highest ratio, else the first. */
function fitOf(piece: Piece, need: Need): Fitting | undefined {
  return [need, ...(need.or ?? [])]
    .flatMap((at) => fitAt(piece, at) ?? [])
    .reduce<Fitting | undefined>((best, f) => (best && (best.ratio ?? 0) >= (f.ratio ?? 0) ? best : f), undefined)
}
/** The range of a piece that holds both ends, and what it is worth there. */
function fitAt(piece: Piece, need: Place): Fitting | undefined {
  const ends = [need.low, need.high].map((value) => ({ value, range: rangeFor(piece.ranges, value, need.unit) }))
  const ratios: number[] = []
  for (const { value, range } of ends) {
    if (!range) return undefined
    const own = convertUnit(value, need.unit, range.unit)
    const scale = Math.abs(convertUnit(own + 1, range.unit, need.unit) - convertUnit(own, range.unit, need.unit))
    if ([range.pctOfReading, range.pctOfRange, range.digits, range.fixed].every((p) => p === undefined))
      return { at: need, ratio: undefined }
    const { standard } = instrumentUncertainty(own, { range: range.high - range.low, ...range })
    ratios.push(standard > 0 ? need.tolerance / (COVERAGE * standard * scale) : Infinity)
  }
  return { at: need, ratio: Math.min(...ratios) }
}

interface Fit extends Fitting {
  readonly piece: Piece
  readonly need: Need
}
const goodEnough = ({ ratio }: Pick<Fit, 'ratio'>, wanted: number) => ratio !== undefined && ratio >= wanted

/**
 * Of two pieces the one to take: for more needs, lying in its place, the better at its worst, then by its id. Where
 * none is good enough, the better comes first of all.
 */
function isBetter(a: readonly Fit[], b: readonly Fit[], short: boolean): boolean {
  const [pa, pb] = [a[0]?.piece, b[0]?.piece]
  if (!pa || !pb) return !!pa
  const worst = (fits: readonly Fit[]) => Math.min(...fits.map((f) => f.ratio ?? 0))
  const byWorth = worst(a) === worst(b) ? 0 : worst(a) - worst(b)
  const order = [
    ...(short ? [byWorth] : []),
    a.length - b.length,
    Number(!pa.holder) - Number(!pb.holder),
    byWorth,
    pa.id < pb.id ? 1 : -1,
  ]
  return (order.find((d) => d !== 0) ?? 0) > 0
}

/**
 * Packs for what is to be measured on `day`: pieces in date only, first those that are good enough, then the best there
 * is, said to be short.
 * @param wanted least ratio of tolerance to expanded uncertainty, such as 4
 */
export function packFor(
  needs: readonly Need[],
  kit: readonly Piece[],
  { day, wanted }: { readonly day: string; readonly wanted: number },
): { readonly packed: readonly Packed[]; readonly missing: readonly MissingKit[] } {
  const inDate = kit.filter((p) => p.due >= day)
  const fits: Fit[] = needs.flatMap((need) =>
    inDate.flatMap((piece) => {
      const fit = fitOf(piece, need)
      return fit ? [{ piece, need, ...fit }] : []
    }),
  )
  const packed = new Map<string, { piece: Piece; uses: PackedFor[] }>()
  const open = new Set(needs)
  function take(among: readonly Fit[], short: boolean): void {
    for (;;) {
      const byPiece = new Map<string, Fit[]>()
      for (const f of among) if (open.has(f.need)) byPiece.set(f.piece.id, [...(byPiece.get(f.piece.id) ?? []), f])
      let best: readonly Fit[] = []
      for (const of of byPiece.values()) if (isBetter(of, best, short)) best = of
      const [first] = best
      if (!first) return
      const into = packed.get(first.piece.id) ?? { piece: first.piece, uses: [] }
      for (const { need, at, ratio } of best) {
        open.delete(need)
        into.uses.push({ need, at, ratio, short })
      }
      packed.set(first.piece.id, into)
    }
  }
  take(
    fits.filter((f) => goodEnough(f, wanted)),
    false,
  )
  take(fits, true)
  const missing = needs
    .filter((n) => open.has(n))
    .map((need) => ({ need, why: kit.some((p) => fitOf(p, need)) ? ('past-due' as const) : ('no-range' as const) }))
  return { packed: [...packed.values()], missing }
}
