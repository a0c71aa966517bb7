<script setup lang="ts">
// A photograph with arrows and words over it; while they are set, each end can be dragged or moved by keys.
import type { Mark } from '@calm-loop/contract'
import { computed, ref, useTemplateRef } from 'vue'

const props = defineProps<{
  source: string
  alt: string
  width: number
  height: number
  marks: readonly Mark[]
  editing: boolean
}>()
const emit = defineEmits<{ marks: [marks: Mark[]] }>()
const svg = useTemplateRef<SVGSVGElement>('svg')
/** Drawn on a picture a thousand points wide, however large it is. */
const WIDE = 1000
const high = computed(() => (WIDE * props.height) / Math.max(props.width, 1))
const STEP = 0.01
/** Largest letters, and the width of one by its height. */
const LARGEST = 40
/** Radius of what an end is held by. */
const HANDLE = 26
const LETTER = 0.62
/** So that what is said of it stands on the same page. */
const HIGHEST_vh = 60

/** Words stand where they are put and end within the picture: on its right half they end there, long ones are small. */
function wordsAt(m: Extract<Mark, { draw: 'words' }>) {
  const toRight = m.x < 0.5
  // Beside what one holds it by.
  const x = m.x * WIDE + (toRight ? HANDLE : -HANDLE)
  const room = Math.max(toRight ? WIDE - x : x, HANDLE)
  const size = Math.min(LARGEST, room / (LETTER * Math.max(m.words.length, 1)))
  return { x, y: Math.max(m.y * high.value, size), size, anchor: toRight ? 'start' : 'end' }
}
interface End {
  readonly mark: number
  readonly to: boolean
  readonly x: number
  readonly y: number
  readonly name: string
}
const ends = computed<End[]>(() =>
  props.marks.flatMap((m, mark): End[] =>
    m.draw === 'arrow'
      ? [
          { mark, to: false, x: m.x, y: m.y, name: `Arrow ${mark + 1}, where it begins` },
          { mark, to: true, x: m.toX, y: m.toY, name: `Arrow ${mark + 1}, its tip` },
        ]
      : [{ mark, to: false, x: m.x, y: m.y, name: `Words ${mark + 1}` }],
  ),
)
const share = (v: number) => Math.min(1, Math.max(0, v))
function put({ mark, to }: End, x: number, y: number): void {
  const moved = props.marks.map((m, i): Mark => {
    if (i !== mark) return m
    return to && m.draw === 'arrow' ? { ...m, toX: share(x), toY: share(y) } : { ...m, x: share(x), y: share(y) }
  })
  emit('marks', moved)
}
const KEYS: Record<string, readonly [number, number]> = {
  ...{ ArrowLeft: [-STEP, 0], ArrowRight: [STEP, 0], ArrowUp: [0, -STEP], ArrowDown: [0, STEP] },
}
function byKey(event: KeyboardEvent, end: End): void {
  const by = KEYS[event.key]
  if (!by) return
  event.preventDefault()
  put(end, end.x + by[0], end.y + by[1])
}
const held = ref<End>()
function drag(event: PointerEvent): void {
  const box = svg.value?.getBoundingClientRect()
  if (!held.value || !box?.width || !box.height) return
  put(held.value, (event.clientX - box.left) / box.width, (event.clientY - box.top) / box.height)
}
</script>

<template>
  <div class="marked" :style="{ maxWidth: `min(100%, ${(HIGHEST_vh * width) / Math.max(height, 1)}vh)` }">
    <img :src="source" :alt="alt" :width="width" :height="height" />
    <svg
      ref="svg"
      :viewBox="`0 0 ${WIDE} ${high}`"
      :aria-hidden="!editing"
      @pointermove="drag"
      @pointerup="held = undefined"
      @pointerleave="held = undefined"
    >
      <defs>
        <marker id="tip" viewBox="0 0 10 10" refX="9" refY="5" markerWidth="5" markerHeight="5" orient="auto">
          <path d="M0 0L10 5L0 10Z" class="tip" />
        </marker>
      </defs>
      <template v-for="(m, i) in marks" :key="i">
        <template v-if="m.draw === 'arrow'">
          <line
            v-for="of in ['under', 'over']"
            :key="of"
            :class="of"
            :x1="m.x * WIDE"
            :y1="m.y * high"
            :x2="m.toX * WIDE"
            :y2="m.toY * high"
            :marker-end="of === 'over' ? 'url(#tip)' : undefined"
          />
        </template>
        <text
          v-else
          :x="wordsAt(m).x"
          :y="wordsAt(m).y"
          :text-anchor="wordsAt(m).anchor"
          :font-size="wordsAt(m).size"
          class="words"
        >
          {{ m.words }}
        </text>
      </template>
      <g v-if="editing">
        <circle
          v-for="end in ends"
          :key="end.name"
          :cx="end.x * WIDE"
          :cy="end.y * high"
          :r="HANDLE"
          class="end"
          role="button"
          tabindex="0"
          :aria-label="`${end.name}: arrow keys move it`"
          @pointerdown.prevent="held = end"
          @keydown="byKey($event, end)"
        />
      </g>
    </svg>
  </div>
</template>

<style scoped>
.marked {
  position: relative;
  width: 100%;
  line-height: 0;
}
img {
  width: 100%;
  height: auto;
}
svg {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  touch-action: none;
}
line {
  stroke-linecap: round;
}
.under {
  stroke: #fff;
  stroke-width: 14;
}
.over {
  stroke: var(--signal);
  stroke-width: 8;
}
.tip {
  fill: var(--signal);
}
.words {
  font-weight: 700;
  fill: var(--signal);
  stroke: #fff;
  stroke-width: 10;
  paint-order: stroke;
}
.end {
  fill: #fff6;
  stroke: var(--signal);
  stroke-width: 4;
  cursor: grab;
}
.end:focus-visible {
  outline: none;
  stroke-width: 10;
}
</style>
