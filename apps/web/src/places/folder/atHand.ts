// What is at hand for a check: where the standard stands, which places are read and with which piece of kit; and what
// that kit can prove of the tolerance, before anything is touched.
import {
  METER_STANDS,
  meterStandWords,
  readsVolts,
  type CheckReads,
  type Gear,
  type MeterStand,
  type ReadEntry,
  type SiteJudging,
} from '@calm-loop/contract'
import { foretellProof } from '@calm-loop/contract/judging'
import {
  combinedOf,
  INDICATOR,
  rangeFor,
  rowsOfReading,
  upAndDown,
  witnessesBehind,
  type Witness,
  type WitnessVerdict,
} from '@calm-loop/core/check'
import type { CurrentStudy } from '@calm-loop/core/loop'
import { formatNumber, QUANTITIES, quantityName, type QuantityName } from '@calm-loop/core/quantity'
import { isSupply } from '@calm-loop/core/round'
import type { Knot } from '@calm-loop/core/thread'

/** One place as it is chosen: read or not, with what, and how. */
export interface ChosenPlace {
  readonly read: boolean
  readonly gear: string
  readonly stand: MeterStand
  readonly percent: boolean
}
export const NOT_READ: ChosenPlace = { read: false, gear: '', stand: 'in-series', percent: false }

export interface Chosen {
  readonly standardAt: string
  readonly standardGear: string
  readonly places: Readonly<Record<string, ChosenPlace>>
  readonly resistor: ReadEntry | undefined
  readonly resistorPct: number | undefined
  readonly ambient_C: number | undefined
}

export const STANDS = METER_STANDS.map((value) => ({ value, label: meterStandWords[value] }))

/** What is chosen until somebody says otherwise: the input at the process, current and controller read. */
export function usualChoice(known: CurrentStudy, kit: readonly Gear[], today: string): Chosen {
  const process = known.thread.knots[0]
  const places = witnessesBehind(known.thread, process?.id ?? '')
  const best = (w: { quantity: QuantityName; unit: string; low: number; high: number } | undefined) =>
    w ? (finest(kit, w, today)?.id ?? '') : ''
  const scale = known.scales[0]
  return {
    standardAt: process?.id ?? '',
    standardGear: process ? best({ ...process, low: scale?.low ?? 0, high: scale?.high ?? 1 }) : '',
    places: Object.fromEntries(
      places
        .filter((w) => w.id === 'current' || w.id === 'controller')
        .map((w) => [w.id, { ...NOT_READ, read: true, gear: w.id === 'current' ? best(w) : '' }]),
    ),
    resistor: undefined,
    resistorPct: undefined,
    ambient_C: undefined,
  }
}

/** Of the pieces in date that read a whole scale, the one that is worth most at its high end. */
function finest(
  kit: readonly Gear[],
  { quantity, unit, low, high }: { quantity: QuantityName; unit: string; low: number; high: number },
  today: string,
): Gear | undefined {
  const top = Math.abs(high) > Math.abs(low) ? high : low
  const worth = (g: Gear): number => {
    const range = rangeFor(g.ranges ?? [], top, unit)
    return range && rangeFor(g.ranges ?? [], low, unit)
      ? combinedOf(rowsOfReading('', range, { value: top, unit }))
      : Infinity
  }
  return piecesFor(kit, quantity)
    .filter((g) => g.due >= today && Number.isFinite(worth(g)))
    .sort((a, b) => worth(a) - worth(b))[0]
}

/** Whether what a piece without figures is said to measure leaves a quantity open. */
function mayRead({ measures }: Gear, quantity: QuantityName): boolean {
  const says = (q: QuantityName) => measures.toLowerCase().includes(quantityName(q))
  return says(quantity) || !QUANTITIES.some(says)
}

/** Pieces that can read a quantity, those with figures first; one without may read anything, a supply nothing. */
export const piecesFor = (kit: readonly Gear[], quantity: QuantityName): Gear[] => [
  ...kit.filter((g) => g.ranges?.some((r) => r.quantity === quantity)),
  ...kit.filter((g) => !g.ranges?.length && !isSupply(g) && mayRead(g, quantity)),
]

/** What a place is read in: a current may be volts. */
export const quantityAt = (w: Witness, chosen: ChosenPlace): QuantityName =>
  w.id === 'current' && readsVolts(chosen.stand) ? 'voltage' : w.quantity

/** The choice as it goes on record; a sentence where something is still to be said. */
export function readsOf(known: CurrentStudy, chosen: Chosen): CheckReads | string {
  const places = witnessesBehind(known.thread, chosen.standardAt)
  const read = places.filter((w) => chosen.places[w.id]?.read)
  if (!read.length) return 'Choose at least one place that is read.'
  const volts = read.some((w) => w.id === 'current' && readsVolts(chosen.places[w.id]?.stand))
  const { resistor, resistorPct } = chosen
  if (volts && (!resistor || !(resistor.value > 0) || resistorPct === undefined))
    return 'The current is read as volts: enter the resistor and its tolerance.'
  return {
    standardAt: chosen.standardAt,
    standardGear: chosen.standardGear || null,
    reads: read.map((w) => {
      const { gear, stand, percent } = chosen.places[w.id] ?? NOT_READ
      return {
        at: w.id,
        gear: gear || null,
        ...(w.id === 'current' ? { stand } : {}),
        ...(w.id === INDICATOR && percent ? { shows: '%' as const } : {}),
      }
    }),
    ...(volts && resistor && resistorPct !== undefined
      ? { resistor: { ohm: resistor, tolerancePct: resistorPct } }
      : {}),
    ...(chosen.ambient_C === undefined ? {} : { ambient_C: chosen.ambient_C }),
  }
}
/** Pieces of kit that a choice uses, each once. */
export const gearOf = (reads: CheckReads): string[] => [
  ...new Set([reads.standardGear, ...reads.reads.map((r) => r.gear)].filter((id) => id !== null)),
]

export interface ProofLine {
  readonly witness: Witness
  readonly ratio: number | undefined
  /** Whether it is as good as the site wants. */
  readonly enough: boolean
  readonly says: string
}

/** What the kit proves of each place that is read, with what would do where it does not. */
export function proofLines(
  known: CurrentStudy,
  reads: CheckReads,
  kit: readonly Gear[],
  at: { readonly percents: readonly number[]; readonly judging: SiteJudging; readonly today: string },
): ProofLine[] {
  const tolerancePct = known.reader.in('tolerance', '%')
  if (!tolerancePct || !at.percents.length) return []
  const controllerTolerancePct = known.reader.in('controllerTolerance', '%') ?? tolerancePct
  const points = upAndDown([...new Set(at.percents)])
  const by = (r: CheckReads): WitnessVerdict[] =>
    foretellProof(
      { points, tolerancePct, gear: [...kit] },
      { ...r, rule: at.judging.rule, controllerTolerancePct },
      known.thread,
      `${at.today}T12:00:00.000Z`,
    )
  const least = at.judging.leastRatio
  const name = (id: string | null) => kit.find((g) => g.id === id)?.name ?? 'what is used'
  const standard = known.thread.knots.find((k) => k.id === reads.standardAt)
  return by(reads).map(({ witness, ratio, tolerancePct: tolerance }): ProofLine => {
    const read = reads.reads.find((r) => r.at === witness.id)
    if (ratio === undefined)
      return { witness, ratio, enough: false, says: 'No figures of the kit: judged simply, without uncertainty.' }
    const words = `ratio ${formatNumber(ratio, { decimals: 1 })}`
    if (ratio >= least)
      return {
        witness,
        ratio,
        enough: true,
        says: `Proves ±${formatNumber(tolerance, { decimals: 3, trim: true })} %: ${words}.`,
      }
    const would = better({
      reads,
      kit,
      standard,
      least,
      today: at.today,
      witness,
      ratioOf: (r) => by(r).find((v) => v.witness.id === witness.id)?.ratio,
    })
    return {
      witness,
      ratio,
      enough: false,
      says:
        `${[read?.gear, reads.standardGear].flatMap((id) => (id ? [name(id)] : [])).join(' with ') || 'This'} ` +
        `cannot prove ±${formatNumber(tolerance, { decimals: 3, trim: true })} %: ${words}, ` +
        `${formatNumber(least, { decimals: 1, trim: true })} wanted. ${would}`,
    }
  })
}

/** Which other piece would do, in a sentence. */
function better({
  reads,
  kit,
  standard,
  least,
  today,
  witness,
  ratioOf,
}: {
  readonly reads: CheckReads
  readonly kit: readonly Gear[]
  readonly standard: Knot | undefined
  readonly least: number
  readonly today: string
  readonly witness: Witness
  readonly ratioOf: (reads: CheckReads) => number | undefined
}): string {
  const good = kit.filter((g) => g.due >= today && g.ranges?.length)
  const meters = witness.id === 'controller' ? [] : piecesFor(good, witness.quantity)
  const standards = standard ? piecesFor(good, standard.quantity) : []
  const withMeter = (id: string, r = reads): CheckReads => ({
    ...r,
    reads: r.reads.map((x) => (x.at === witness.id ? { ...x, gear: id } : x)),
  })
  const tries = [
    ...meters.map((g) => ({ names: [g.name], reads: withMeter(g.id) })),
    ...standards.map((g) => ({ names: [g.name], reads: { ...reads, standardGear: g.id } })),
    ...standards.flatMap((s) =>
      meters.map((m) => ({ names: [m.name, s.name], reads: withMeter(m.id, { ...reads, standardGear: s.id }) })),
    ),
  ]
  for (const t of tries) {
    const ratio = ratioOf(t.reads)
    if (ratio !== undefined && ratio >= least)
      return `${t.names.join(' with ')} would: ratio ${formatNumber(ratio, { decimals: 1 })}.`
  }
  return 'Nothing in the kit would.'
}
