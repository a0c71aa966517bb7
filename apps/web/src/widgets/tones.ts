// The theme's colours for charts, which draw on a canvas and cannot read styles.
import { computed } from 'vue'
import { useTheme } from 'vuetify'

export function useTones() {
  const theme = useTheme()
  return computed(() => {
    const c = theme.current.value.colors as Record<string, string>
    return {
      ink: c['ink']!,
      second: c['second']!,
      hairline: c['hairline']!,
      signal: c['signal']!,
      stop: c['stop']!,
      look: c['look']!,
      sheet: c['sheet']!,
      wash: `${c['action']!}22`,
      words: "'Atkinson Hyperlegible Next Variable', sans-serif",
      figures: "'Atkinson Hyperlegible Mono Variable', monospace",
    }
  })
}
