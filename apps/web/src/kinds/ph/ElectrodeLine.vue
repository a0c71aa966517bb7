<script setup lang="ts">
// The electrode’s line against its ideal: voltage over pH, each buffer of the last calibration where it was read.
import type { ElectrodeLine } from '@calm-loop/core/kinds'
import { computed } from 'vue'
import { usePreferences } from '../../stores/preferences.ts'
import { apart } from '../../vessel/marks.ts'
import SideMarks from '../../vessel/SideMarks.vue'

const props = defineProps<{
  line: Pick<ElectrodeLine, 'temp_C' | 'slope_mVperPh' | 'ideal_mVperPh' | 'offset_mV' | 'slopePercent'>
  points: readonly { readonly buffer: string; readonly ph: number; readonly mV: number }[]
  /** A pH and the voltage that belongs to it, as the thread has them. */
  at?: { readonly ph: number; readonly mV: number } | undefined
}>()
const preferences = usePreferences()
const [LEFT, RIGHT, TOP, FLOOR] = [92, 560, 24, 316]
/** Volts shown each way of pH 7, so that line, ideal and points have room. */
const most = computed(() => {
  const ends = [0, 14].flatMap((ph) =>
    [props.line.ideal_mVperPh, props.line.slope_mVperPh ?? 0].map((s) => Math.abs(s * (ph - 7))),
  )
  return Math.max(...ends, ...props.points.map((p) => Math.abs(p.mV))) * 1.08 + Math.abs(props.line.offset_mV)
})
const x = (ph: number) => LEFT + (Math.min(14, Math.max(0, ph)) / 14) * (RIGHT - LEFT)
const y = (mV: number) => (TOP + FLOOR) / 2 - (mV / most.value) * ((FLOOR - TOP) / 2)
const path = (slope: number, offset: number) => `M${x(0)} ${y(slope * -7 + offset)}L${x(14)} ${y(slope * 7 + offset)}`
const mV = (v: number, decimals = 1) => preferences.quantity(v, 'mV', { decimals })
const marks = computed(() =>
  apart(
    props.points.map((p) => ({ y: y(p.mV), words: `${p.buffer}: ${mV(p.mV)}` })),
    { top: TOP + 12, bottom: FLOOR },
  ),
)
const now = computed(
  () =>
    props.at && {
      x: x(props.at.ph),
      y: y(props.at.mV),
      words: `pH ${props.at.ph.toFixed(2)} gives ${mV(props.at.mV)}`,
    },
)
const title = computed(
  () =>
    `Electrode: ${props.line.slopePercent.toFixed(1)} % of the ideal slope, ${mV(props.line.offset_mV)} at pH 7, at ` +
    preferences.quantity(props.line.temp_C, 'degC', { trim: true }) +
    (props.points.length
      ? `; last calibration ${props.points.map((p) => `${p.buffer} at ${mV(p.mV)}`).join(', ')}`
      : ''),
)
</script>

<template>
  <svg class="worded line" viewBox="0 0 760 356" role="img" :aria-label="title">
    <path :d="`M${LEFT} ${TOP}V${FLOOR}M${LEFT} ${y(0)}H${RIGHT}`" class="axis" />
    <template v-for="ph in [0, 2, 4, 7, 10, 12, 14]" :key="ph">
      <path :d="`M${x(ph)} ${y(0) - 4}v8`" class="axis" />
      <text :x="x(ph)" :y="FLOOR + 22" class="mid small figures">{{ ph }}</text>
    </template>
    <text :x="RIGHT + 10" :y="FLOOR + 22" class="small">pH</text>
    <text v-for="share in [0.8, -0.8]" :key="share" :x="LEFT - 10" :y="y(share * most) + 5" class="end small figures">
      {{ mV(share * most, 0) }}
    </text>
    <text :x="LEFT - 10" :y="y(0) + 5" class="end small figures">{{ mV(0, 0) }}</text>
    <path :d="path(line.ideal_mVperPh, 0)" class="ideal" />
    <path v-if="line.slope_mVperPh !== undefined" :d="path(line.slope_mVperPh, line.offset_mV)" class="own" />
    <SideMarks :marks="marks" side="right" :edge="RIGHT" :to="RIGHT - 6" />
    <circle v-for="p in points" :key="p.buffer" :cx="x(p.ph)" :cy="y(p.mV)" r="5.5" class="point" />
    <template v-if="now">
      <circle :cx="now.x" :cy="now.y" r="7" class="ring" />
    </template>
    <text :x="LEFT + 14" :y="FLOOR - 8" class="small">
      <tspan class="key own-key">this electrode</tspan>
      , dashed: ideal at
      {{ preferences.quantity(line.temp_C, 'degC', { trim: true }) }}
    </text>
    <text v-if="now" :x="x(7) + 14" :y="TOP + 14" class="small">{{ now.words }}</text>
  </svg>
</template>

<style scoped>
.line {
  width: 100%;
  max-width: 820px;
  height: auto;
}
.axis {
  fill: none;
  stroke: var(--second);
}
.ideal {
  fill: none;
  stroke: var(--second);
  stroke-dasharray: 6 5;
  stroke-width: 1.6;
}
.own {
  fill: none;
  stroke: var(--action);
  stroke-width: 2.6;
}
.own-key {
  fill: var(--action);
  font-weight: 600;
}
.point {
  fill: var(--signal);
  stroke: var(--sheet);
  stroke-width: 2;
}
.ring {
  fill: none;
  stroke: var(--ink);
  stroke-width: 2.5;
}
</style>
