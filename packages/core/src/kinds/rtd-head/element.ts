// The element as entered: what it really is, and what the transmitter takes it for.
import { attempt, Refusal } from '../../refusal/index.ts'
import {
  byTable,
  nickel120,
  nickelDin,
  platinum,
  readElementTable,
  type ElementCurve,
} from '../../temperature/index.ts'
import type { Reader } from '../reader.ts'
import { CONSTANTS, MATCHED, OWN_TABLE } from './fields.ts'
import { sure } from '../../sure/index.ts'

export interface Element {
  readonly real: ElementCurve
  /** By what the transmitter turns resistance into temperature. */
  readonly taken: ElementCurve
  /** Added by the leads and not taken out, Ω. */
  readonly leads_Ohm: number
  /** By which the measuring current makes the element warmer than the medium, K. */
  readonly heating_K: number
}

/** Resistances at 0 °C that transmitters know. */
const STANDARD_OHM = [100, 500, 1000]
const nearest = (r0: number) => STANDARD_OHM.reduce((a, b) => (Math.abs(b - r0) < Math.abs(a - r0) ? b : a))
/** What platinum has, whatever its purity; beyond them a point or a power of ten was lost. */
const [A, B, C] = [
  [3.7e-3, 4.1e-3],
  [-7e-7, -5e-7],
  [-1e-11, 0],
] as const
const within = (v: number, [low, high]: readonly [number, number]) => v >= low && v <= high
const MINUS = /[−–]/g

/** A platinum element by its certificate. @throws Refusal `not-a-number`, `invalid-input` */
function certified(r: Reader): Pick<Element, 'real' | 'taken'> {
  const [r0, a, b, c] = CONSTANTS.map(({ key, label }) => {
    const value = Number(r.text(key).replace(MINUS, '-').replace(',', '.'))
    if (!Number.isFinite(value)) throw new Refusal('not-a-number', `${label}: “${r.text(key)}” is not a number.`)
    return value
  }) as [number, number, number, number]
  if (!(r0 > 0 && a > 0 && b < 0))
    throw new Refusal('invalid-input', 'R₀ and A are above 0, B below: the signs stand on the certificate.')
  if (!(within(a, A) && within(b, B) && within(c, C)))
    throw new Refusal('invalid-input', 'These are no constants of platinum: A is about 3.9e-3, B −5.8e-7, C −4e-12.')
  const real = platinum(r0, { a, b, c })
  return { real, taken: r.text('matched') === 'no' ? platinum(nearest(r0)) : real }
}

function curves(r: Reader): Pick<Element, 'real' | 'taken'> {
  const id = r.text('element')
  if (id === MATCHED) return certified(r)
  const real =
    id === OWN_TABLE
      ? byTable(readElementTable(r.text('ownTable')))
      : id === 'Ni120'
        ? nickel120()
        : id.startsWith('Ni')
          ? nickelDin(Number(id.slice(2)))
          : platinum(Number(id.slice(2)) || sure(STANDARD_OHM[0]))
  return { real, taken: real }
}

const NEEDED = ['leads', 'leadOhm', 'ownTable', ...CONSTANTS.map((c) => c.key)]
export const elementNeeds = (r: Reader): string[] => r.missing(...NEEDED)

/** The element; a refusal where its constants or its table cannot be read, undefined while something is missing. */
export function elementOf(r: Reader): Element | Refusal | undefined {
  if (elementNeeds(r).length) return undefined
  const leads = r.text('leads')
  const leads_Ohm = leads === '2' ? r.in('leadOhm', 'Ohm') : leads === '3' ? r.in('leadDiff', 'Ohm') : 0
  return attempt(() => ({ ...curves(r), leads_Ohm: leads_Ohm ?? 0, heating_K: r.in('selfHeating', 'delta_K') ?? 0 }))
}

export const knownElement = (r: Reader): Element | undefined => {
  const e = elementOf(r)
  return e instanceof Refusal ? undefined : e
}

/** What a resistance error means there, K: by the slope of the element. */
export function kelvinOf({ real }: Element, ohm: number, temp_C: number): number {
  const inside = (t: number) => Math.min(real.high_C, Math.max(real.low_C, t))
  const near = inside(temp_C)
  const [a, b] = [inside(near - 0.5), inside(near + 0.5)]
  return (ohm * (b - a)) / (real.ohm(b) - real.ohm(a))
}
