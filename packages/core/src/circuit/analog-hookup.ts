// Who powers a 4–20 mA loop: one and only one supply, and power for the transmitter where it needs its own.

export interface HookupInput {
  readonly transmitter: 'two-wire' | 'three-wire' | 'four-wire-active' | 'four-wire-passive'
  readonly card: 'supplies-loop' | 'passive'
  /** A separate supply wired in series with the loop. */
  readonly loopSupply: boolean
  /** Separate power at the transmitter’s supply terminals. */
  readonly devicePower: boolean
}
export interface HookupResult {
  readonly works: boolean
  readonly fault: null | 'no-loop-supply' | 'two-loop-supplies' | 'no-device-power'
}

/**
 * Whether the arrangement can work at all. Device power is judged first; a two-wire transmitter needs none.
 * Source: Kirchhoff’s voltage law; a three-wire or active four-wire transmitter is itself a supply of the loop.
 */
export function analogHookup({ transmitter, card, loopSupply, devicePower }: HookupInput): HookupResult {
  if (transmitter !== 'two-wire' && !devicePower) return { works: false, fault: 'no-device-power' }
  const drives = transmitter === 'three-wire' || transmitter === 'four-wire-active'
  const supplies = [drives, card === 'supplies-loop', loopSupply].filter(Boolean).length
  if (supplies === 1) return { works: true, fault: null }
  return { works: false, fault: supplies === 0 ? 'no-loop-supply' : 'two-loop-supplies' }
}
