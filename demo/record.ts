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
