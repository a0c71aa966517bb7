// How a loop is called.

/** Letters, a number, and what tells two of that number apart: `LT-112`, `PT301B`. */
export const TAG = /^[A-Z]{1,6}-?[0-9]{1,6}[A-Z0-9-]{0,8}$/

/** A tag as it is written here: capital letters, a hyphen for a gap. `undefined` where it is none even so. */
export function tagFrom(text: string): string | undefined {
  const tag = text
    .trim()
    .toUpperCase()
    .replace(/[\s_]+/g, '-')
  return TAG.test(tag) ? tag : undefined
}
