<script setup lang="ts">
// The error of a loop split by stage, drawn along the thread: what arises at the sensor, at the output, at the
// receiver, and what all of it makes of the loop.
import type { TrimDiagnosis } from '@calm-loop/core/trim'
import { useElementSize } from '@vueuse/core'
import { computed, ref } from 'vue'
import { reachOf, stagePanels, tickOf } from './stagePanels.ts'
import { signed } from './words.ts'

const props = defineProps<{
  diagnosis: TrimDiagnosis
  tolerancePct: number
  /** Applied, % of span, at the points. */
  applied: readonly number[]
  /** Error of the whole loop foretold after an action, % of span. */
  predicted?: readonly number[] | null
  /** Errors as left, by the same stages. */
  left?: TrimDiagnosis | undefined
  leftApplied?: readonly number[]
}>()
const box = ref<HTMLElement>()
const { width } = useElementSize(box)
const panels = computed(() => stagePanels(props))
/** The first stage beyond the adjust limit: where the thread parts. */
const first = computed(() => props.diagnosis.stages.find((s) => s.acts)?.stage)
const narrow = computed(() => width.value < 620)
const perRow = computed(() => (narrow.value ? 2 : panels.value.length))
const GAP = 22
const w = computed(() => (width.value - GAP * (perRow.value - 1)) / perRow.value)
const ROW = 234
const [TOP, BOTTOM, LEFT] = [58, 176, 34]
const most = computed(() => reachOf(panels.value, props.predicted ?? [], props.tolerancePct))
const at = (i: number) => ({ x: (i % perRow.value) * (w.value + GAP), y: Math.floor(i / perRow.value) * ROW })
const px = (x: number) => LEFT + 10 + (Math.min(106, Math.max(-6, x)) / 100) * (w.value - LEFT - 20)
const py = (y: number) => (TOP + BOTTOM) / 2 - (y / most.value) * ((BOTTOM - TOP) / 2)
const tick = computed(() => tickOf(most.value))
const title = computed(() =>
  panels.value
    .map((p) => `${p.title}: ${p.words} ${p.more}${p.id === first.value ? ', the thread parts here' : ''}`)
    .join('; '),
)
</script>

<template>
  <figure ref="box" class="errors">
    <svg
      v-if="width > 0"
      class="worded"
      :viewBox="`0 0 ${width} ${ROW * Math.ceil(panels.length / perRow)}`"
      role="img"
      :aria-label="title"
    >
      <defs>
        <pattern id="beyond" width="8" height="8" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <line x1="0" y1="0" x2="0" y2="8" class="hatch" />
        </pattern>
      </defs>
      <g
        v-for="(p, i) in panels"
        :key="p.id"
        :transform="`translate(${at(i).x} ${at(i).y})`"
        :class="{ acts: p.acts, first: p.id === first }"
        :data-stage-errors="p.id"
      >
        <text x="0" y="18" class="head">{{ p.title }}</text>
        <text x="0" y="37" class="small">
          {{ p.id === first ? 'the thread parts here' : p.acts ? 'beyond the limit' : 'inside the limit' }}
        </text>
        <line
          v-if="i < panels.length - 1 && (i + 1) % perRow"
          :x1="w + 4"
          :x2="w + GAP - 4"
          :y1="py(0)"
          :y2="py(0)"
          class="thread"
        />
        <rect :x="LEFT" :y="TOP" :width="w - LEFT" :height="BOTTOM - TOP" fill="url(#beyond)" />
        <rect
          :x="LEFT"
          :y="py(tolerancePct)"
          :width="w - LEFT"
          :height="py(-tolerancePct) - py(tolerancePct)"
          class="band"
        />
        <line
          v-for="s in [1, -1]"
          :key="s"
          :x1="LEFT"
          :x2="w"
          :y1="py(s * diagnosis.limitPct)"
          :y2="py(s * diagnosis.limitPct)"
          class="limit"
        />
        <line :x1="LEFT" :x2="w" :y1="py(0)" :y2="py(0)" class="axis" />
        <template v-for="s in [tick, -tick]" :key="s">
          <text :x="LEFT - 5" :y="py(s) + 5" class="small end figures">{{ signed(s, tick < 1 ? 1 : 0) }}</text>
        </template>
        <text :x="LEFT - 5" :y="py(0) + 5" class="small end figures">0</text>
        <line
          v-if="p.line.length"
          :x1="px(p.line[0]!.x)"
          :y1="py(p.line[0]!.y)"
          :x2="px(p.line[1]!.x)"
          :y2="py(p.line[1]!.y)"
          class="fit"
        />
        <polyline v-if="p.id === 'loop'" :points="p.dots.map((d) => `${px(d.x)},${py(d.y)}`).join(' ')" class="fit" />
        <rect
          v-for="(d, k) in p.dots"
          :key="`f${k}`"
          :x="px(d.x) - 4"
          :y="py(d.y) - 4"
          width="8"
          height="8"
          class="found"
        />
        <rect
          v-for="(d, k) in p.left"
          :key="`l${k}`"
          :x="px(d.x) - 4"
          :y="py(d.y) - 4"
          width="8"
          height="8"
          class="left"
        />
        <template v-if="p.id === 'loop' && predicted">
          <polyline :points="predicted.map((v, k) => `${px(applied[k]!)},${py(v)}`).join(' ')" class="foretold" />
          <circle v-for="(v, k) in predicted" :key="`p${k}`" :cx="px(applied[k]!)" :cy="py(v)" r="4.5" class="ring" />
        </template>
        <text :x="LEFT" :y="BOTTOM + 15" class="small figures">0 %</text>
        <text :x="w" :y="BOTTOM + 15" class="small end figures">100 %</text>
        <text x="0" :y="BOTTOM + 33" class="small figures">{{ p.words }}</text>
        <text x="0" :y="BOTTOM + 50" class="small figures">{{ p.more }}</text>
      </g>
    </svg>
    <figcaption class="quiet small">
      Error in % of span over each stage’s own input. Clear band: tolerance ± {{ tolerancePct }} %; dotted: adjust above
      ± {{ diagnosis.limitPct.toFixed(2) }} %. Open square: as found.
      <template v-if="left">Filled square: as left. </template>
      <template v-if="predicted">Ring: foretold.</template>
    </figcaption>
  </figure>
</template>

<style scoped>
.errors {
  margin: 0 0 16px;
}
.head {
  font-weight: 650;
}
.first .head,
.first .small:nth-of-type(2) {
  fill: var(--signal) !important;
}
.hatch {
  stroke: var(--hairline);
  stroke-width: 2;
}
.band {
  fill: var(--sheet);
}
.limit {
  stroke: var(--second);
  stroke-dasharray: 2 4;
}
.axis {
  stroke: var(--second);
}
.thread {
  stroke: var(--ink);
  stroke-width: 2;
}
.fit {
  fill: none;
  stroke: var(--signal);
  stroke-width: 1.5;
}
.found {
  fill: var(--sheet);
  stroke: var(--signal);
  stroke-width: 2;
}
.left {
  fill: var(--signal);
}
.foretold {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1.5;
  stroke-dasharray: 5 4;
}
.ring {
  fill: var(--sheet);
  stroke: var(--ink);
  stroke-width: 2;
}
</style>
