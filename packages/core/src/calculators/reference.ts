// Runs reference cases (contract of the computing core) through the calculators and compares the figures.
import { Refusal } from '../refusal/index.ts'
import { CALCULATORS, runCalculator } from './registry.ts'
import { sure } from '../sure/index.ts'

export interface ReferenceCase {
  readonly id: string
  readonly calculator: string
  readonly input: unknown
  readonly expect: Readonly<Record<string, unknown>>
}

export interface CaseOutcome {
  readonly id: string
  readonly passed: boolean
  readonly unknownCalculator: boolean
  /** The first key that did not agree, with expected and got. */
  readonly says: string
}

function at(result: unknown, path: string): unknown {
  return path.split('.').reduce<unknown>((value, key) => (value as Record<string, unknown> | undefined)?.[key], result)
}

function same(a: unknown, b: unknown): boolean {
  if (a === b) return true
  if (typeof a !== 'object' || typeof b !== 'object' || a === null || b === null) return false
  const keys = Object.keys(a)
  return (
    Array.isArray(a) === Array.isArray(b) &&
    keys.length === Object.keys(b).length &&
    keys.every((k) => same((a as Record<string, unknown>)[k], (b as Record<string, unknown>)[k]))
  )
}

function agrees(got: unknown, expected: unknown): boolean {
  if (typeof expected === 'object' && expected !== null && 'value' in expected) {
    const { value, abs, rel } = expected as { value: number; abs?: number; rel?: number }
    if (typeof value === 'number' && (abs !== undefined || rel !== undefined))
      return typeof got === 'number' && Math.abs(got - value) <= (abs ?? sure(rel) * Math.abs(value))
  }
  return same(got, expected)
}

/** Runs one case. Keys of `expect` may be dotted paths; keys not named are not compared. */
export function runCase(c: ReferenceCase): CaseOutcome {
  const unknownCalculator = !CALCULATORS.some((k) => k.name === c.calculator)
  const outcome = (passed: boolean, says = ''): CaseOutcome => ({ id: c.id, passed, unknownCalculator, says })
  let result: unknown
  try {
    result = runCalculator(c.calculator, c.input)
  } catch (error) {
    if (!(error instanceof Refusal)) throw error
    return error.code === c.expect['error']
      ? outcome(true)
      : outcome(false, `error: expected ${JSON.stringify(c.expect['error'] ?? 'a result')} got ${error.code}`)
  }
  for (const [key, expected] of Object.entries(c.expect)) {
    const got = at(result, key)
    if (!agrees(got, expected))
      return outcome(false, `${key}: expected ${JSON.stringify(expected)} got ${JSON.stringify(got)}`)
  }
  return outcome(true)
}
