<script setup lang="ts">
// The load line: most resistance outside the transmitter against supply voltage, with this loop's own point.
import { loadLine } from '@calm-loop/core/circuit'
import { Chart, Filler, LinearScale, LineElement, PointElement, ScatterController, LineController } from 'chart.js'
import { computed } from 'vue'
import { Scatter } from 'vue-chartjs'
import { useFolder } from '../../stores/folder.ts'
import { usePreferences } from '../../stores/preferences.ts'
import { useAfterFrame } from '../../widgets/afterFrame.ts'
import { useTones } from '../../widgets/tones.ts'
import { sure } from '@calm-loop/core/sure'

Chart.register(LinearScale, LineElement, PointElement, ScatterController, LineController, Filler)

const folder = useFolder()
const preferences = usePreferences()
const tones = useTones()
const reader = computed(() => sure(folder.reader))
const wiring = computed(() => sure(folder.current).electrical)
/** What the circuit as drawn gives at no current. */
const supply = computed(() => wiring.value.supplied?.openV ?? reader.value.in('supply', 'V'))
const liftOff = computed(() => wiring.value.liftOffV)
// Figures one by one: the chart is drawn again only when one of them changes, not with every study.
const maxmA = computed(() => wiring.value.maxmA)
const totalOhm = computed(() => wiring.value.budget?.totalOhm)
const fits = computed(() => wiring.value.budget?.ok !== false)
const line = computed(() => {
  if (liftOff.value === undefined || liftOff.value < 0) return []
  return loadLine(liftOff.value, maxmA.value, Math.max(30, (supply.value ?? 0) * 1.2))
})
const here = computed(() =>
  supply.value !== undefined && totalOhm.value !== undefined ? [{ x: supply.value, y: totalOhm.value }] : [],
)
/** Drawn after the figures that are typed or dragged. */
const data = useAfterFrame(() => ({
  datasets: [
    {
      label: 'most resistance',
      data: line.value.map((p) => ({ x: p.supplyV, y: p.maxOhm })),
      showLine: true,
      pointRadius: 0,
      borderColor: tones.value.ink,
      borderWidth: 1.5,
      fill: 'start' as const,
      backgroundColor: tones.value.wash,
    },
    {
      label: 'this loop',
      data: here.value,
      pointRadius: 7,
      pointHoverRadius: 7,
      pointStyle: 'circle' as const,
      borderColor: fits.value ? tones.value.ink : tones.value.stop,
      borderWidth: 2.5,
      backgroundColor: tones.value.sheet,
    },
  ],
}))
const axis = (words: string) => ({
  title: { display: true, text: words, color: tones.value.second, font: { family: tones.value.words, size: 14 } },
  ticks: {
    color: tones.value.second,
    font: { family: tones.value.figures, size: 14 },
    maxTicksLimit: 6,
    callback: (v: number | string) => String(v),
  },
  grid: { color: tones.value.hairline, drawTicks: false },
  border: { color: tones.value.second },
})
const options = computed(() => ({
  responsive: true,
  maintainAspectRatio: false,
  animation: false as const,
  events: [],
  scales: {
    x: { ...axis('supply, V'), min: Math.floor(liftOff.value ?? 0) - 1 },
    y: { ...axis('outside the transmitter, Ω'), min: 0 },
  },
}))
const words = computed(() => {
  const b = wiring.value.budget
  if (!b)
    return line.value.length
      ? 'Load line; this loop’s own point needs the rest of the wiring entries.'
      : 'Load line: enter the lift-off voltage first.'
  return (
    `Load line: ${preferences.quantity(b.totalOhm, 'Ohm', { decimals: 0 })} of at most ` +
    `${preferences.quantity(b.maxSeriesOhm, 'Ohm', { decimals: 0 })} at ` +
    `${preferences.quantity(sure(supply.value), 'V', { trim: true })}.`
  )
})
</script>

<template>
  <figure class="load">
    <figcaption class="head">
      <b>Load line</b>
      <span class="quiet small"
        >at {{ preferences.quantity(wiring.maxmA, 'mA', { trim: true }) }}; the loop works inside the wash</span
      >
    </figcaption>
    <div v-if="line.length" class="canvas">
      <Scatter :data="data" :options="options" :aria-label="words" role="img" />
    </div>
    <p v-else class="lacking">needs {{ reader.missing('liftOff').join(', ') || 'a lift-off voltage above zero' }}</p>
  </figure>
</template>

<style scoped>
.head {
  display: flex;
  gap: 10px;
  align-items: baseline;
}
.load {
  margin: 0;
}
.canvas {
  height: 230px;
}
.lacking {
  color: var(--look);
}
</style>
