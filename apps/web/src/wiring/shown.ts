// Volts and milliamps as they are shown at the desk: two decimals, and a plain 0 for what is next to nothing.
import { hasVolts, terminalsOf } from '@calm-loop/core/wiring'
import { useDesk } from '../stores/desk.ts'
import { usePreferences } from '../stores/preferences.ts'

/** Below half of the last decimal shown. */
const NOTHING = 5e-3

export function useShown() {
  const desk = useDesk()
  const preferences = usePreferences()
  const shown = (value: number, unit: 'V' | 'mA') =>
    preferences.quantity(Math.abs(value) < NOTHING ? 0 : value, unit, { decimals: 2 })
  /** Whether volts at a terminal are computed at all: not on mains or data. */
  const told = (ref: string): boolean => {
    const { wiring, mains } = desk
    const does = wiring && terminalsOf(wiring).get(ref)?.does
    return !!wiring && !!mains && !!does && hasVolts(wiring, mains, ref, does)
  }
  return { volts: (v: number) => shown(v, 'V'), milliamps: (v: number) => shown(v, 'mA'), told }
}
