// Of all single changes that would make a starved loop fit: the one that costs least, with its figure.
import { loopBudget, wireResistance } from '../../circuit/index.ts'
import { formatQuantity as show } from '../../quantity/index.ts'
import { attempt, Refusal } from '../../refusal/index.ts'
import { feederOf, suppliedBy, typeOf, type Conditions, type Wiring } from '../../wiring/index.ts'

/** A loop that does not fit, as drawn. */
export interface Starved {
  readonly wiring: Wiring
  readonly conditions: Omit<Conditions, 'mA'>
  readonly liftOffV: number
  readonly maxmA: number
  /** One way, m, and hottest, °C; undefined where a cable of its own length is drawn. */
  readonly cable: { readonly length_m: number; readonly temp_C: number; readonly area_mm2: number } | undefined
}
export interface CheapChange {
  /** In one sentence, with its figure. */
  readonly says: string
  /** Volts left for the transmitter above its lift-off at the highest current. */
  readonly spareV: number
}

/** Areas that cables are made in, mm² (IEC 60228). */
const AREAS_mm2 = [0.5, 0.75, 1, 1.5, 2.5, 4]
/** Shunts that cards are read across, Ω; below them the signal drowns. */
const SHUNTS_Ohm = [250, 125, 100, 62.5, 50]
/** As far as a 24 V supply can be turned up, V; a transmitter bears more. */
const TURNED_UP_V = [24, 25, 26, 27, 28]
/** Least highest current that still lies above all measurements and faults, mA (NAMUR NE 43). */
const LEAST_HIGHEST_mA = 21.5

const n = (v: number, unit: string, decimals = 2) => show(v, unit, { decimals, trim: true })

interface Candidate {
  readonly says: string
  readonly figures?: Readonly<Record<string, number>>
  readonly coreFactor?: number
  readonly maxmA?: number
}

/** From a turn of a screw to a new cable: what is tried, cheapest first. */
function candidatesOf({ wiring, conditions, maxmA, cable }: Starved): Candidate[] {
  const { shunt, otherSeries } = conditions.figures
  // A card gives what it gives: only a supply of its own can be turned up or exchanged.
  const feeder = attempt(() => feederOf(wiring, conditions))
  const own = feeder && !(feeder instanceof Refusal) && typeOf(feeder)?.role === 'supply'
  const supply = own ? conditions.figures['supply'] : undefined
  const series = otherSeries ?? 0
  return [
    ...(supply === undefined
      ? []
      : TURNED_UP_V.filter((v) => v > supply && supply >= 20).map((v) => ({
          says: `Turn the loop supply up from ${n(supply, 'V')} to ${n(v, 'V')}, if everything on it bears that.`,
          figures: { supply: v },
        }))),
    ...(series > 0
      ? [
          {
            says: `Take the ${n(series, 'Ohm')} in series out, and clip a communicator on across the shunt instead.`,
            figures: { otherSeries: 0.01 },
          },
        ]
      : []),
    ...(maxmA > LEAST_HIGHEST_mA
      ? [
          {
            says:
              `Set the highest current from ${n(maxmA, 'mA')} down to ${n(LEAST_HIGHEST_mA, 'mA')}, ` +
              'fault current included.',
            maxmA: LEAST_HIGHEST_mA,
          },
        ]
      : []),
    ...(shunt === undefined
      ? []
      : SHUNTS_Ohm.filter((ohm) => ohm < shunt).map((ohm) => ({
          says: `Put a shunt of ${n(ohm, 'Ohm')} in place of ${n(shunt, 'Ohm')}, and scale the card anew.`,
          figures: { shunt: ohm },
        }))),
    ...(supply !== undefined && supply < 36
      ? [
          {
            says: `Put a supply of ${n(36, 'V')} in place of ${n(supply, 'V')}, if everything on it bears that.`,
            figures: { supply: 36 },
          },
        ]
      : []),
    ...(cable
      ? AREAS_mm2.filter((a) => a > cable.area_mm2 * 1.01).map((area) => ({
          says: `Lay ${n(area, 'mm2')} instead of ${n(cable.area_mm2, 'mm2')} over the ${n(cable.length_m, 'm')}.`,
          coreFactor: coreFactor(cable, area),
        }))
      : []),
  ]
}

/** A thicker conductor's resistance as a share of the one that lies there. */
function coreFactor({ length_m, temp_C, area_mm2 }: NonNullable<Starved['cable']>, area: number): number {
  const at = (mm2: number) => wireResistance({ area_mm2: mm2, length_m, temp_C }).ohmLoop
  return at(area) / at(area_mm2)
}

/** Volts above lift-off once it is changed, from the circuit solved anew; undefined where that does not fit. */
function spareAfter(s: Starved, c: Candidate): number | undefined {
  const { conditions, wiring, liftOffV } = s
  const times = (ohm: number | undefined) => (ohm === undefined ? ohm : ohm * (c.coreFactor ?? 1))
  const changed = {
    ...conditions,
    figures: { ...conditions.figures, ...c.figures },
    coreOhm: times(conditions.coreOhm),
    coreOhmPerM: times(conditions.coreOhmPerM),
  }
  const supplied = attempt(() => suppliedBy(wiring, changed))
  if (!supplied || supplied instanceof Refusal) return undefined
  const budget = loopBudget({
    supplyV: supplied.openV,
    liftOffV,
    seriesOhms: [supplied.outsideOhm],
    maxmA: c.maxmA ?? s.maxmA,
  })
  return budget.ok ? budget.voltsAtTransmitterMax - liftOffV : undefined
}

/**
 * The cheapest single change after which the loop fits; undefined where no single one does. It is proved on the circuit
 * as drawn, so a part that is entered but not wired does not count.
 * @throws Refusal `invalid-input`
 */
export function cheapestChange(starved: Starved): CheapChange | undefined {
  for (const c of candidatesOf(starved)) {
    const spareV = spareAfter(starved, c)
    if (spareV !== undefined) return { says: c.says, spareV }
  }
  return undefined
}
