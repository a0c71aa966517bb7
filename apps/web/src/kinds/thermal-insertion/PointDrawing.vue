<script setup lang="ts">
// The stem through gland, valve and branch to the centre line of the pipe, to scale, with the two marks on it.
import { insertionOf } from '@calm-loop/core/kinds'
import { computed } from 'vue'
import { useFolder } from '../../stores/folder.ts'
import { usePreferences } from '../../stores/preferences.ts'
import { sure } from '@calm-loop/core/sure'

const folder = useFolder()
const preferences = usePreferences()
const r = computed(() => sure(folder.reader))
const mm = (key: string) => r.value.in(key, 'mm') ?? 0
const insertion = computed(() => insertionOf(r.value))
const LEFT = 24
const MID = 136
const scale = computed(() =>
  Math.min(600 / Math.max(1, mm('od') + mm('branch') + mm('valve') + mm('fitting')), 196 / Math.max(1, mm('od'))),
)
const s = (v: number) => v * scale.value
const centre = computed(() => LEFT + s(mm('od')) / 2)
const branch = computed(() => LEFT + s(mm('od')))
const valve = computed(() => branch.value + s(mm('branch')))
const fitting = computed(() => valve.value + s(mm('valve')))
const face = computed(() => fitting.value + s(mm('fitting')))
const tipEnd = computed(() => face.value - s(insertion.value?.insert_mm ?? 0))
const clearEnd = computed(() => face.value - s(insertion.value?.clear_mm ?? 0))
const show = (v: number) => preferences.quantity(v, 'mm', { decimals: 0, trim: true })
const missing = computed(() => r.value.missing('od', 'wall', 'branch', 'valve', 'fitting'))
const rods = computed(() => r.value.text('rods') === 'a pair')
const title = computed(() =>
  insertion.value
    ? `Stem inserted ${show(insertion.value.insert_mm)} to the centre line; clear of the valve at ` +
      `${show(insertion.value.clear_mm)}`
    : 'Insertion, still to be entered',
)
</script>

<template>
  <figure class="insertion">
    <svg class="worded" viewBox="0 0 760 352" role="img" :aria-label="title" data-test="insertion">
      <template v-if="insertion">
        <circle :cx="centre" :cy="MID" :r="s(mm('od')) / 2" class="pipe" />
        <circle :cx="centre" :cy="MID" :r="Math.max(2, s(mm('od') / 2 - mm('wall')))" class="bore" />
        <path :d="`M${centre} ${MID - s(mm('od')) / 2 - 14}V${MID + s(mm('od')) / 2 + 14}`" class="centre" />
        <text :x="centre" :y="MID - s(mm('od')) / 2 - 20" class="mid small">centre line</text>
        <rect :x="branch - 1" :width="s(mm('branch')) + 1" :y="MID - 16" height="32" class="part" />
        <path :d="`M${valve} ${MID - 26}L${fitting} ${MID + 26}V${MID - 26}L${valve} ${MID + 26}Z`" class="part" />
        <rect :x="fitting" :width="s(mm('fitting'))" :y="MID - 20" height="40" class="part" />
        <g v-if="rods">
          <path :d="`M${fitting} ${MID - 34}H${face + 70}M${fitting} ${MID + 34}H${face + 70}`" class="rod" />
          <text :x="face + 74" :y="MID - 30" class="small">rods</text>
        </g>
        <path :d="`M${tipEnd} ${MID}H${face + 58}`" class="stem" />
        <path :d="`M${tipEnd + s(mm('tip'))} ${MID - 9}v18`" class="hot" />
        <rect :x="face + 58" :y="MID - 26" width="46" height="52" rx="4" class="part" />
        <text :x="branch + 4" :y="MID + 54" class="small">branch {{ show(mm('branch')) }}</text>
        <text :x="(valve + fitting) / 2" :y="MID - 40" class="mid small">valve {{ show(mm('valve')) }}</text>
        <text :x="(fitting + face) / 2" :y="MID + 72" class="mid small">fittings {{ show(mm('fitting')) }}</text>
        <text :x="centre" :y="Math.max(MID + s(mm('od')) / 2 + 32, MID + 92)" class="mid small">
          outside {{ show(mm('od')) }}
        </text>
        <g :transform="`translate(0 292)`" class="dim">
          <path :d="`M${tipEnd} 0H${face}M${tipEnd} -7v14M${face} -7v14`" />
          <text :x="(tipEnd + face) / 2" y="-8" class="mid fig strong">inserted {{ show(insertion.insert_mm) }}</text>
        </g>
        <g :transform="`translate(0 326)`" class="dim back">
          <path :d="`M${clearEnd} 0H${face}M${clearEnd} -7v14M${face} -7v14`" />
          <path :d="`M${tipEnd} 0H${clearEnd - 4}`" class="travel" />
          <text :x="(clearEnd + face) / 2" y="22" class="mid fig">clear {{ show(insertion.clear_mm) }}</text>
          <text :x="(tipEnd + clearEnd) / 2" y="-8" class="mid fig">drawn back by {{ show(insertion.travel_mm) }}</text>
        </g>
        <text :x="face + 81" :y="MID + 5" class="mid small">head</text>
      </template>
      <text v-else x="0" y="40" class="needs">needs {{ missing.join(', ') || 'lengths of 0 or more' }}</text>
    </svg>
  </figure>
</template>

<style scoped>
.insertion {
  margin: 0;
  max-width: 860px;
}
.pipe {
  fill: var(--second);
  stroke: var(--ink);
  stroke-width: 1.6;
}
.bore {
  fill: var(--ground);
  stroke: var(--ink);
}
.centre {
  stroke: var(--second);
  stroke-dasharray: 10 4 2 4;
}
.part {
  fill: var(--sheet);
  stroke: var(--ink);
  stroke-width: 1.8;
}
.stem {
  stroke: var(--action);
  stroke-width: 7;
}
.hot {
  stroke: var(--signal);
  stroke-width: 5;
}
.rod {
  stroke: var(--ink);
  stroke-width: 4;
}
.dim path {
  stroke: var(--ink);
  fill: none;
  stroke-width: 1.4;
}
.dim .travel {
  stroke-dasharray: 4 4;
}
.fig {
  font-family: var(--figures);
}
.strong {
  font-weight: 650;
}
</style>
