// Unit codes of HART’s common table 2, by the symbols of `convert-unit`.
import { Refusal } from '../refusal/index.ts'

const CODES = {
  'inH2O@20C': 1,
  mmHg: 5,
  psi: 6,
  bar: 7,
  mbar: 8,
  'kgf/cm2': 10,
  Pa: 11,
  kPa: 12,
  MPa: 237,
  inH2O: 238,
  mmH2O: 239,
  'inH2O@60F': 145,
  gpm: 16,
  'l/min': 17,
  'm3/h': 19,
  'l/s': 24,
  'ft3/h': 130,
  'ft/s': 20,
  'm/s': 21,
  degC: 32,
  degF: 33,
  K: 35,
  mV: 36,
  V: 58,
  Ohm: 37,
  mA: 39,
  gal: 40,
  l: 41,
  m3: 43,
  ft3: 112,
  ft: 44,
  m: 45,
  in: 47,
  cm: 48,
  mm: 49,
  cSt: 54,
  cP: 55,
  'kg/s': 73,
  'kg/h': 75,
  't/h': 78,
  'lb/min': 81,
  'lb/h': 82,
  SG: 90,
  'g/cm3': 91,
  'kg/m3': 92,
  'lb/ft3': 94,
  Hz: 38,
  s: 51,
  '%': 57,
  pH: 59,
} as const

const BY_SYMBOL: ReadonlyMap<string, number> = new Map(Object.entries(CODES))
const BY_CODE: ReadonlyMap<number, string> = new Map(Object.entries(CODES).map(([symbol, code]) => [code, symbol]))

/** Symbols that have a code. */
export const UNIT_SYMBOLS: readonly string[] = [...BY_SYMBOL.keys()]
/** The symbol of a code; undefined where the table has none. */
export const symbolOf = (code: number): string | undefined => BY_CODE.get(code)

/** @throws Refusal `unknown-unit` */
export function unitCode(symbol: string): number {
  const code = BY_SYMBOL.get(symbol)
  if (code === undefined) throw new Refusal('unknown-unit', `The unit “${symbol}” has no code on this link.`)
  return code
}

/** @throws Refusal `unknown-unit` */
export function unitSymbol(code: number): string {
  const symbol = BY_CODE.get(code)
  if (symbol === undefined) throw new Refusal('unknown-unit', `Unit code ${code} is not in the table.`)
  return symbol
}
