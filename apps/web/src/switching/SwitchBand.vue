<script setup lang="ts">
// The run of a discrete point in the place of the thread: upright scales from the target to the controller, a line
// with the target and one without; rings expected, dots read.
import { formatQuantity } from '@calm-loop/core/quantity'
import type { Lane } from '@calm-loop/core/kinds'
import { useElementSize } from '@vueuse/core'
import { computed, ref } from 'vue'
import { useFolder } from '../stores/folder.ts'
import { usePreferences } from '../stores/preferences.ts'
import { useSwitching } from '../stores/switching.ts'
import FoldingHead, { type SlimKnot } from '../thread/FoldingHead.vue'
import { pathOf, runColumns, saidOf } from './runColumns.ts'

const HEIGHT = 112
const folder = useFolder()
const switching = useSwitching()
const preferences = usePreferences()
const band = ref<HTMLElement>()
const { width } = useElementSize(band)
const entries = computed(() => folder.entries)
const supply = computed(() => folder.run?.entered?.circuit.supplyV ?? 24)
const V = (v: number) =>
  formatQuantity(Math.abs(v) < 0.05 ? 0 : v, 'V', { decimals: 1, decimalMark: preferences.decimalMark })

const columns = computed(() =>
  runColumns({
    supplyV: supply.value,
    intoLoad: folder.run?.entered?.load_mA !== undefined,
    text: (key) => entries.value[key]?.typed ?? '',
    volts: V,
    target: switching.read?.target,
  }),
)
const x = (i: number) => ((i + 0.5) * width.value) / columns.value.length
const y = (at: number) => HEIGHT - 26 - at * (HEIGHT - 52)
const lanes = computed(() => folder.run?.lanes)
const line = (lane: Lane) => pathOf(columns.value.map((c, i) => ({ x: x(i), y: y(c.at(lane)) })))
const dots = computed(() => {
  const read = switching.read
  return read
    ? columns.value.flatMap((c, i) => {
        const at = c.read(read.shown)
        return at === undefined ? [] : [{ id: c.id, x: x(i), y: y(at) }]
      })
    : []
})
const readPath = computed(() => pathOf(dots.value))
/** So far from its ring a dot is another state, or another voltage than its tolerance takes. */
const APART = 0.25
const slim = computed(() =>
  columns.value.map((c): SlimKnot => {
    const { target, shown } = switching.read ?? {}
    const lane = target === false ? lanes.value?.absent : lanes.value?.present
    // Held against the lane of its target; where that is not known there is nothing to hold it against.
    const read = shown && target !== undefined ? c.read(shown) : undefined
    const apart = lane && read !== undefined && Math.abs(read - c.at(lane)) > APART
    return {
      ...{ id: c.id, name: c.name, expected: lane ? c.words(lane) : '?' },
      read: read === undefined ? undefined : apart ? 'read otherwise' : 'read so',
      parted: apart ? 'differs' : undefined,
    }
  }),
)
const said = computed(() => (lanes.value ? saidOf(columns.value, [lanes.value.present, lanes.value.absent]) : ''))
</script>

<template>
  <FoldingHead :knots="slim" what="Run" :simulated="folder.practising">
    <section class="run" aria-label="Run from the target to the controller">
      <p class="visually-hidden">{{ said }}</p>
      <div ref="band" class="band" aria-hidden="true">
        <div class="columns names">
          <div v-for="c in columns" :key="c.id" class="name">{{ c.name }}</div>
        </div>
        <svg :width="width" :height="HEIGHT" class="lines">
          <g v-for="(c, i) in columns" :key="c.id">
            <line :x1="x(i)" :x2="x(i)" :y1="y(0)" :y2="y(1)" class="scale" />
            <line v-for="q in [0, 1]" :key="q" :x1="x(i) - 6" :x2="x(i) + 6" :y1="y(q)" :y2="y(q)" class="scale" />
            <text :x="x(i)" :y="y(1) - 12" class="end">{{ c.high }}</text>
            <text :x="x(i)" :y="y(0) + 22" class="end">{{ c.low }}</text>
          </g>
          <template v-if="lanes">
            <path :d="line(lanes.absent)" class="expected away" />
            <path :d="line(lanes.present)" class="expected" />
            <path :d="readPath" class="read" />
            <g v-for="(c, i) in columns" :key="c.id">
              <circle :cx="x(i)" :cy="y(c.at(lanes.absent))" r="6" class="ring away" />
              <circle :cx="x(i)" :cy="y(c.at(lanes.present))" r="7" class="ring" />
            </g>
            <circle v-for="d in dots" :key="d.id" :cx="d.x" :cy="d.y" r="4.2" class="dot" />
          </template>
        </svg>
        <div class="columns">
          <div v-for="c in columns" :key="c.id" class="told" :data-run="c.id">
            <template v-if="lanes">
              <span class="figures">{{ c.words(lanes.present) }}</span>
              <span class="figures quiet small">{{ c.words(lanes.absent) }}</span>
            </template>
          </div>
        </div>
      </div>
      <p class="key small quiet">
        <template v-if="lanes">
          <span class="sample"
            ><svg width="34" height="14" aria-hidden="true">
              <path d="M0 7H34" class="expected" />
              <circle cx="17" cy="7" r="5" class="ring" /></svg
            >expected, target there</span
          >
          <span class="sample"
            ><svg width="34" height="14" aria-hidden="true">
              <path d="M0 7H34" class="expected away" />
              <circle cx="17" cy="7" r="5" class="ring away" /></svg
            >expected, target away</span
          >
          <span class="sample"
            ><svg width="14" height="14" aria-hidden="true"><circle cx="7" cy="7" r="4" class="dot" /></svg>read</span
          >
          <span>{{ switching.read?.caption }}</span>
        </template>
        <span v-else-if="folder.run?.needs.length" class="need">Still needs: {{ folder.run.needs.join(', ') }}.</span>
        <span v-else class="need">Cannot be computed from these entries; see the findings.</span>
      </p>
    </section>
  </FoldingHead>
</template>

<style scoped>
.run {
  background: var(--ground);
  border-bottom: 1px solid var(--hairline);
  contain: layout style;
}
.columns {
  display: grid;
  grid-auto-flow: column;
  grid-auto-columns: minmax(0, 1fr);
}
.name {
  text-align: center;
  font-size: 14px;
  font-weight: 600;
  line-height: 1.15;
  padding: 0 4px;
}
.told {
  display: flex;
  flex-direction: column;
  align-items: center;
  line-height: 1.25;
  text-align: center;
  padding: 0 4px;
  min-height: 42px;
}
.lines {
  display: block;
}
.scale {
  stroke: var(--second);
}
.end {
  font-size: 14px;
  fill: var(--second);
  text-anchor: middle;
  paint-order: stroke;
  stroke: var(--ground);
  stroke-width: 5px;
}
.expected {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1.6;
}
.expected.away {
  stroke-dasharray: 5 5;
  stroke-width: 1.3;
}
.ring {
  fill: var(--ground);
  stroke: var(--ink);
  stroke-width: 2;
}
.ring.away {
  stroke-dasharray: 3 2.5;
  stroke-width: 1.6;
}
.read {
  fill: none;
  stroke: var(--signal);
  stroke-width: 1.6;
}
.dot {
  fill: var(--signal);
}
.key {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px 20px;
  margin: 0;
  min-height: 28px;
}
.sample {
  display: inline-flex;
  align-items: center;
  gap: 6px;
}
.need {
  color: var(--look);
  border-bottom: 2px dotted var(--look);
}
@media (max-width: 640px) {
  .band {
    min-width: 700px;
  }
  .run {
    overflow-x: auto;
  }
}
</style>
