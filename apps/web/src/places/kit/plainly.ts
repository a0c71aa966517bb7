// Figures of a certificate as they stand there: by so many digits, without zeroes behind them.
import { usePreferences } from '../../stores/preferences.ts'

/** How a figure is written by so many digits, with its sign where that is asked for. */
export function usePlainly(): (value: number, count: number, sign?: boolean) => string {
  const preferences = usePreferences()
  return (value, count, sign = false) => {
    const short = Number(value.toPrecision(count))
    const [mantissa = '', power = '0'] = String(short).split('e')
    const decimals = Math.max(0, (mantissa.split('.')[1]?.length ?? 0) - Number(power))
    return preferences.number(short, { decimals, sign })
  }
}
