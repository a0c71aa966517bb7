// Feet and inches as they are written on drawings: 10'-4", 12' 6 1/2", 5'6, 10 ft 4 in.
import { leadingNumber } from './number.ts'
import { sure } from '../sure/index.ts'

const FEET = /^([+-]?)(\d{1,6}(?:[.,]\d+)?)\s*(?:'|′|’|ft|feet|foot)\s*-?\s*(\d.*?)\s*("|″|''|in|inch|inches)?$/i
/** From twelve inches on they would be a foot; an apostrophe before three digits groups thousands. */
const INCHES_IN_A_FOOT = 12

/** The length in feet; undefined where the text is something else. */
export function feetAndInches(text: string): number | undefined {
  const match = FEET.exec(text)
  if (!match) return undefined
  const [, sign, feetText, inchesText, mark] = match
  const { read, rest } = leadingNumber(sure(inchesText))
  if ('code' in read || rest.trim() !== '' || read.value >= INCHES_IN_A_FOOT) return undefined
  if (!mark && /^\d{3}/.test(sure(inchesText))) return undefined
  const feet = Number(sure(feetText).replace(',', '.')) + read.value / INCHES_IN_A_FOOT
  return sign === '-' ? -feet : feet
}

/** As release 0.1 read them, for what stands on record: a dash before the inches took them away. */
export function feetAndInchesBefore(feet: number, rest: string): number | undefined {
  const match = /^(?:ft|feet|foot|'|′)\s*(.+?)\s*(?:in|inch|inches|"|″)$/i.exec(rest)
  if (!match) return undefined
  const inches = leadingNumber(sure(match[1]), { rules: 1 })
  if ('code' in inches.read || inches.rest.trim() !== '') return undefined
  return feet + (feet < 0 || Object.is(feet, -0) ? -1 : 1) * (inches.read.value / INCHES_IN_A_FOOT)
}

const SIXTEENTHS = 16
const divisor = (a: number, b: number): number => (b === 0 ? a : divisor(b, a % b))

/** A length in feet as feet, inches and the nearest sixteenth: `12′ 6 1/2″`. */
export function feetInchesText(feet: number): string {
  const all = Math.round(Math.abs(feet) * INCHES_IN_A_FOOT * SIXTEENTHS)
  const whole = Math.floor(all / SIXTEENTHS)
  const part = all % SIXTEENTHS
  const by = divisor(part, SIXTEENTHS)
  const inches = [
    whole % INCHES_IN_A_FOOT || !part ? String(whole % INCHES_IN_A_FOOT) : '',
    part ? `${part / by}/${SIXTEENTHS / by}` : '',
  ]
  return `${feet < 0 && all ? '−' : ''}${Math.floor(whole / INCHES_IN_A_FOOT)}′ ${inches.filter(Boolean).join(' ')}″`
}
