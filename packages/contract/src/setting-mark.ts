// By which a setting is known again, so that two who change it at once do not overwrite one another unseen.
import { canonicalJson } from './canonical.ts'

const OFFSET = 0x811c9dc5
const PRIME = 0x01000193
/** Goes with a setting that is changed: the mark of what stood there when it was looked at. */
export const SETTING_HEADER = 'x-setting-was'

/** FNV-1a of 32 bits over the setting as it is written. Source: IETF draft-eastlake-fnv. */
export function settingMark(value: unknown): string {
  let hash = OFFSET
  for (const letter of canonicalJson(value)) {
    hash ^= letter.codePointAt(0) ?? 0
    hash = Math.imul(hash, PRIME)
  }
  return (hash >>> 0).toString(16).padStart(8, '0')
}
