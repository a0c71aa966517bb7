// Values for a JSON Schema, by chance: mostly of the right form, then bent out of it. The same seed gives the same
// values.

export type Json = null | boolean | number | string | Json[] | { [key: string]: Json }
export interface Schema {
  type?: string | string[]
  format?: string
  pattern?: string
  enum?: Json[]
  const?: Json
  anyOf?: Schema[]
  oneOf?: Schema[]
  allOf?: Schema[]
  properties?: Record<string, Schema>
  required?: string[]
  additionalProperties?: Schema | boolean
  items?: Schema
  prefixItems?: Schema[]
  minimum?: number
  maximum?: number
  exclusiveMinimum?: number
  minItems?: number
  maxLength?: number
}

/** A small generator of numbers from 0 to 1 (mulberry32). */
export function dice(seed: number): () => number {
  let a = seed >>> 0
  return () => {
    a = (a + 0x6d2b79f5) >>> 0
    let t = a
    t = Math.imul(t ^ (t >>> 15), t | 1)
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61)
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296
  }
}
export const pick = <T>(roll: () => number, from: readonly T[]): T => from[Math.floor(roll() * from.length)]!

/** What breaks careless readers. */
export const NASTY: readonly Json[] = [
  null,
  true,
  -1,
  0,
  1e308,
  -1e308,
  2 ** 53,
  2147483648,
  0.1,
  '',
  ' ',
  '\u0000',
  'a\u0000b',
  '\ud800',
  'x\udfff',
  '__proto__',
  'constructor',
  "'; drop table loops; --",
  '../../../etc/passwd',
  '%00',
  '<script>alert(1)</script>',
  '=1+1',
  '0000-01-01',
  '0000-01-01T00:00:00.000Z',
  '9999-12-31T23:59:59.999Z',
  '+275760-09-13T00:00:00.000Z',
  'NaN',
  'Infinity',
  '𝔘𝔫𝔦',
  '‮abc',
  'x'.repeat(5000),
  [],
  {},
  [[[[[[]]]]]],
  { toString: 'x' },
  { length: 1e9 },
  '00000000-0000-0000-0000-000000000000',
  'ffffffff-ffff-ffff-ffff-ffffffffffff',
  '1e999 mm',
  '4 mA',
  '-0',
  '٣',
  '1,500',
]

function uuid(roll: () => number): string {
  const hex = (n: number) => Array.from({ length: n }, () => Math.floor(roll() * 16).toString(16)).join('')
  return `${hex(8)}-${hex(4)}-7${hex(3)}-a${hex(3)}-${hex(12)}`
}

function textFor(schema: Schema, roll: () => number, ids: readonly string[]): string {
  if (schema.format === 'uuid') return roll() < 0.7 && ids.length ? pick(roll, ids) : uuid(roll)
  if (schema.format === 'date-time') return new Date(Date.UTC(2026, 10, 27) + Math.floor(roll() * 1e9)).toISOString()
  if (schema.format === 'date')
    return `20${20 + Math.floor(roll() * 30)}-0${1 + Math.floor(roll() * 9)}-1${Math.floor(roll() * 9)}`
  const words = [
    '4 mA',
    '12 mm',
    '100 mm',
    'LT-112',
    'Bree',
    'afresh',
    'Operations told.',
    '24 V',
    'mm',
    'mA',
    'state',
    'zero-trim',
    'a',
    'level-from-above',
    'rona',
  ]
  return pick(roll, words).slice(0, schema.maxLength ?? 400)
}

/** A value that mostly fits. */
export function valueFor(schema: Schema, roll: () => number, ids: readonly string[], depth = 0): Json {
  if (schema.const !== undefined) return schema.const
  if (schema.enum) return pick(roll, schema.enum)
  const choice = schema.anyOf ?? schema.oneOf
  if (choice?.length) return valueFor(pick(roll, choice), roll, ids, depth + 1)
  if (schema.allOf?.[0]) return valueFor(schema.allOf[0], roll, ids, depth + 1)
  const type = Array.isArray(schema.type) ? pick(roll, schema.type) : schema.type
  switch (type) {
    case 'string':
      return textFor(schema, roll, ids)
    case 'integer':
    case 'number': {
      const low = Math.max(schema.minimum ?? schema.exclusiveMinimum ?? -100, -1e6)
      const high = Math.min(schema.maximum ?? 1000, 1e6)
      const value = low + roll() * (high - low)
      return type === 'integer' ? Math.round(value) : value
    }
    case 'boolean':
      return roll() < 0.5
    case 'array': {
      if (schema.prefixItems) return schema.prefixItems.map((s) => valueFor(s, roll, ids, depth + 1))
      const length = Math.max(schema.minItems ?? 0, Math.floor(roll() * 3))
      return Array.from({ length }, () => valueFor(schema.items ?? {}, roll, ids, depth + 1))
    }
    case 'object': {
      const made: { [key: string]: Json } = {}
      for (const [key, inner] of Object.entries(schema.properties ?? {}))
        if (schema.required?.includes(key) || roll() < 0.5) made[key] = valueFor(inner, roll, ids, depth + 1)
      if (typeof schema.additionalProperties === 'object' && depth < 5)
        for (let i = 0; i < 2; i++)
          made[pick(roll, ['current', 'controller', 'shunt', 'device'])] = valueFor(
            schema.additionalProperties,
            roll,
            ids,
            depth + 1,
          )
      return made
    }
    default:
      return pick(roll, NASTY)
  }
}

/** Bends a value somewhere: puts something nasty in a place, leaves a key out, adds one. */
export function bend(value: Json, roll: () => number): Json {
  if (typeof value !== 'object' || value === null || roll() < 0.2) return pick(roll, NASTY)
  if (Array.isArray(value)) {
    if (!value.length) return [pick(roll, NASTY)]
    const at = Math.floor(roll() * value.length)
    return value.map((v, i) => (i === at ? bend(v, roll) : v))
  }
  const keys = Object.keys(value)
  const made = Object.fromEntries(Object.entries(value))
  const what = roll()
  if (what < 0.15 && keys.length) delete made[pick(roll, keys)]
  else if (what < 0.3)
    Object.defineProperty(made, pick(roll, ['extra', '__proto__', 'x'.repeat(300)]), {
      value: pick(roll, NASTY),
      enumerable: true,
    })
  else if (keys.length) {
    const key = pick(roll, keys)
    made[key] = bend(made[key]!, roll)
  }
  return made
}
