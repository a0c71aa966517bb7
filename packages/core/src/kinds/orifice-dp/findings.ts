// What is wrong or unwise about an orifice plate, its cell and where the root is taken.
import type { Finding } from '../../findings/index.ts'
import { leastReynolds, outsideLimits, type OutsideLimit } from '../../flow/index.ts'
import { saturationTemperature_C } from '../../fluid/index.ts'
import { formatQuantity as show } from '../../quantity/index.ts'
import { Refusal } from '../../refusal/index.ts'
import { finding } from '../../findings/index.ts'
import { notPositive } from '../not-positive.ts'
import type { Reader } from '../reader.ts'
import { USUAL } from './fields.ts'
import { type Plate, positive } from './plate.ts'
import { sure } from '../../sure/index.ts'

/** Where the root is taken. */
function rootFindings(r: Reader): Finding[] {
  const found: Finding[] = []
  const rootAt = r.text('rootAt')
  if (rootAt === 'both')
    found.push(
      finding({
        grade: 'stop',
        code: 'root-twice',
        fields: ['rootAt'],
        what: 'The square root is taken at both ends.',
        why: 'At half flow the controller would show 71 %: everything between the ends reads too high.',
        action: 'Take it at the transmitter or at the receiver, and set the other to linear.',
        sure: 'Certain.',
      }),
    )
  if (rootAt === 'neither')
    found.push(
      finding({
        grade: 'stop',
        code: 'root-never',
        fields: ['rootAt'],
        what: 'The square root is taken at neither end.',
        why: 'At half flow the controller would show 25 %: everything between the ends reads too low.',
        action: 'Take it at exactly one end.',
        sure: 'Certain.',
      }),
    )
  return found
}

/** The plate in its pipe. */
function plateFindings(r: Reader, p: Plate): Finding[] {
  const found: Finding[] = []
  found.push(...notPositive(r, { bore: 'mm', pipeBore: 'mm' }, 'No plate has such a one.'))
  const [bore, pipe] = [r.in('bore', 'mm'), r.in('pipeBore', 'mm')]
  if (positive(bore) && positive(pipe) && !(bore / pipe >= 0.1 && bore / pipe <= 0.75))
    found.push(
      finding({
        grade: 'stop',
        code: 'beta-out-of-range',
        fields: ['bore', 'pipeBore'],
        what: `β is ${(bore / pipe).toFixed(3)}, outside 0.1 to 0.75.`,
        why: 'The standard’s coefficient does not hold there: no flow can be computed.',
        action: 'Check both diameters and their units; the plate may be for another pipe.',
        sure: 'Certain.',
      }),
    )
  else if (p.full instanceof Refusal)
    found.push(
      finding({
        grade: 'stop',
        code: 'beyond-plate',
        fields: ['urv', 'bore'],
        what: p.full.message,
        why: 'The range cannot be reached with this plate.',
        action: 'Lower the range, or take a plate with a larger bore.',
        sure: 'Certain, if the entries are right.',
      }),
    )
  return found
}

const LIMITS: Readonly<Record<OutsideLimit['what'], { readonly fields: readonly string[]; readonly name: string }>> = {
  bore: { fields: ['bore'], name: 'The bore' },
  pipe: { fields: ['pipeBore'], name: 'The pipe’s inside diameter' },
  reynolds: { fields: ['urv'], name: 'The Reynolds number at full flow' },
  'pressure-ratio': { fields: ['urv', 'fluidPressure'], name: 'Pressure after the plate over that before it' },
}
const limitWords = ({ what, is, least, most }: OutsideLimit): string => {
  const figure = (v: number) =>
    what === 'reynolds'
      ? String(Math.round(v))
      : what === 'pressure-ratio'
        ? v.toFixed(3)
        : show(v, 'mm', { trim: true })
  const limit = least === undefined ? `at most ${figure(sure(most))}` : `at least ${figure(least)}`
  return `${LIMITS[what].name} is ${figure(is)}; the standard covers ${limit}.`
}

/** Where the standard does not hold at full flow, or stops holding on the way down. */
function standardFindings(r: Reader, p: Plate): Finding[] {
  const full = p.full && !(p.full instanceof Refusal) ? p.full : undefined
  if (!p.plate || !full) return []
  const found = outsideLimits({ ...p.plate, dp_kPa: full.dp_kPa }, full).map((limit) =>
    finding({
      grade: 'look',
      code: 'outside-standard',
      fields: LIMITS[limit.what].fields,
      what: limitWords(limit),
      why: 'Its coefficient is an extrapolation there: nobody vouches for it. The doubt takes twice the standard’s.',
      action: 'Take another plate or range, or have this one calibrated.',
      sure: 'Certain, by ISO 5167-2.',
    }),
  )
  const least = leastReynolds(p.plate)
  const urv = r.in('urv', USUAL)
  const from = urv === undefined ? undefined : (urv * least) / full.reynolds
  const cutoff = r.in('cutoff', USUAL) ?? 0
  if (from !== undefined && urv !== undefined && from < urv && from > cutoff)
    found.push(
      finding({
        grade: 'note',
        code: 'standard-from',
        fields: ['cutoff'],
        what: `Below ${show(from, USUAL, { decimals: 1, trim: true })} the standard’s coefficient does not hold.`,
        why: `The Reynolds number falls under ${Math.round(least)} there.`,
        action: 'Trust no total that was gathered below it, or raise the cutoff.',
        sure: 'Certain, by ISO 5167-2.',
      }),
    )
  if (r.text('edge') === 'rounded')
    found.push(
      finding({
        grade: 'look',
        code: 'edge-rounded',
        fields: ['edge'],
        what: 'The plate’s edge is not sharp.',
        why: 'A rounded edge lets more through at the same differential pressure: the meter reads low.',
        action: 'Have the plate made anew, or turned if it sits the wrong way round.',
        sure: 'Certain; how much hangs on the radius.',
      }),
    )
  return found
}

/** What flows through it. */
function fluidFindings(r: Reader, p: Plate): Finding[] {
  const found: Finding[] = []
  if (p.fluid instanceof Refusal)
    found.push(
      finding({
        grade: 'stop',
        code: p.fluid.code,
        fields: ['fluid', 'fluidTemp', 'fluidPressure'],
        what: p.fluid.message,
        why: 'A plate needs one density: two phases have none.',
        action: 'Check temperature and pressure; dry the steam before the plate.',
        sure: 'Certain by the fluid’s equation.',
      }),
    )
  else if (
    r.text('fluid') === 'steam' &&
    positive(p.pressure_kPa) &&
    r.in('fluidTemp', 'degC') !== undefined &&
    p.pressure_kPa < 22_000
  ) {
    const over = sure(r.in('fluidTemp', 'degC')) - saturationTemperature_C(p.pressure_kPa)
    if (over < 5)
      found.push(
        finding({
          grade: 'look',
          code: 'steam-nearly-wet',
          fields: ['fluidTemp', 'fluidPressure'],
          what: `The steam is only ${over.toFixed(1)} °C above its boiling point.`,
          why: 'Drops in it pass the plate unmetered and wear its edge.',
          action: 'Check the trap before the plate, or the temperature.',
          sure: 'Likely.',
        }),
      )
  }
  return found
}

/** The range, the cell and the cutoff. */
function rangeFindings(r: Reader, p: Plate): Finding[] {
  const found: Finding[] = []
  const full = p.full && !(p.full instanceof Refusal) ? p.full : undefined
  const limit = r.in('sensorHigh', 'mbar')
  if (full && limit !== undefined && full.dp_kPa * 10 > limit)
    found.push(
      finding({
        grade: 'stop',
        code: 'beyond-cell',
        fields: ['sensorHigh', 'urv'],
        what:
          `Full flow makes ${show(full.dp_kPa * 10, 'mbar')}, beyond the cell’s ` +
          `${show(limit, 'mbar', { trim: true })}.`,
        why: 'The current stands while the flow goes on rising.',
        action: 'Take another cell, a larger bore or a smaller range.',
        sure: 'Certain, if the entries are right.',
      }),
    )
  const cutoff = r.in('cutoff', USUAL)
  const urv = r.in('urv', USUAL)
  if (cutoff !== undefined && cutoff <= 0)
    found.push(
      finding({
        grade: 'stop',
        code: 'cutoff-not-positive',
        fields: ['cutoff'],
        what: 'The low-flow cutoff is not above 0.',
        why: 'Near no flow the root turns the smallest zero error into a flow: the total creeps.',
        action: 'Enter about 5 % of the range.',
        sure: 'Certain.',
      }),
    )
  else if (cutoff !== undefined && positive(urv) && cutoff < 0.02 * urv)
    found.push(
      finding({
        grade: 'look',
        code: 'cutoff-low',
        fields: ['cutoff'],
        what: `The cutoff lies at ${((100 * cutoff) / urv).toFixed(1)} % of the range.`,
        why:
          `There the differential pressure is ${((100 * cutoff * cutoff) / urv / urv).toFixed(3)} % of its ` +
          'range, less than a usual zero shift.',
        action: 'Raise it to 3 to 8 % of the range.',
        sure: 'Likely.',
      }),
    )
  const lrv = r.in('lrv', USUAL)
  if (lrv !== undefined && lrv !== 0)
    found.push(
      finding({
        grade: 'look',
        code: 'range-not-from-zero',
        fields: ['lrv'],
        what: 'The range does not begin at no flow.',
        why: 'A square root begins at none; 4 mA would not be none.',
        action: 'Begin the range at 0.',
        sure: 'Nearly certain.',
      }),
    )
  return found
}

export const findingsOf = (r: Reader, p: Plate): Finding[] => [
  ...rootFindings(r),
  ...plateFindings(r, p),
  ...standardFindings(r, p),
  ...fluidFindings(r, p),
  ...rangeFindings(r, p),
]
