// The two status bytes of an answer: what the device did not understand, or how it answered and how it stands.

export const DEVICE_FLAGS = [
  'malfunction',
  'configuration-changed',
  'cold-start',
  'more-status',
  'current-fixed',
  'current-saturated',
  'other-out-of-limits',
  'primary-out-of-limits',
] as const
export type DeviceFlag = (typeof DEVICE_FLAGS)[number]

const LINE_ERRORS = [
  ['vertical-parity', 6],
  ['overrun', 5],
  ['framing', 4],
  ['longitudinal-parity', 3],
  ['buffer-overflow', 1],
] as const
export type LineError = (typeof LINE_ERRORS)[number][0]

export interface Status {
  /** What was wrong with what the device received; null where it was understood. */
  readonly communication: readonly LineError[] | null
  /** Response code, 0 = done; null where it was not understood. */
  readonly code: number | null
  readonly device: readonly DeviceFlag[]
}

export function readStatus(first: number, second: number): Status {
  if (first & 0x80)
    return {
      communication: LINE_ERRORS.filter(([, bit]) => first & (1 << bit)).map(([name]) => name),
      code: null,
      device: [],
    }
  return { communication: null, code: first, device: DEVICE_FLAGS.filter((_, i) => second & (0x80 >> i)) }
}

export const flagsByte = (flags: Iterable<DeviceFlag>): number => {
  let byte = 0
  for (const flag of flags) byte |= 0x80 >> DEVICE_FLAGS.indexOf(flag)
  return byte
}

/** Response codes that mean the same wherever they come. */
export const CODE = {
  done: 0,
  invalidSelection: 2,
  tooLarge: 3,
  tooSmall: 4,
  tooFewBytes: 5,
  writeProtected: 7,
  setToNearest: 8,
  lowerTooHigh: 9,
  lowerTooLow: 10,
  upperTooHigh: 11,
  upperTooLow: 12,
  bothOut: 13,
  spanSmall: 14,
  noSpan: 29,
  busy: 32,
  unknownCommand: 64,
} as const

/** Response codes with which a command is done all the same: the data that now hold come with them. */
export const isWarning = (code: number): boolean => code === CODE.setToNearest || code === CODE.spanSmall
