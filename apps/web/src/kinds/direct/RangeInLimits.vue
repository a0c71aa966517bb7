<script setup lang="ts">
// One scale against another: what the sensor can measure, and the part of it that 4 to 20 mA stand for.
import { computed } from 'vue'
import { useFolder } from '../../stores/folder.ts'
import { usePreferences } from '../../stores/preferences.ts'
import { useThread } from '../../stores/thread.ts'
import { sure } from '@calm-loop/core/sure'

const folder = useFolder()
const thread = useThread()
const preferences = usePreferences()
const LEFT = 60
const RIGHT = 700
const unit = computed(() => thread.thread?.knots[0]?.unit ?? '')
const r = computed(() => sure(folder.reader))
const at = (key: string) => r.value.in(key, unit.value)
const ends = computed(() => ({
  low: at('sensorLow'),
  high: at('sensorHigh'),
  lrv: at('lrv'),
  urv: at('urv'),
}))
const span = computed(() => {
  const all = Object.values(ends.value).filter((v): v is number => v !== undefined)
  const [low, high] = [Math.min(...all), Math.max(...all)]
  return all.length && high > low ? { low, high } : undefined
})
const x = (v: number) =>
  LEFT + ((v - sure(span.value).low) / (sure(span.value).high - sure(span.value).low)) * (RIGHT - LEFT)
const show = (v: number) => preferences.quantity(v, unit.value, { trim: true })
const now = computed(() => {
  const k = thread.expected[0]
  if (!k?.known || !span.value) return undefined
  return { value: k.value, x: x(Math.min(span.value.high, Math.max(span.value.low, k.value))) }
})
const LETTER = 8.6
const [EDGE, GAP] = [4, 12]
const W = 760
/** Two figures at two marks, each from its mark inwards; pushed apart where they meet, never out of the picture. */
function beside(low: number, high: number, words: readonly [string, string]): [number, number] {
  const [a, b] = words.map((w) => w.length * LETTER) as [number, number]
  let [left, right] = [x(low), x(high) - b]
  const meet = left + a + GAP - right
  if (meet > 0) [left, right] = [left - meet / 2, right + meet / 2]
  const out = Math.max(0, EDGE - left) - Math.max(0, right + b - (W - EDGE))
  return [left + out, right + out]
}
const limits = computed(() => {
  const { low, high } = ends.value
  return low === undefined || high === undefined ? undefined : beside(low, high, [show(low), show(high)])
})
const figures = computed(() => {
  const { lrv, urv } = ends.value
  if (lrv === undefined || urv === undefined) return undefined
  const turned = x(lrv) > x(urv)
  const [left, right] = beside(turned ? urv : lrv, turned ? lrv : urv, [
    show(turned ? urv : lrv).padEnd(5),
    show(turned ? lrv : urv).padEnd(5),
  ])
  return turned ? { lrv: right, urv: left } : { lrv: left, urv: right }
})
/** Where the value now stands at the left, the word goes to the other end. */
const wordAtRight = computed(() => {
  const n = now.value
  return !!n && n.x - (show(n.value).length * LETTER) / 2 < LEFT + 64
})
const title = computed(() =>
  span.value
    ? `Sensor and range on one scale${now.value ? `, now ${show(now.value.value)}` : ''}`
    : 'Sensor limits and range are still to be entered',
)
</script>

<template>
  <svg class="worded scale" viewBox="0 0 760 190" role="img" :aria-label="title">
    <template v-if="span">
      <template v-if="ends.low !== undefined && ends.high !== undefined">
        <text :x="wordAtRight ? RIGHT : LEFT" y="30" class="small" :class="{ end: wordAtRight }">sensor</text>
        <path :d="`M${x(ends.low)} 54H${x(ends.high)}`" class="sensor" />
        <path :d="`M${x(ends.low)} 46v16M${x(ends.high)} 46v16`" class="end" />
        <text :x="limits?.[0] ?? 0" y="84" class="fig">{{ show(ends.low) }}</text>
        <text :x="limits?.[1] ?? 0" y="84" class="fig">{{ show(ends.high) }}</text>
      </template>
      <template v-if="ends.lrv !== undefined && ends.urv !== undefined">
        <path :d="`M${x(ends.lrv)} 128H${x(ends.urv)}`" class="range" />
        <path :d="`M${x(ends.lrv)} 54V136M${x(ends.urv)} 54V136`" class="drop" />
        <text :x="figures?.lrv ?? 0" y="152" class="fig">4 mA</text>
        <text :x="figures?.lrv ?? 0" y="172" class="fig">{{ show(ends.lrv) }}</text>
        <text :x="figures?.urv ?? 0" y="152" class="fig">20 mA</text>
        <text :x="figures?.urv ?? 0" y="172" class="fig">{{ show(ends.urv) }}</text>
      </template>
      <template v-if="now">
        <circle :cx="now.x" cy="54" r="7" class="ring" />
        <text :x="now.x" y="30" text-anchor="middle" class="fig">{{ show(now.value) }}</text>
      </template>
    </template>
    <text v-else x="380" y="96" text-anchor="middle" class="small">Enter the sensor’s limits and the range.</text>
  </svg>
</template>

<style scoped>
.scale {
  width: 100%;
  height: auto;
  max-height: 240px;
}
.sensor {
  stroke: var(--ink);
  stroke-width: 2;
}
.end {
  stroke: var(--ink);
  stroke-width: 1.5;
}
.range {
  stroke: var(--action);
  stroke-width: 6;
}
.drop {
  stroke: var(--second);
  stroke-dasharray: 3 4;
}
.ring {
  fill: var(--sheet);
  stroke: var(--ink);
  stroke-width: 2.5;
}
.fig {
  font-family: var(--figures);
  font-size: 14px;
  fill: var(--ink);
}
</style>
