// The theme's colours for charts, which draw on a canvas and cannot read styles.
import { computed } from 'vue'
import { useTheme } from 'vuetify'
import { sure } from '@calm-loop/core/sure'

export function useTones() {
  const theme = useTheme()
  return computed(() => {
    const c = theme.current.value.colors as Record<string, string>
    return {
      ink: sure(c['ink']),
      second: sure(c['second']),
      hairline: sure(c['hairline']),
      signal: sure(c['signal']),
      stop: sure(c['stop']),
      look: sure(c['look']),
      sheet: sure(c['sheet']),
      wash: `${sure(c['action'])}22`,
      words: "'Atkinson Hyperlegible Next Variable', sans-serif",
      figures: "'Atkinson Hyperlegible Mono Variable', monospace",
    }
  })
}
