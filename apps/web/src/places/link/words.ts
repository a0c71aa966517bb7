// Figures and words of a device’s values as they are shown.
import type { ProbeLine } from '@calm-loop/contract'
import { shortest, type Parameter, type Value, type Values } from '@calm-loop/core/description'
import { findUnit } from '@calm-loop/core/quantity'

export const OUTCOMES: Record<ProbeLine['outcome'], string> = {
  device: 'a device answers',
  silence: 'nothing came',
  noise: 'bytes that make no frame',
  others: 'others speak here',
  busy: 'busy',
}
export const WRITE_WORDS: Record<string, string> = {
  queued: 'waits',
  sent: 'on its way',
  held: 'held, read back',
  differs: 'differs',
  refused: 'refused',
  unknown: 'unknown: read back first',
}

/** Printed name of the unit that a parameter’s figure has, given all values. */
export function unitOf(p: Parameter, values: Values): string {
  const symbol = p.unitFrom ? String(values[p.unitFrom] ?? '') : (p.unit ?? '')
  return findUnit(symbol)?.label ?? symbol
}
/** A value in digits or words, without its unit. */
export function shown(p: Parameter, value: Value | undefined): string {
  if (value === undefined) return 'not read'
  if (value === null) return p.type === 'date' ? 'no date' : 'no number'
  if (p.choices) return p.choices.find((c) => c.value === value)?.label ?? String(value)
  if (p.type === 'unit') return findUnit(String(value))?.label ?? String(value)
  if (typeof value === 'number') return p.type === 'float' ? shortest(value) : String(value)
  return value === '' ? 'empty' : value
}
export const BY_SITE = 'By the site’s own procedure:'
/** How a caution is said before the current moves. */
export const CAUTIONS = [
  ['manual', 'The loop is in manual, and operations know that its current moves.'],
  ['trips', 'Trips and alarms on this signal are dealt with by the site’s procedure.'],
  ['area', 'The area allows this work: hazardous area and permits looked at.'],
] as const

/** Seconds as people say them. */
export const spell = (s: number): string =>
  s < 10 ? `${s.toFixed(1)} s` : s < 90 ? `${Math.round(s)} s` : `${Math.round(s / 60)} min`
