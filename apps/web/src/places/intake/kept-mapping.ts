// How a list with these heads was read the last time: kept on this device, so that the next of the kind is read alike.
import type { Mapping } from '@calm-loop/core/intake'

const KEY = 'calm-loop.intake'
const MOST = 20
type Kept = readonly { readonly heads: string; readonly mapping: Mapping }[]
const all = (): Kept => JSON.parse(localStorage.getItem(KEY) ?? '[]') as Kept
const sign = (heads: readonly string[]) => JSON.stringify(heads)

/** How a list with these heads was read; undefined where none was. */
export const mappingFor = (heads: readonly string[]): Mapping | undefined =>
  all().find((k) => k.heads === sign(heads))?.mapping
export function keepMapping(heads: readonly string[], mapping: Mapping): void {
  const others = all().filter((k) => k.heads !== sign(heads))
  localStorage.setItem(KEY, JSON.stringify([{ heads: sign(heads), mapping }, ...others].slice(0, MOST)))
}
