// The low-flow cutoff of a clamp-on meter: as entered, or what size and zero ask for.
import { entryFrom } from '../../quantity/index.ts'
import type { Entries } from '../kind.ts'
import type { Reader } from '../reader.ts'
import { velocityOf, volumeFlow } from './meter.ts'
import { beamOf, knownFluid, type ClampOn } from './setup.ts'
import { cutoffIn } from '../two-wire/index.ts'

const USUAL = 'm3/h'
/** No clamp-on meter tells less than this from nothing, m/s: a usual figure. */
const LEAST_mps = 0.01

/** Flow that the doubt of the zero alone would show, m³/h; undefined while beam and fluid are not known. */
export function flowOfZero(c: ClampOn, r: Reader): number | undefined {
  const [beam, fluid, time] = [beamOf(c), knownFluid(c), r.in('timeDoubt', 'ns')]
  if (!beam || !fluid || !c.input || time === undefined || !(time >= 0)) return undefined
  const flow = volumeFlow(velocityOf(c.input, fluid.kinematic_cSt, time), beam.id_mm)
  return Number.isFinite(flow) ? flow : undefined
}

/** Twice what the zero would show, at least 0.01 m/s in the bore, rounded up to two figures: m³/h. */
export function usualCutoff(c: ClampOn, r: Reader): number | undefined {
  const [beam, zero] = [beamOf(c), flowOfZero(c, r)]
  if (!beam || zero === undefined) return undefined
  const most = Math.max(2 * zero, volumeFlow(LEAST_mps, beam.id_mm))
  if (!Number.isFinite(most) || !(most > 0)) return undefined
  const step = 10 ** (Math.floor(Math.log10(most)) - 1)
  return Number((Math.ceil(most / step) * step).toPrecision(2))
}

/** The cutoff that counts, m³/h: as entered where that is above 0, the usual one where none is entered. */
export const cutoffOf = (c: ClampOn, r: Reader): number | undefined =>
  r.in('cutoff', USUAL) === undefined ? usualCutoff(c, r) : cutoffIn(r, USUAL)

/** Loops of before hold the cutoff that stood there of itself. */
export const withItsCutoff = (entries: Entries): Entries =>
  entries['cutoff']?.typed.trim()
    ? entries
    : { ...entries, cutoff: entryFrom('0.5 m3/h', { quantity: 'volume-flow', unit: USUAL }) }
