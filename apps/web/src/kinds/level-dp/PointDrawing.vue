<script setup lang="ts">
// The vessel from the side, to scale in height: taps, the cell below, the leg on its low side, and the level on the
// thread; beside it the pressures at empty and full.
import { dpLevelOf, zeroWords } from '@calm-loop/core/kinds'
import { convertUnit } from '@calm-loop/core/quantity'
import { Refusal } from '@calm-loop/core/refusal'
import { computed } from 'vue'
import { useFolder } from '../../stores/folder.ts'
import { usePreferences } from '../../stores/preferences.ts'
import { useThread } from '../../stores/thread.ts'
import { spreadLabels } from '../../places/folder/labels.ts'
import { sure } from '@calm-loop/core/sure'

const folder = useFolder()
const thread = useThread()
const preferences = usePreferences()
const r = computed(() => sure(folder.reader))
const mm = (key: string) => r.value.in(key, 'mm')
const range = computed(() => dpLevelOf(r.value))
const known = computed(() => (range.value && !(range.value instanceof Refusal) ? range.value : undefined))
const arrangement = computed(() => r.value.text('arrangement'))
/** How many remote seals there are. */
const sealed = computed(() => (arrangement.value === 'seals' ? 2 : arrangement.value === 'one-seal' ? 1 : 0))
const h = computed(() => ({
  empty: mm('emptyHeight') ?? 0,
  full: mm('fullHeight') ?? 2000,
  below: arrangement.value === 'seals' || arrangement.value === 'submersible' ? 0 : (mm('belowTap') ?? 0),
  leg: r.value.text('arrangement') === 'wet-leg' ? mm('legHeight') : undefined,
  apart: sealed.value === 2 ? (mm('sealsApart') ?? 0) : undefined,
}))
const ends = computed(() => {
  const { full, below, leg, apart } = h.value
  const low = Math.min(0, -below)
  const high = Math.max(full * 1.12, leg === undefined ? 0 : leg - below, (apart ?? 0) * 1.08, 1)
  return { low, high }
})
const [TOP, FLOOR] = [34, 300]
/** Arrangements of an open vessel. */
const OPEN = new Set(['open', 'one-seal', 'submersible'])
const y = (above: number) => FLOOR - ((above - ends.value.low) / (ends.value.high - ends.value.low)) * (FLOOR - TOP)
const level = computed(() => {
  const k = thread.expected[0]
  return k?.known ? convertUnit(k.value, sure(sure(thread.thread).knots[0]).unit, 'mm') + h.value.empty : undefined
})
const show = (v: number) => preferences.quantity(v, 'mm', { trim: true, decimals: 0 })
const pressureUnit = computed(() => thread.thread?.knots[1]?.unit ?? 'mbar')
const pressure = (mmH2O: number) =>
  preferences.quantity(convertUnit(mmH2O, 'mmH2O', pressureUnit.value), pressureUnit.value, { decimals: 1 })
/** Pressures on one scale: none of it in the middle of things, so that a shifted zero is seen. */
const scale = computed(() => {
  if (!known.value) return undefined
  const all = [known.value.lrv_mmH2O, known.value.urv_mmH2O, 0]
  const [low, high] = [Math.min(...all), Math.max(...all)]
  const at = (v: number) => FLOOR - 10 - ((v - low) / (high - low || 1)) * (FLOOR - TOP - 20)
  return { at, low: known.value.lrv_mmH2O, high: known.value.urv_mmH2O }
})
const words = computed(() =>
  known.value
    ? zeroWords(known.value.lrv_mmH2O, pressure)
    : range.value instanceof Refusal
      ? range.value.message
      : 'Heights and densities are still to be entered.',
)
/** Letters of a figure that stand between the left edge and the vessel. */
const MOST_LETTERS = 13
const fits = (height: number) => `100 %, ${show(height)}`.length <= MOST_LETTERS
/** Heights of the words beside the two levels, and of the two pressures: never on one another. */
const levelYs = computed(() => spreadLabels([y(h.value.empty) + 5, y(h.value.full) + 5], 40))
const pressureYs = computed(() => {
  const s = scale.value
  return s ? spreadLabels([s.at(s.low) + 5, s.at(s.high) + (Math.abs(s.at(s.high) - s.at(0)) < 14 ? -8 : 5)], 20) : []
})
const airY = computed(() => y(-h.value.below) + 6)
const saysOpen = computed(() => arrangement.value === 'open' || sealed.value === 1)
/** Steps aside where “open to air” stands at that height. */
const noPressureY = computed(() => {
  const at = (scale.value?.at(0) ?? 0) + 5
  return saysOpen.value && Math.abs(at - airY.value) < 18 ? airY.value - 20 : at
})
</script>

<template>
  <svg class="worded" viewBox="0 0 760 356" role="img" :aria-label="`Vessel and cell: ${words}`">
    <path :d="`M150 ${y(ends.high)}V${y(Math.min(0, h.empty) - 1)}H330V${y(ends.high)}`" class="vessel" />
    <path v-if="arrangement && !OPEN.has(arrangement)" :d="`M150 ${y(ends.high)}H330`" class="vessel" />
    <rect
      v-if="level !== undefined"
      x="151"
      width="178"
      :y="y(Math.max(0, Math.min(level, ends.high)))"
      :height="Math.max(0, y(0) - y(Math.max(0, Math.min(level, ends.high))))"
      class="liquid"
    />
    <template
      v-for="(m, i) in [
        { at: h.empty, words: '0 %' },
        { at: h.full, words: '100 %' },
      ]"
      :key="m.words"
    >
      <line x1="142" x2="330" :y1="y(m.at)" :y2="y(m.at)" class="mark" />
      <text x="134" :y="levelYs[i]" class="end figures">
        {{ m.words }}
        <template v-if="fits(m.at)">, {{ show(m.at) }}</template>
        <title>{{ show(m.at) }}</title>
      </text>
      <text v-if="!fits(m.at)" x="134" :y="(levelYs[i] ?? 0) + 18" class="end figures">{{ show(m.at) }}</text>
    </template>
    <template v-if="arrangement === 'submersible'">
      <path :d="`M240 ${y(0) - 30}V${TOP - 14}H392V${TOP + 6}`" class="cable" />
      <rect x="226" :y="y(0) - 30" width="28" height="30" rx="5" class="cell" />
      <rect x="380" :y="TOP + 6" width="64" height="26" class="cell" />
      <text x="452" :y="TOP + 24" class="small">{{ r.text('vent') === 'closed' ? 'vent closed' : 'vent tube' }}</text>
      <text x="240" :y="y(0) + 22" class="mid small">membrane: levels are counted from it</text>
    </template>
    <template v-else>
      <path :d="`M330 ${y(0)}H356V${y(-h.below)}H380`" class="line" :class="sealed ? 'capillary' : 'filled'" />
      <rect v-if="sealed" x="330" :y="y(0) - 12" width="7" height="24" class="seal" />
      <text x="240" :y="Math.max(y(0), y(-h.below)) + 22" class="mid small">
        {{
          sealed === 2
            ? 'cell anywhere: both capillaries hold the same'
            : `cell ${h.below ? `${show(Math.abs(h.below))} ${h.below > 0 ? 'below' : 'above'} the tap` : 'at the tap'}`
        }}
      </text>
      <rect x="380" :y="y(-h.below) - 16" width="64" height="32" class="cell" />
      <text x="396" :y="y(-h.below) + 6" class="mid">H</text>
      <text x="428" :y="y(-h.below) + 6" class="mid">L</text>
    </template>
    <template v-if="sealed === 2">
      <path :d="`M444 ${y(0)}H486V${y(h.apart ?? 0)}H337`" class="line capillary" />
      <rect x="330" :y="y(h.apart ?? 0) - 12" width="7" height="24" class="seal" />
      <text x="494" :y="(y(0) + y(h.apart ?? 0)) / 2" class="small">seals apart</text>
      <text x="494" :y="(y(0) + y(h.apart ?? 0)) / 2 + 20" class="small figures">{{ show(h.apart ?? 0) }}</text>
    </template>
    <template v-if="arrangement === 'wet-leg' || arrangement === 'dry-leg'">
      <path
        :d="`M444 ${y(-h.below)}H486V${y(h.leg === undefined ? ends.high * 0.96 : h.leg - h.below)}H330`"
        class="line"
        :class="{ filled: arrangement === 'wet-leg' }"
      />
      <text x="494" :y="(y(-h.below) + y(h.full)) / 2" class="small">
        {{ arrangement === 'wet-leg' ? 'wet leg' : 'dry leg' }}
      </text>
      <text v-if="h.leg !== undefined" x="494" :y="(y(-h.below) + y(h.full)) / 2 + 20" class="small figures">
        {{ show(h.leg) }}
      </text>
    </template>
    <text v-else-if="saysOpen" x="452" :y="airY" class="small">open to air</text>
    <template v-if="scale">
      <line x1="592" x2="592" :y1="TOP + 6" :y2="FLOOR - 4" class="axis" />
      <line x1="592" x2="592" :y1="scale.at(scale.low)" :y2="scale.at(scale.high)" class="range" />
      <line x1="580" x2="604" :y1="scale.at(0)" :y2="scale.at(0)" class="zero" />
      <text x="574" :y="noPressureY" class="end small">no pressure</text>
      <line
        v-for="share in [0.25, 0.5, 0.75]"
        :key="share"
        x1="586"
        x2="598"
        :y1="scale.at(scale.low + share * (scale.high - scale.low))"
        :y2="scale.at(scale.low + share * (scale.high - scale.low))"
        class="zero"
      />
      <circle cx="592" :cy="scale.at(scale.low)" r="4.5" class="dot" />
      <circle cx="592" :cy="scale.at(scale.high)" r="4.5" class="dot" />
      <text x="608" :y="pressureYs[0]" class="figures">{{ pressure(scale.low) }}</text>
      <text x="608" :y="pressureYs[1]" class="figures">
        {{ pressure(scale.high) }}
      </text>
      <text x="592" y="12" class="mid small">4 to 20 mA</text>
    </template>
    <text x="380" y="348" class="mid">{{ words }}</text>
  </svg>
</template>

<style scoped>
.vessel {
  fill: none;
  stroke: var(--ink);
  stroke-width: 2;
}
.liquid {
  fill: var(--action);
  opacity: 0.25;
}
.mark {
  stroke: var(--second);
  stroke-dasharray: 4 4;
}
.line {
  fill: none;
  stroke: var(--hairline);
  stroke-width: 6;
}
.line.filled {
  stroke: var(--action);
}
.line.capillary {
  stroke: var(--look);
  stroke-width: 2.5;
}
.seal {
  fill: var(--ink);
}
.cable {
  fill: none;
  stroke: var(--ink);
  stroke-width: 3;
}
.cell {
  fill: var(--sheet);
  stroke: var(--ink);
  stroke-width: 1.6;
}
.axis {
  stroke: var(--second);
}
.range {
  stroke: var(--action);
  stroke-width: 6;
}
.zero {
  stroke: var(--ink);
  stroke-width: 2;
}
.dot {
  fill: var(--sheet);
  stroke: var(--ink);
  stroke-width: 2;
}
</style>
