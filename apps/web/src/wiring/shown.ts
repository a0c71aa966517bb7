// Volts and milliamps as they are shown at the desk: two decimals, and a plain 0 for what is next to nothing.
import { usePreferences } from '../stores/preferences.ts'

/** Below half of the last decimal shown. */
const NOTHING = 5e-3

export function useShown() {
  const preferences = usePreferences()
  const shown = (value: number, unit: 'V' | 'mA') =>
    preferences.quantity(Math.abs(value) < NOTHING ? 0 : value, unit, { decimals: 2 })
  return { volts: (v: number) => shown(v, 'V'), milliamps: (v: number) => shown(v, 'mA') }
}
