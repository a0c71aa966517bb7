// One way to write a JSON value, so that equal folders are equal bytes and a digest can be checked.

function ordered(value: unknown): unknown {
  if (Array.isArray(value)) return value.map(ordered)
  if (typeof value !== 'object' || value === null) return value
  return Object.fromEntries(
    Object.keys(value)
      .sort()
      .filter((key) => (value as Record<string, unknown>)[key] !== undefined)
      .map((key) => [key, ordered((value as Record<string, unknown>)[key])]),
  )
}

/** JSON with sorted keys; indented by `indent` spaces, none by default. */
export function canonicalJson(value: unknown, indent = 0): string {
  return JSON.stringify(ordered(value), null, indent)
}
