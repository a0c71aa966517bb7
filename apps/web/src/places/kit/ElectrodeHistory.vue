<script setup lang="ts">
// The history of one electrode over all points that it served: slope (or offset) at each calibration, its limit, and
// where the line through them meets it.
import { sure } from '@calm-loop/core/sure'
import { computed } from 'vue'
import { useElectrodes, type KnownElectrode } from '../../stores/electrodes.ts'
import { dayWords, today } from '../../widgets/dates.ts'
import { apart } from '../../vessel/marks.ts'
import SideMarks from '../../vessel/SideMarks.vue'

const props = defineProps<{ electrode: KnownElectrode }>()
const electrodes = useElectrodes()
const now = computed(() => props.electrode.now)
const forecast = computed(() => electrodes.replacement(now.value))
const redox = computed(() => now.value.sort === 'orp')
const value = (c: (typeof now.value.calibrations)[number]) => (redox.value ? c.offset_mV : sure(c.slopePercent))
const unit = computed(() => (redox.value ? 'mV' : '%'))
const LIMITS = computed(() => (redox.value ? [-30, 30] : [90]))
const [LEFT, RIGHT, TOP, FLOOR] = [64, 560, 24, 232]
const DAY = 86_400_000
const span = computed(() => {
  const days = now.value.calibrations.map((c) => Date.parse(c.at))
  const ends = [...days, Date.parse(now.value.enteredAt), Date.parse(today())]
  const { day } = forecast.value ?? {}
  // What lies far ahead is named, not drawn: the past would be squeezed into a corner.
  const ahead = day && Date.parse(day) < Date.parse(today()) + 2 * 365 * DAY ? [Date.parse(day)] : []
  return { from: Math.min(...ends) - 20 * DAY, to: Math.max(...ends, ...ahead) + 20 * DAY }
})
const x = (ms: number) => LEFT + ((ms - span.value.from) / (span.value.to - span.value.from)) * (RIGHT - LEFT)
const scale = computed(() => {
  const all = [...now.value.calibrations.map(value), ...LIMITS.value]
  return redox.value
    ? { low: Math.min(...all) - 6, high: Math.max(...all) + 6 }
    : { low: Math.min(...all) - 1.5, high: Math.max(102, ...all) + 1 }
})
const y = (v: number) => FLOOR - ((v - scale.value.low) / (scale.value.high - scale.value.low)) * (FLOOR - TOP)
const points = computed(() =>
  now.value.calibrations.map((c) => ({ x: x(Date.parse(c.at)), y: y(value(c)), tag: c.tag, key: c.at })),
)
/** From the last calibration to where it is foretold to meet its limit. */
const ahead = computed(() => {
  const f = forecast.value
  const last = points.value.at(-1)
  if (!f || !last || f.by !== (redox.value ? 'offset' : 'slope')) return undefined
  const limit = redox.value ? (f.perYear < 0 ? -30 : 30) : 90
  return { from: last, x: x(Date.parse(f.day)), y: y(limit), earliest: x(Date.parse(f.earliest)) }
})
const marks = computed(() => {
  const last = now.value.calibrations.at(-1)
  return apart(
    [
      ...LIMITS.value.map((v) => ({
        y: y(v),
        words: `replace at ${v} ${unit.value}`.replace('-', '−'),
        tone: 'stop' as const,
      })),
      ...(last
        ? [
            {
              y: y(value(last)),
              words: `now ${value(last).toFixed(1)} ${unit.value}`.replace('-', '−'),
              tone: 'action' as const,
            },
          ]
        : []),
    ],
    { top: TOP + 10, bottom: FLOOR },
  )
})
const title = computed(
  () =>
    `${redox.value ? 'Offset' : 'Slope'} of electrode ${now.value.serial}, ` +
    `${now.value.calibrations.length} calibrations` +
    (forecast.value ? `; it will want replacing about ${dayWords(forecast.value.day)}` : ''),
)
const rows = computed(() => [...now.value.calibrations].reverse())
</script>

<template>
  <div v-if="now.calibrations.length" class="history">
    <svg class="worded chart" viewBox="0 0 760 276" role="img" :aria-label="title">
      <path :d="`M${LEFT} ${TOP - 8}V${FLOOR}H${RIGHT}`" class="axis" />
      <text
        v-for="v in redox ? [-30, 0, 30] : [90, 95, 100]"
        :key="`t${v}`"
        :x="LEFT - 8"
        :y="y(v) + 5"
        class="small end figures"
      >
        {{ `${v}`.replace('-', '−') }}
      </text>
      <path v-for="v in LIMITS" :key="v" :d="`M${LEFT} ${y(v)}H${RIGHT}`" class="limit" />
      <path :d="points.map((p, i) => `${i ? 'L' : 'M'}${p.x} ${p.y}`).join('')" class="own" />
      <template v-if="ahead && ahead.x <= RIGHT + 1">
        <path :d="`M${ahead.from.x} ${ahead.from.y}L${ahead.x} ${ahead.y}`" class="ahead" />
        <path :d="`M${Math.max(LEFT, ahead.earliest)} ${ahead.y}H${ahead.x}`" class="early" />
      </template>
      <circle v-for="p in points" :key="p.key" :cx="p.x" :cy="p.y" r="5.5" :class="p.tag ? 'at-point' : 'at-bench'" />
      <text :x="LEFT" :y="FLOOR + 22" class="small">{{ dayWords(new Date(span.from + 20 * DAY).toISOString()) }}</text>
      <text :x="RIGHT" :y="FLOOR + 22" class="small end">
        {{ dayWords(new Date(span.to - 20 * DAY).toISOString()) }}
      </text>
      <text :x="LEFT - 8" :y="TOP - 8" class="small end">{{ unit }}</text>
      <text :x="LEFT" :y="FLOOR + 42" class="small">full: at a point, ring: at the bench</text>
      <SideMarks :marks="marks" side="right" :edge="RIGHT" :to="RIGHT - 8" />
    </svg>
    <p v-if="forecast" data-test="replacement">
      It will want replacing about <b>{{ dayWords(forecast.day) }}</b>, by its {{ forecast.by }} ({{
        Math.abs(forecast.perYear).toFixed(1)
      }}
      {{ forecast.by === 'slope' ? '%' : 'mV' }} a year).
      <span class="small quiet">{{ forecast.sure }}</span>
    </p>
    <p v-else class="small quiet">
      When it will want replacing is foretold from three calibrations on, where they show that it wears.
    </p>
    <div class="rows" tabindex="0" role="region" aria-label="Calibrations, one by one">
      <table>
        <caption class="hidden">
          Calibrations of electrode
          {{
            now.serial
          }}
        </caption>
        <thead>
          <tr>
            <th scope="col">Calibrated</th>
            <th scope="col">Where</th>
            <th v-if="!redox" scope="col">Slope</th>
            <th scope="col">Offset</th>
            <th scope="col">Buffers</th>
            <th scope="col">Besides</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="c in rows" :key="c.at">
            <td>{{ dayWords(c.at) }}</td>
            <td>{{ c.tag ?? 'bench' }}</td>
            <td v-if="!redox" class="figures">
              {{ c.slopePercent?.toFixed(1) }} %<span v-if="!c.slopeRead" class="small"> kept</span>
            </td>
            <td class="figures">{{ c.offset_mV.toFixed(1).replace('-', '−') }} mV</td>
            <td>
              {{ c.points.map((p) => p.buffer).join(', ')
              }}{{ c.temp_C === undefined ? '' : `, ${c.temp_C.toFixed(1)} °C` }}
            </td>
            <td class="small">
              <span v-if="c.points.some((p) => p.reckoned)">reckoned from what the device reported</span>
              <span v-if="c.response_s !== undefined">answers in {{ c.response_s }} s</span>
              <span v-if="c.glass_MOhm !== undefined"> glass {{ c.glass_MOhm }} MΩ</span>
              <span v-if="c.bestBefore"> best before {{ dayWords(c.bestBefore) }}</span>
            </td>
          </tr>
        </tbody>
      </table>
    </div>
    <p v-if="now.served.length" class="small">
      Served
      <span v-for="(s, i) in now.served" :key="s.from"
        >{{ i ? ', ' : '' }}{{ s.tag }} from {{ dayWords(s.from) }}{{ s.to ? ` to ${dayWords(s.to)}` : ' on' }}</span
      >.
    </p>
  </div>
  <p v-else class="quiet">Nothing is on record of it yet but that it is there.</p>
</template>

<style scoped>
.chart {
  width: 100%;
  max-width: 820px;
  height: auto;
}
.axis {
  fill: none;
  stroke: var(--second);
}
.limit {
  stroke: var(--stop);
  stroke-dasharray: 6 5;
}
.own {
  fill: none;
  stroke: var(--action);
  stroke-width: 2.4;
}
.ahead {
  fill: none;
  stroke: var(--action);
  stroke-dasharray: 3 5;
}
.early {
  stroke: var(--look);
  stroke-width: 5;
  opacity: 0.6;
}
.at-point {
  fill: var(--action);
}
.at-bench {
  fill: var(--sheet);
  stroke: var(--action);
  stroke-width: 2.4;
}
.rows {
  overflow-x: auto;
}
.rows table {
  border-collapse: collapse;
}
.rows th,
.rows td {
  text-align: left;
  padding: 8px 16px 8px 0;
  border-bottom: 1px solid var(--hairline);
  white-space: nowrap;
}
.hidden {
  position: absolute;
  clip-path: inset(50%);
}
</style>
