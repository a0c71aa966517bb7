// Elements of resistance thermometers: temperature to resistance and back, by their standard, their certificate or a
// table.
import { Refusal } from '../refusal/index.ts'
import { sure } from '../sure/index.ts'
import nickel from './nickel.json' with { type: 'json' }
import { IEC_60751, rtdResistance, rtdTemperature, type Platinum } from './rtd.ts'

/** A resistance that rises with temperature. */
export interface ElementCurve {
  readonly low_C: number
  readonly high_C: number
  /** Ω at a temperature. @throws Refusal `out-of-range` */
  ohm(temp_C: number): number
  /** °C at a resistance. @throws Refusal `out-of-range` */
  temp(ohm: number): number
  readonly source: string
}

const outside = (low: number, high: number) =>
  new Refusal('out-of-range', `This element is known from ${low} to ${high} °C.`)

/** Platinum by IEC 60751, or by the constants of its own certificate. */
export function platinum(r0_Ohm: number, constants: Platinum = IEC_60751): ElementCurve {
  return {
    low_C: -200,
    high_C: 850,
    ohm: (t) => rtdResistance(t, r0_Ohm, constants),
    temp: (ohm) => rtdTemperature(ohm, r0_Ohm, constants),
    source: constants === IEC_60751 ? 'IEC 60751, Callendar–Van Dusen' : 'Callendar–Van Dusen with its own constants',
  }
}

const HALVINGS = 60
/** Room for rounding at the ends, as a share of the range. */
const ROUNDING = 1e-9
/** A curve from its one direction: the other is found by halving. */
function rising(low: number, high: number, ohm: (t: number) => number, source: string): ElementCurve {
  const slack = ROUNDING * (high - low)
  return {
    low_C: low,
    high_C: high,
    source,
    ohm(t) {
      if (!(t >= low - slack && t <= high + slack)) throw outside(low, high)
      return ohm(t)
    },
    temp(wanted) {
      const room = ROUNDING * (ohm(high) - ohm(low))
      if (!(wanted >= ohm(low) - room && wanted <= ohm(high) + room)) throw outside(low, high)
      let [a, b] = [low, high]
      for (let i = 0; i < HALVINGS; i++) {
        const mid = (a + b) / 2
        if (ohm(mid) < wanted) a = mid
        else b = mid
      }
      return (a + b) / 2
    },
  }
}

/** Nickel of `r0_Ohm` at 0 °C, −60 … 250 °C. Source: DIN 43760 */
export function nickelDin(r0_Ohm: number): ElementCurve {
  const { low_C, high_C, powers } = nickel.din43760
  const terms = Object.entries(powers).map(([power, factor]) => ({ power: Number(power), factor }))
  return rising(
    low_C,
    high_C,
    (t) => r0_Ohm * terms.reduce((sum, { power, factor }) => sum + factor * t ** power, 1),
    'DIN 43760',
  )
}

/** Nickel of 120 Ω at 0 °C, −80 … 260 °C: a cubic through the four rows of its table that lie nearest. */
export function nickel120(): ElementCurve {
  const { from_C, step_C, ohm } = nickel.ni120
  const last = ohm.length - 1
  return rising(
    from_C,
    from_C + last * step_C,
    (t) => {
      const at = (t - from_C) / step_C
      const first = Math.min(last - 3, Math.max(0, Math.floor(at) - 1))
      let sum = 0
      for (let i = first; i < first + 4; i++) {
        let weight = sure(ohm[i])
        for (let j = first; j < first + 4; j++) if (j !== i) weight *= (at - j) / (i - j)
        sum += weight
      }
      return sum
    },
    'Table of 120 Ω nickel thermometers',
  )
}

/** A row of one's own table. */
export interface ElementRow {
  readonly temp_C: number
  readonly ohm: number
}

/**
 * Reads "0 100; 50 119.4; 100 138.51": a temperature in °C and a resistance in Ω in each pair.
 * @throws Refusal `table-unreadable` for fewer than two rows, and for rows that do not rise
 */
export function readElementTable(text: string): ElementRow[] {
  const rows = text
    .split(/[;\n]/)
    .map((row) => row.trim())
    .filter(Boolean)
    .map((row) => {
      const [t, ohm, ...more] = row
        .replaceAll('−', '-')
        .split(/[\s:=]+/)
        .map((part) => Number(part.replace(',', '.')))
      if (t === undefined || ohm === undefined || more.length || !Number.isFinite(t) || !(ohm > 0))
        throw new Refusal('table-unreadable', `“${row}” is not a temperature and a resistance, like “100 138.51”.`)
      return { temp_C: t, ohm }
    })
  if (rows.length < 2) throw new Refusal('table-unreadable', 'A table has two rows or more: 0 100; 100 138.51.')
  const wrong = rows.findIndex(
    (row, i) => i > 0 && !(row.temp_C > sure(rows[i - 1]).temp_C && row.ohm > sure(rows[i - 1]).ohm),
  )
  if (wrong > 0)
    throw new Refusal('table-unreadable', `Row ${wrong + 1}: temperature and resistance rise from row to row.`)
  return rows
}

/** An element by a table of its own, straight between the rows. */
export function byTable(rows: readonly ElementRow[]): ElementCurve {
  const [first, last] = [sure(rows[0]), sure(rows.at(-1))]
  return rising(
    first.temp_C,
    last.temp_C,
    (t) => {
      const beyond = rows.findIndex((row) => row.temp_C >= t)
      const i = beyond < 0 ? rows.length - 1 : Math.max(1, beyond)
      const [a, b] = [sure(rows[i - 1]), sure(rows[i])]
      return a.ohm + ((b.ohm - a.ohm) * (t - a.temp_C)) / (b.temp_C - a.temp_C)
    },
    'Table as entered, straight between its rows',
  )
}
