// Small parts of every record in the demo: who, when, and what was typed.
import type { Check } from '@calm-loop/contract'
import { normal, seedFrom } from '@calm-loop/core/device'
import { readFileSync } from 'node:fs'
import { sure } from '../packages/core/src/sure/index.ts'

export interface Author {
  readonly id: string
  readonly name: string
}
export const later = (at: string, seconds: number) => new Date(new Date(at).getTime() + seconds * 1000).toISOString()
export const entryOf = (typed: string, unit: string) => ({ typed, value: Number.parseFloat(typed), unit })

const read = <T>(file: string) => JSON.parse(readFileSync(new URL(file, import.meta.url), 'utf8')) as T
const { people } = read<{ people: { id: string; name: string; signIn: string }[] }>('./people.json')
export const kit = read<(Check['gear'][number] & { measures: string; range: string })[]>('./kit.json')
interface Calibrated {
  readonly gear: string
  readonly body: { readonly day: string; readonly certificate: string; readonly due: string }
}
const { calibrations } = read<{ calibrations: Calibrated[] }>('./day.json')
const inYear = (date: string, year: number) => `${year}${date.slice(4)}`

/** A piece of kit as it stood on a day: calibrated then last, else in the years before as it is now. */
export function kitOn(name: string, on: string): Check['gear'][number] {
  const { measures: _, range: _range, ...piece } = sure(kit.find((k) => k.name === name))
  const then = calibrations
    .filter((c) => c.gear === name && c.body.day <= on)
    .map((c) => c.body)
    .sort((a, b) => a.day.localeCompare(b.day))
    .at(-1)
  if (then) return { ...piece, certificate: then.certificate, calibrated: then.day, due: then.due }
  const { calibrated, certificate = '' } = piece
  const year = Number(on.slice(0, 4)) - (calibrated && inYear(calibrated, Number(on.slice(0, 4))) > on ? 1 : 0)
  if (!calibrated) return { ...piece, due: inYear(piece.due, year + 1) }
  return {
    ...piece,
    ...{
      calibrated: inYear(calibrated, year),
      certificate: certificate.replace(/-\d\d-/, `-${String(year).slice(2)}-`),
    },
    due: inYear(calibrated, year + 1),
  }
}
export const person = (signIn: string) => {
  const found = sure(people.find((p) => p.signIn === signIn))
  return { id: found.id, name: found.name }
}

/** Errors of a day, made the same every time. */
export function noiseOf(seedText: string): (size: number) => number {
  let seed = seedFrom(seedText)
  return (size) => {
    const [n, next] = normal(seed)
    seed = next
    return n * size
  }
}
