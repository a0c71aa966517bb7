<script setup lang="ts">
// The thread: a row of upright scales from the process to the controller, ring for expected, dot for read. Typing or
// dragging at any knot moves all others.
import { unitOf } from '@calm-loop/core/quantity'
import { useElementSize } from '@vueuse/core'
import { computed, ref } from 'vue'
import { useFolder } from '../stores/folder.ts'
import { usePreferences } from '../stores/preferences.ts'
import { useThread } from '../stores/thread.ts'
import { HEIGHT, useColumns } from './columns.ts'
import FoldingHead, { type SlimKnot } from './FoldingHead.vue'
import ThreadKnot from './ThreadKnot.vue'
import { sure } from '@calm-loop/core/sure'

const store = useThread()
const folder = useFolder()
const band = ref<HTMLElement>()
const { width } = useElementSize(band)
const { columns, marks, x, y, path, holdAt } = useColumns(width)

const preferences = usePreferences()
/** Without the conditions that it names. */
const shortUnit = (unit: string) => unitOf(unit).label.replace(/ \(.*\)$/, '')
const slim = computed(() =>
  columns.value.map(({ knot, expected, read }): SlimKnot => {
    const words = (value: number) => preferences.number(value, { decimals: knot.decimals })
    return {
      ...{ id: knot.id, name: knot.name, unit: shortUnit(knot.unit) },
      expected: expected.known ? words(expected.value) : '?',
      read: read === undefined ? undefined : words(read),
      parted: marks.value.find((m) => m.to === knot.id)?.short,
    }
  }),
)
const dragged = ref<number>()
function drag(event: PointerEvent, i: number): void {
  holdAt(i, event.clientY - sure(sure(band.value).querySelector('svg')).getBoundingClientRect().top)
}
function grab(event: PointerEvent, i: number): void {
  dragged.value = i
  ;(event.target as Element).setPointerCapture(event.pointerId)
  drag(event, i)
}
</script>

<template>
  <FoldingHead :knots="slim" what="Thread" :simulated="folder.practising">
    <section class="thread" aria-label="Thread from the process to the controller">
      <div ref="band" class="band">
        <div class="columns names" aria-hidden="true">
          <div v-for="c in columns" :key="c.knot.id" class="name" :title="c.knot.explains">{{ c.knot.name }}</div>
        </div>
        <svg
          :width="width"
          :height="HEIGHT"
          class="lines"
          aria-hidden="true"
          @pointermove="dragged !== undefined && drag($event, dragged)"
          @pointerup="dragged = undefined"
          @pointercancel="dragged = undefined"
        >
          <template v-for="(c, i) in columns" :key="c.knot.id">
            <line :x1="x(i)" :x2="x(i)" :y1="y(0)" :y2="y(1)" class="scale" :class="{ unknown: c.low === undefined }" />
            <template v-if="c.low !== undefined">
              <line
                v-for="q in [0, 0.25, 0.5, 0.75, 1]"
                :key="q"
                :x1="x(i) - (q % 1 ? 3 : 6)"
                :x2="x(i) + (q % 1 ? 3 : 6)"
                :y1="y(q)"
                :y2="y(q)"
                class="scale"
              />
            </template>
          </template>
          <path :d="path('ring')" class="expected" />
          <path :d="path('dot')" class="read" />
          <g v-for="(c, i) in columns" :key="c.knot.id">
            <path
              v-if="c.ring?.beyond"
              :d="`M${x(i) - 5} ${y(c.ring.at) + c.ring.beyond * 3}l5 ${-8 * c.ring.beyond}l5 ${8 * c.ring.beyond}`"
              class="expected"
            />
            <circle
              v-else-if="c.ring"
              :cx="x(i)"
              :cy="y(c.ring.at)"
              r="7"
              class="ring"
              :class="{ held: store.source?.knotId === c.knot.id }"
            />
            <path
              v-if="c.dot?.beyond"
              :d="`M${x(i) - 4} ${y(c.dot.at) + c.dot.beyond * 3}l4 ${-6 * c.dot.beyond}l4 ${6 * c.dot.beyond}z`"
              class="dot"
            />
            <circle v-else-if="c.dot" :cx="x(i)" :cy="y(c.dot.at)" r="4" class="dot" />
            <rect
              v-if="c.low !== undefined"
              :x="x(i) - 24"
              y="0"
              width="48"
              :height="HEIGHT"
              class="grip"
              @pointerdown="grab($event, i)"
            />
          </g>
          <g v-for="m in marks" :key="m.from + m.to">
            <title>{{ m.causes.join('; ') }}</title>
            <path :d="`M${m.x1 + 9} 24v-5H${m.x2 - 9}v5`" class="bracket" />
            <text :x="(m.x1 + m.x2) / 2" y="14" class="parted">{{ m.words }}</text>
          </g>
        </svg>
        <div class="columns">
          <ThreadKnot
            v-for="c in columns"
            :key="c.knot.id"
            :knot="c.knot"
            :expected="c.expected"
            :read="c.read"
            :low="c.low"
            :high="c.high"
          />
        </div>
      </div>
      <p class="key small quiet">
        <span class="sample"
          ><svg width="18" height="14" aria-hidden="true"><circle cx="8" cy="7" r="5" class="ring" /></svg
          >expected</span
        >
        <span class="sample"
          ><svg width="14" height="14" aria-hidden="true"><circle cx="7" cy="7" r="4" class="dot" /></svg>read</span
        >
        <span v-if="store.caption">{{ store.caption }}</span>
        <button
          v-if="store.held && store.lastReading && !store.live"
          type="button"
          class="link"
          @click="store.release()"
        >
          back to the last reading
        </button>
        <span v-else class="hint">Type at any knot, or drag its ring.</span>
      </p>
    </section>
  </FoldingHead>
</template>

<style scoped>
.thread {
  contain: layout style;
  background: var(--ground);
  border-bottom: 1px solid var(--hairline);
  padding-bottom: 2px;
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
  align-self: end;
}
.lines {
  display: block;
  touch-action: pan-x;
}
.scale {
  stroke: var(--second);
  stroke-width: 1;
}
.scale.unknown {
  stroke-dasharray: 2 4;
}
path.expected {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1.2;
}
path.read {
  fill: none;
  stroke: var(--signal);
  stroke-width: 1.6;
}
.ring {
  fill: var(--ground);
  stroke: var(--ink);
  stroke-width: 1.8;
}
.ring.held {
  stroke-width: 3.2;
}
.dot {
  fill: var(--signal);
}
.grip {
  fill: transparent;
  cursor: ns-resize;
  touch-action: none;
}
.bracket {
  fill: none;
  stroke: var(--signal);
}
.parted {
  font-size: 14px;
  font-family: var(--figures);
  fill: var(--signal);
  text-anchor: middle;
  paint-order: stroke;
  stroke: var(--ground);
  stroke-width: 4px;
}
.key {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px 16px;
  margin: 0;
  min-height: 28px;
}
.sample {
  display: inline-flex;
  align-items: center;
  gap: 4px;
}
@media (max-width: 640px) {
  .band {
    min-width: 760px;
  }
  .thread {
    overflow-x: auto;
  }
}
</style>
