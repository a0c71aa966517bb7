<script setup lang="ts">
// Cycles by shift as bars, and the factors of effectiveness by shift as lines.
import type { WatchedShift } from '@calm-loop/core/discrete'
import {
  BarController,
  BarElement,
  CategoryScale,
  Chart,
  Legend,
  LinearScale,
  LineController,
  LineElement,
  PointElement,
} from 'chart.js'
import { computed } from 'vue'
import { Bar, Line } from 'vue-chartjs'
import { usePreferences } from '../stores/preferences.ts'
import { useTones } from '../widgets/tones.ts'

Chart.register(BarController, BarElement, CategoryScale, Legend, LinearScale, LineController, LineElement, PointElement)

const props = defineProps<{ shifts: readonly WatchedShift[] }>()
const preferences = usePreferences()
const tones = useTones()
const short = (s: WatchedShift) => `${Number(s.shift.day.slice(8))}.${Number(s.shift.day.slice(5, 7))}. ${s.shift.name}`
const labels = computed(() => props.shifts.map(short))
const names = computed(() => [...new Set(props.shifts.map((s) => s.shift.name))])
const shade = (i: number) => [tones.value.signal, tones.value.second, tones.value.look][i % 3]!
const bars = computed(() => ({
  labels: labels.value,
  datasets: [
    {
      label: 'cycles',
      data: props.shifts.map((s) => s.count),
      backgroundColor: props.shifts.map((s) => shade(names.value.indexOf(s.shift.name))),
    },
  ],
}))
const pct = (v: number | null) => (v === null ? null : 100 * v)
const LINES = [
  ['OEE', 'oee', [], 3],
  ['availability', 'availability', [], 1.4],
  ['performance', 'performance', [2, 3], 1.6],
  ['quality', 'quality', [10, 3, 2, 3], 1.6],
] as const
const lines = computed(() => ({
  labels: labels.value,
  datasets: LINES.map(([label, key, dash, width], i) => ({
    label,
    data: props.shifts.map((s) => pct(s[key])),
    borderColor: i ? tones.value.ink : tones.value.signal,
    backgroundColor: i ? tones.value.ink : tones.value.signal,
    borderDash: [...dash],
    borderWidth: width,
    pointRadius: i ? 0 : 3,
    spanGaps: true,
  })),
}))
const font = computed(() => ({ family: tones.value.figures, size: 14 }))
const axes = computed(() => ({
  ticks: { color: tones.value.second, font: font.value, maxRotation: 50, autoSkip: true, maxTicksLimit: 14 },
  grid: { color: tones.value.hairline },
  border: { color: tones.value.second },
}))
const title = (text: string) => ({
  display: true,
  text,
  color: tones.value.second,
  font: { family: tones.value.words, size: 14 },
})
const common = computed(() => ({ responsive: true, maintainAspectRatio: false, animation: false as const, events: [] }))
const barOptions = computed(() => ({
  ...common.value,
  plugins: { legend: { display: false } },
  scales: { x: { ...axes.value, grid: { display: false } }, y: { ...axes.value, title: title('cycles in the shift') } },
}))
const lineOptions = computed(() => ({
  ...common.value,
  plugins: {
    legend: {
      display: true,
      labels: {
        color: tones.value.ink,
        font: { family: tones.value.words, size: 14 },
        usePointStyle: false,
        boxHeight: 0,
      },
    },
  },
  scales: {
    x: { ...axes.value, grid: { display: false } },
    y: { ...axes.value, title: title('%'), suggestedMax: 100 },
  },
}))
const words = computed(() => `Cycles by shift: ${props.shifts.map((s) => `${short(s)} ${s.count}`).join('; ')}`)
const oees = computed(
  () =>
    'Effectiveness by shift: ' +
    props.shifts
      .map(
        (s) => `${short(s)} ${s.oee === null ? 'not known' : `${preferences.number(100 * s.oee, { decimals: 0 })} %`}`,
      )
      .join('; '),
)
</script>

<template>
  <div class="charts">
    <div class="legend small">
      <span v-for="(n, i) in names" :key="n"><i :style="{ background: shade(i) }" /> {{ n }}</span>
    </div>
    <div class="canvas"><Bar :data="bars" :options="barOptions" :aria-label="words" role="img" /></div>
    <div class="canvas"><Line :data="lines" :options="lineOptions" :aria-label="oees" role="img" /></div>
  </div>
</template>

<style scoped>
.canvas {
  height: 230px;
  margin-bottom: 8px;
}
.legend {
  display: flex;
  gap: 20px;
}
.legend i {
  display: inline-block;
  width: 14px;
  height: 10px;
}
</style>
