<script setup lang="ts">
// The error of a piece along its scale, calibration by calibration, against what its own figures allow.
import type { GearRange } from '@calm-loop/contract'
import type { Calibration } from '@calm-loop/contract/kit-record'
import { unitOf } from '@calm-loop/core/quantity'
import { sure } from '@calm-loop/core/sure'
import { computed } from 'vue'
import { apart } from '../../vessel/marks.ts'
import SideMarks from '../../vessel/SideMarks.vue'
import { dayWords } from '../../widgets/dates.ts'
import { kitErrors } from './kit-errors.ts'
import { usePlainly } from './plainly.ts'

const props = defineProps<{ calibrations: readonly Calibration[]; ranges: readonly GearRange[]; unit: string }>()
const [LEFT, RIGHT, TOP, FLOOR] = [96, 580, 28, 236]
const drawn = computed(() => kitErrors(props.calibrations, props.ranges, props.unit))
const label = computed(() => unitOf(props.unit).label)
const x = (at: number) => {
  const { from, to } = sure(drawn.value)
  return LEFT + ((at - from) / (to - from)) * (RIGHT - LEFT)
}
const y = (error: number) => (TOP + FLOOR) / 2 - (error / (sure(drawn.value).most * 1.12)) * ((FLOOR - TOP) / 2)
const path = (points: readonly { at: number; error: number }[]) =>
  points.map((p, i) => `${i ? 'L' : 'M'}${x(p.at).toFixed(1)} ${y(p.error).toFixed(1)}`).join('')
const band = computed(() => {
  const limits = drawn.value?.band ?? []
  if (limits.length < 2) return ''
  const upper = path(limits.map((p) => ({ at: p.at, error: p.limit })))
  const lower = path([...limits].reverse().map((p) => ({ at: p.at, error: -p.limit })))
  return `${upper}${lower.replace('M', 'L')}Z`
})
const number = usePlainly()
const ticks = computed(() => {
  const most = drawn.value?.most ?? 0
  return [most, 0, -most].map((v) => ({ y: y(v), words: v ? number(v, 2, true) : '0' }))
})
const ends = computed(() => {
  const every = drawn.value?.lines.flatMap((l) => l.points.map((p) => p.at)) ?? []
  const [low, high] = [Math.min(...every), Math.max(...every)]
  return low === high ? [low] : [low, high]
})
const marks = computed(() =>
  apart(
    (drawn.value?.lines ?? []).map((l) => ({
      y: y(sure(l.points.at(-1)).error),
      words: `${dayWords(l.day)}${l.off ? ', off' : ''}`,
      ...(l.off ? { tone: 'stop' as const } : l.newest ? { tone: 'action' as const } : {}),
    })),
    { top: TOP + 6, bottom: FLOOR },
  ),
)
const title = computed(
  () =>
    `Error in ${label.value} along its scale, of ${drawn.value?.lines.length} calibrations` +
    (band.value ? ', against what its own figures allow' : ''),
)
</script>

<template>
  <svg v-if="drawn" class="worded chart" viewBox="0 0 760 300" role="img" :aria-label="title">
    <path v-if="band" :d="band" class="band" />
    <path :d="`M${LEFT} ${TOP - 8}V${FLOOR}`" class="axis" />
    <path :d="`M${LEFT} ${y(0)}H${RIGHT}`" class="axis" />
    <text v-for="t in ticks" :key="t.words" :x="LEFT - 10" :y="t.y + 5" class="small end figures">{{ t.words }}</text>
    <text :x="LEFT" :y="TOP - 14" class="small">shows too much, {{ label }}</text>
    <text v-for="at in ends" :key="at" :x="x(at)" :y="FLOOR + 24" text-anchor="middle" class="small figures">
      {{ number(at, 5) }} {{ label }}
    </text>
    <text v-if="band" :x="LEFT" :y="FLOOR + 50" class="small">shaded: what its own figures allow</text>
    <g v-for="l in drawn.lines" :key="l.id" :class="['line', { newest: l.newest, off: l.off }]">
      <path :d="path(l.points)" />
      <circle v-for="p in l.points" :key="p.at" :cx="x(p.at)" :cy="y(p.error)" :r="l.newest ? 5 : 3" />
    </g>
    <SideMarks :marks="marks" side="right" :edge="RIGHT" :to="RIGHT - 8" />
  </svg>
</template>

<style scoped>
.chart {
  width: 100%;
  max-width: 860px;
  height: auto;
}
.band {
  fill: var(--action);
  opacity: 0.13;
}
.axis {
  fill: none;
  stroke: var(--second);
}
.line path {
  fill: none;
  stroke: var(--second);
  stroke-width: 1.4;
}
.line circle {
  fill: var(--second);
}
.line.newest path {
  stroke: var(--action);
  stroke-width: 2.6;
}
.line.newest circle {
  fill: var(--action);
}
.line.off path {
  stroke: var(--stop);
}
.line.off circle {
  fill: var(--stop);
}
</style>
