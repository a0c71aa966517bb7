// What no table can hold is refused at the border: text with NUL or half a character, and keys that would change an
// object's make.
import { HttpProblem } from './problems.ts'

const MAKE = new Set(['__proto__', 'constructor', 'prototype'])

function unstorableText(text: string): string | undefined {
  if (text.includes('\u0000')) return 'holds the character NUL'
  if (!text.isWellFormed()) return 'holds half of a character (a lone surrogate)'
  return undefined
}

/** Deeper than anything that the product has; what is deeper is meant to exhaust whoever reads it. */
const DEEPEST = 40

/** Where and why a value cannot be stored; undefined when it can. */
export function unstorable(value: unknown, path = '', depth = 0): { path: string; rule: string } | undefined {
  if (depth > DEEPEST) return { path: 'body', rule: `is nested more than ${DEEPEST} deep` }
  if (typeof value === 'string') {
    const rule = unstorableText(value)
    return rule ? { path: path || 'body', rule } : undefined
  }
  if (typeof value !== 'object' || value === null || Buffer.isBuffer(value)) return undefined
  for (const key of Object.keys(value)) {
    const at = path === '' ? key : `${path}.${key}`
    const ofKey = MAKE.has(key) ? 'is not a name that can be used' : unstorableText(key)
    if (ofKey) return { path: at.toWellFormed().replaceAll('\u0000', '␀'), rule: ofKey }
    const inside = unstorable((value as Record<string, unknown>)[key], at, depth + 1)
    if (inside) return inside
  }
  return undefined
}

/** @throws HttpProblem `invalid-input` */
export function refuseUnstorable(...values: unknown[]): void {
  for (const value of values) {
    const found = unstorable(value)
    if (found)
      throw new HttpProblem(400, 'invalid-input', 'Some of what was sent cannot be kept as it is.', { fields: [found] })
  }
}
