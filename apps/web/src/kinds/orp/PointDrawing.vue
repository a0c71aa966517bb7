<script setup lang="ts">
// A redox potential on two rulers: against the electrode’s own reference, and against hydrogen; with the range, what a
// known solution gives, and where the thread stands.
import { redoxElectrode } from '@calm-loop/core/kinds'
import { sure } from '@calm-loop/core/sure'
import { niceStep } from '@calm-loop/drawing'
import { computed } from 'vue'
import { useFolder } from '../../stores/folder.ts'
import { usePreferences } from '../../stores/preferences.ts'
import { useThread } from '../../stores/thread.ts'
import { apart } from '../../vessel/marks.ts'
import SideMarks from '../../vessel/SideMarks.vue'
import ElectrodeHere from '../ph/ElectrodeHere.vue'

const folder = useFolder()
const thread = useThread()
const preferences = usePreferences()
const electrode = computed(() => redoxElectrode(sure(folder.reader)))
const [OWN, HYDROGEN, TOP, FLOOR] = [300, 400, 40, 372]
const mV = (v: number) => preferences.quantity(v, 'mV', { decimals: 0 })
const entry = (key: string) => folder.reader?.in(key, 'mV')
const range = computed(() => ({ low: entry('lrv'), high: entry('urv') }))
/** What the rulers show: the range and the solution, with room at both ends. */
const ends = computed(() => {
  const all = [range.value.low ?? -200, range.value.high ?? 800, electrode.value.solution_mV, 0]
  const now = thread.expected[0]
  if (now?.known) all.push(now.value)
  const room = Math.max(100, 0.12 * (Math.max(...all) - Math.min(...all)))
  return { low: Math.min(...all) - room, high: Math.max(...all) + room }
})
const y = (v: number) => FLOOR - ((v - ends.value.low) / (ends.value.high - ends.value.low)) * (FLOOR - TOP)
/** So that some eight figures stand on it, whatever the range is. */
const step = computed(() => niceStep((ends.value.high - ends.value.low) / 8))
/** Round figures along a ruler, shifted by what lies between the two references. */
function ticks(shift: number): { y: number; words: string }[] {
  const first = Math.ceil((ends.value.low + shift) / step.value)
  const last = Math.floor((ends.value.high + shift) / step.value)
  return Array.from({ length: Math.max(0, Math.min(12, last - first + 1)) }, (_, i) => {
    const at = (first + i) * step.value
    return { y: y(at - shift), words: `${Number(at.toPrecision(6))}`.replace('-', '−') }
  })
}
const left = computed(() => {
  const { low, high } = range.value
  return apart(
    [
      ...(now.value ? [{ y: now.value.y, words: `thread at ${now.value.words}` }] : []),
      ...(high === undefined ? [] : [{ y: y(high), words: `20 mA at ${mV(high)}`, tone: 'action' as const }]),
      ...(low === undefined ? [] : [{ y: y(low), words: `4 mA at ${mV(low)}`, tone: 'action' as const }]),
    ],
    { bottom: FLOOR },
  )
})
const right = computed(() => {
  const { solution_mV, reference_mV } = electrode.value
  const now = thread.expected[0]
  return apart(
    [
      { y: y(solution_mV), words: `hexacyanoferrate, 25 °C: ${mV(solution_mV + reference_mV)}` },
      ...(now?.known ? [{ y: y(now.value), words: `the liquid: ${mV(now.value + reference_mV)}` }] : []),
    ],
    { bottom: FLOOR },
  )
})
const now = computed(() => {
  const v = thread.expected[0]
  return v?.known ? { y: y(v.value), words: mV(v.value) } : undefined
})
const title = computed(
  () =>
    `Redox potential against ${electrode.value.referenceName} and against hydrogen, ` +
    `${mV(electrode.value.reference_mV)} apart; offset of the electrode ${mV(electrode.value.offset_mV)}` +
    (now.value ? `; the thread stands at ${now.value.words}` : ''),
)
</script>

<template>
  <div>
    <svg class="worded scale" viewBox="0 0 760 400" role="img" :aria-label="title">
      <rect
        v-if="range.low !== undefined && range.high !== undefined"
        :x="OWN - 14"
        :y="Math.min(y(range.low), y(range.high))"
        width="28"
        :height="Math.abs(y(range.high) - y(range.low))"
        class="range"
      />
      <template
        v-for="[at, shift, name] in [
          [OWN, 0, 'against its reference'],
          [HYDROGEN, electrode.reference_mV, 'against hydrogen'],
        ] as const"
        :key="name"
      >
        <path :d="`M${at} ${TOP - 10}V${FLOOR + 8}`" class="axis" />
        <text :x="at" :y="TOP - 20" class="small" :class="at === OWN ? 'end' : ''">{{ name }}, mV</text>
        <g v-for="t in ticks(shift)" :key="t.words">
          <path :d="`M${at} ${t.y}h${at === OWN ? 8 : -8}`" class="axis" />
          <text :x="at + (at === OWN ? 12 : -12)" :y="t.y + 5" class="small figures" :class="{ end: at !== OWN }">
            {{ t.words }}
          </text>
        </g>
      </template>
      <path v-if="now" :d="`M${OWN - 14} ${now.y}H${HYDROGEN + 14}`" class="now" />
      <SideMarks :marks="left" side="left" :edge="OWN - 14" :to="OWN" />
      <SideMarks :marks="right" side="right" :edge="HYDROGEN + 6" :to="HYDROGEN" />
    </svg>
    <ElectrodeHere sort="orp" />
  </div>
</template>

<style scoped>
.scale {
  width: 100%;
  max-width: 820px;
  height: auto;
}
.axis {
  stroke: var(--second);
  fill: none;
}
.range {
  fill: var(--signal);
  opacity: 0.22;
}
.now {
  stroke: var(--action);
  stroke-width: 2;
}
.mid {
  text-anchor: middle;
}
.end {
  text-anchor: end;
}
.small {
  font-size: 13px;
  fill: var(--second);
}
</style>
