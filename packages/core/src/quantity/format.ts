// Printing figures: fixed decimals by unit, a true minus sign, the site's decimal mark, never a bare NaN.
import { markNow, spokenFigure, spokenInFeet } from './spoken.ts'
import { unitOf } from './units.ts'

const DECIMALS: Record<string, number> = {
  mm: 1,
  cm: 2,
  m: 4,
  km: 4,
  in: 2,
  ft: 3,
  mm2: 2,
  m3: 3,
  l: 1,
  gal: 1,
  ft3: 2,
  degC: 2,
  degF: 2,
  K: 2,
  mA: 3,
  A: 5,
  V: 3,
  mV: 1,
  Ohm: 2,
  kOhm: 4,
  '%': 2,
  counts: 0,
  s: 1,
  ms: 0,
  Pa: 0,
  kPa: 3,
  MPa: 5,
  bar: 4,
  mbar: 2,
  psi: 3,
  'm/s': 2,
}

/** Decimals with which a field reading in `unit` is shown. */
export function decimalsFor(unit: string): number {
  return DECIMALS[unit] ?? 3
}

const MOST_DECIMALS = 9
/**
 * Decimals that tell apart a hundredth of a span, or more where it is no power of ten; at least `usual`.
 * @param span of either sign, in the unit that is shown; `usual` alone where it is 0 or not known
 */
export function decimalsOfSpan(span: number | undefined, usual: number): number {
  const size = Math.abs(span ?? 0)
  if (!(size > 0 && Number.isFinite(size))) return usual
  return Math.min(MOST_DECIMALS, Math.max(usual, 2 - Math.floor(Math.log10(size))))
}

export interface FormatOptions {
  readonly decimals?: number
  readonly decimalMark?: '.' | ','
  /** Drop zeros at the end of the decimals. */
  readonly trim?: boolean
  /** Show + before positive values (errors). */
  readonly sign?: boolean
  /** In the unit given, whatever the loop is spoken of in. */
  readonly asGiven?: boolean
}

/** A number as text with a true minus. A value that is not finite is a programming error and refused. */
export function formatNumber(value: number, options: FormatOptions = {}): string {
  if (!Number.isFinite(value)) throw new RangeError('only finite figures are shown')
  let text = Math.abs(value).toFixed(options.decimals ?? 3)
  if (options.trim && text.includes('.')) text = text.replace(/\.?0+$/, '')
  const zero = Number(text) === 0
  if ((options.decimalMark ?? markNow()) === ',') text = text.replace('.', ',')
  return (value < 0 && !zero ? '−' : options.sign && !zero ? '+' : '') + text
}

/** Figures that an exact value in another unit is shown with, where no decimals are asked for. */
const FIGURES = 7

/** A value with its unit's printed symbol, e.g. `13.790 mA`, in the unit that the loop is spoken of in. */
export function formatQuantity(value: number, unit: string, options: FormatOptions = {}): string {
  if (options.asGiven) return printed(value, unit, options)
  const inFeet = spokenInFeet(value, unit)
  if (inFeet !== undefined) return inFeet
  const shown = spokenFigure(value, unit, options.decimals)
  if (shown.unit === unit) return printed(value, unit, options)
  const figures = options.trim ? Number(shown.value.toPrecision(FIGURES)) : shown.value
  return printed(figures, shown.unit, {
    ...options,
    ...(shown.decimals === undefined ? {} : { decimals: shown.decimals }),
  })
}

function printed(value: number, unit: string, options: FormatOptions): string {
  const label = unitOf(unit).label
  // A degree of angle stands close to its number.
  const gap = label === '' || label === '°' ? '' : ' '
  return `${formatNumber(value, { decimals: decimalsFor(unit), ...options })}${gap}${label}`
}
