<script setup lang="ts">
// The sensing face and its target to scale: where every such sensor sees it, where some do, and where none does.
import { computed } from 'vue'
import { useFolder } from '../../stores/folder.ts'
import { usePreferences } from '../../stores/preferences.ts'
import { sure } from '@calm-loop/core/sure'

const folder = useFolder()
const preferences = usePreferences()
const FACE_X = 190
const RIGHT = 740
const MID = 150
const r = computed(() => sure(folder.reader))
const d = computed(() => folder.run?.distance)
const at = (key: string) => r.value.in(key, 'mm')
const mm = (v: number) => preferences.quantity(v, 'mm', { decimals: 2, trim: true })
const reach = computed(() => Math.max(1.6 * (d.value?.expected_mm ?? 8), (at('mountedAt') ?? 0) * 1.15, 1))
const x = (v: number) => FACE_X + (v / reach.value) * (RIGHT - FACE_X)
/** One scale both ways, as far as the sheet allows. */
const high = (v: number) => Math.min(190, (v / reach.value) * (RIGHT - FACE_X))
const face = computed(() => high(at('face') ?? (d.value?.expected_mm ?? 8) * 2))
const side = computed(() => high(at('targetSide') ?? d.value?.standardSide_mm ?? (d.value?.expected_mm ?? 8) * 3))
const target = computed(() => Math.max(0, at('mountedAt') ?? d.value?.assured_mm ?? 0))
const release = computed(() => (d.value ? d.value.expected_mm + d.value.differentialMax_mm : 0))
const lever = computed(() => r.value.text('sensing') === 'lever or contact')
const needs = computed(() => r.value.missing('sensing', 'rated', 'metal'))
const title = computed(() =>
  d.value
    ? `Sensing distance: expected ${mm(d.value.expected_mm)}, surely seen up to ${mm(d.value.assured_mm)}, by ` +
      `none beyond ${mm(d.value.usable_mm[1])}; the target passes at ${mm(target.value)}.`
    : 'Sensing distance, not yet known.',
)
/** The stretches are too short for their words side by side. */
const tight = computed(() => !!d.value && x(d.value.assured_mm) - FACE_X < 170)
</script>

<template>
  <figure class="zone">
    <svg class="worded" viewBox="0 0 760 336" role="img" :aria-label="title">
      <defs>
        <pattern id="may" width="9" height="9" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <line x1="0" y1="0" x2="0" y2="9" class="hatch" />
        </pattern>
      </defs>
      <template v-if="d">
        <rect :x="FACE_X" :y="MID - 100" :width="x(d.assured_mm) - FACE_X" height="200" class="sure" />
        <rect
          :x="x(d.assured_mm)"
          :y="MID - 100"
          :width="x(d.usable_mm[1]) - x(d.assured_mm)"
          height="200"
          fill="url(#may)"
        />
        <line :x1="x(d.expected_mm)" :x2="x(d.expected_mm)" :y1="MID - 108" :y2="MID + 100" class="expected" />
        <line :x1="x(release)" :x2="x(release)" :y1="MID - 84" :y2="MID + 100" class="release" />
        <text :x="x(d.expected_mm)" :y="MID - 116" class="mid">turns on, expected {{ mm(d.expected_mm) }}</text>
        <text :x="(FACE_X + x(d.assured_mm)) / 2" :y="tight ? 328 : 272" class="mid">seen by every one</text>
        <text :x="(x(d.assured_mm) + x(d.usable_mm[1])) / 2" :y="tight ? 310 : 272" class="mid small">by some</text>
        <text :x="x(d.usable_mm[1]) + 8" y="272" class="small">by none</text>
        <text :x="x(release) + 6" :y="MID - 74" class="small">off again by {{ mm(release) }}</text>
        <g :transform="`translate(${x(target)} 0)`">
          <rect :x="0" :y="MID - side / 2" width="16" :height="side" class="target" />
          <text :x="x(target) > 480 ? -8 : 22" :y="MID + 5" :class="{ end: x(target) > 480 }">
            {{ at('mountedAt') === undefined ? 'target, not placed yet' : `target at ${mm(target)}` }}
          </text>
        </g>
        <line :x1="FACE_X" :x2="RIGHT" y1="252" y2="252" class="axis" />
        <g v-for="q in [0, 0.25, 0.5, 0.75, 1]" :key="q">
          <line :x1="x(q * reach)" :x2="x(q * reach)" y1="248" y2="256" class="axis" />
        </g>
        <text :x="RIGHT" y="292" class="end small figures">{{ mm(reach) }}</text>
        <text :x="FACE_X" y="292" class="small figures">0 mm, the face</text>
      </template>
      <text v-else x="440" y="150" class="mid" :class="{ needs: !lever }">
        {{
          lever
            ? 'A lever or contact has no operating distance; the check looks at its states.'
            : `needs ${needs.join(', ')}`
        }}
      </text>
      <rect :x="FACE_X - 150" :y="MID - face / 2" width="150" :height="face" class="body" />
      <rect :x="FACE_X - 8" :y="MID - face / 2" width="8" :height="face" class="face" />
      <path :d="`M${FACE_X - 150} ${MID}H${FACE_X - 186}`" class="lead" />
      <text :x="FACE_X - 80" :y="MID + 5" class="mid">sensor</text>
    </svg>
  </figure>
</template>

<style scoped>
.zone {
  margin: 0;
}
.sure {
  fill: color-mix(in srgb, var(--action) 14%, transparent);
}
.hatch {
  stroke: var(--second);
  stroke-width: 1.4;
}
.expected {
  stroke: var(--ink);
  stroke-width: 2;
}
.release {
  stroke: var(--ink);
  stroke-dasharray: 5 5;
}
.axis {
  stroke: var(--second);
}
.body {
  fill: var(--sheet);
  stroke: var(--ink);
  stroke-width: 1.4;
}
.face {
  fill: var(--second);
}
.lead {
  stroke: var(--ink);
  stroke-width: 5;
  fill: none;
}
.target {
  fill: var(--sheet);
  stroke: var(--ink);
  stroke-width: 2.2;
}
</style>
