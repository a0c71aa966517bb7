// What a type cannot say and the code before it has seen to, held to at run time.

/**
 * The value, which must be there.
 * @throws Error: a fault of the program, never of what a person typed
 */
export function sure<T>(value: T | null | undefined): T {
  if (value === undefined || value === null) throw new Error('A value is missing that the program relies on.')
  return value
}
