<script setup lang="ts">
// The tank from the side, to scale in height: the device above it, its beam, blanking, full and empty, the currents,
// and the level on the thread.
import { geometryOf, SHAPES, volumeAt } from '@calm-loop/core/kinds'
import { convertUnit } from '@calm-loop/core/quantity'
import { computed } from 'vue'
import { apart, type Mark } from '../../vessel/marks.ts'
import SideMarks from '../../vessel/SideMarks.vue'
import { outline } from '../../vessel/outline.ts'
import { useFolder } from '../../stores/folder.ts'
import { usePreferences } from '../../stores/preferences.ts'
import { useThread } from '../../stores/thread.ts'
import { sure } from '@calm-loop/core/sure'

const folder = useFolder()
const thread = useThread()
const preferences = usePreferences()
const H = 330
const FLOOR = H - 26
const LEFT = 250
const WIDE = 230
const MID = LEFT + WIDE / 2

const reader = computed(() => sure(folder.reader))
const g = computed(() => geometryOf(reader.value))
const unit = computed(() => thread.thread?.knots[0]?.unit ?? 'mm')
const show = (mm: number) =>
  preferences.quantity(convertUnit(mm, 'mm', unit.value), unit.value, {
    decimals: unit.value === 'mm' ? 0 : 3,
    trim: true,
  })
const sane = (v: number | undefined): v is number => v !== undefined && Number.isFinite(v) && v >= 0

/** Height drawn at the top, mm above the bottom. */
const top = computed(() => Math.max(...[g.value.depth, g.value.face, 1].filter(sane)) * 1.06)
const y = (height: number) => FLOOR - (Math.min(Math.max(height, 0), top.value) / top.value) * (FLOOR - 34)
/** A head on an arm that watches a moving target: a plate in place of the liquid, and no vessel. */
const isTarget = computed(() => g.value.target)
const POST = LEFT + 22
const depth = computed(() => (sane(g.value.depth) && g.value.depth > 0 ? g.value.depth : undefined))
const face = computed(() => (sane(g.value.face) ? g.value.face : undefined))
const level = computed(() => {
  const at = thread.expected[0]
  return at?.known ? convertUnit(at.value, unit.value, 'mm') : undefined
})
const inTank = computed(
  () => level.value !== undefined && depth.value !== undefined && level.value >= 0 && level.value <= depth.value,
)
const volume = computed(() => (level.value === undefined ? undefined : volumeAt(g.value, level.value)))
const closed = computed(() =>
  outline(reader.value, { left: LEFT, right: LEFT + WIDE, top: y(depth.value ?? top.value), floor: FLOOR }),
)
/** What stands open at its top: the level may run over there. */
const isOpen = computed(() => [SHAPES.none, SHAPES.upright, SHAPES.box].some((s) => s === reader.value.text('shape')))
const body = computed(() => (isOpen.value ? closed.value.slice(0, -1) : closed.value))

const leftMarks = computed(() => {
  const marks: Mark[] = []
  if (depth.value !== undefined && !isTarget.value)
    marks.push({ y: y(depth.value), words: `overflow ${show(depth.value)}` })
  if (face.value !== undefined && sane(g.value.blanking) && g.value.blanking > 0)
    marks.push({
      y: y(face.value - g.value.blanking),
      words: `stands still above ${show(face.value - g.value.blanking)}`,
    })
  if (face.value !== undefined && sane(g.value.full))
    marks.push({
      y: y(face.value - g.value.full),
      words: `${isTarget.value ? 'near end' : 'full'} ${show(face.value - g.value.full)}`,
    })
  if (face.value !== undefined && sane(g.value.empty))
    marks.push({
      y: y(g.value.emptyAboveBottom),
      words: `${isTarget.value ? 'far end' : 'empty'} ${show(g.value.emptyAboveBottom)}`,
    })
  return apart(marks, { bottom: H - 4 })
})
const rightMarks = computed(() => {
  const marks: Mark[] = []
  const { blanking } = g.value
  if (face.value !== undefined && blanking !== undefined && blanking > 0)
    marks.push({ y: (y(face.value) + y(face.value - blanking)) / 2, words: `blanking ${show(blanking)}` })
  if (g.value.level20 !== undefined)
    marks.push({ y: y(g.value.level20), words: `20 mA at ${show(g.value.level20)}`, tone: 'action' })
  if (g.value.level4 !== undefined)
    marks.push({ y: y(g.value.level4), words: `4 mA at ${show(g.value.level4)}`, tone: 'action' })
  if (level.value !== undefined && depth.value !== undefined)
    marks.push({
      y: y(level.value),
      words:
        `${isTarget.value ? 'target' : 'level'} ${show(level.value)}` +
        (volume.value === undefined ? '' : `, ${preferences.quantity(volume.value, 'm3', { decimals: 2 })}`),
    })
  return apart(marks, { bottom: H - 4 })
})
/** The beam meets what is not the surface. */
const beamMeets = computed(() => folder.study?.findings.some((f) => /^beam-(on|in)-/.test(f.code)) ?? false)
const missing = computed(() => reader.value.missing('tankDepth', 'emptyDistance', 'fullDistance', 'blanking'))
const title = computed(
  () => [...leftMarks.value, ...rightMarks.value].map((m) => m.words).join('; ') || 'Tank, nothing entered yet',
)
</script>

<template>
  <figure class="tank">
    <svg class="worded" :viewBox="`0 0 760 ${H}`" role="img" :aria-label="title">
      <defs>
        <pattern id="hatch" width="8" height="8" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <line x1="0" y1="0" x2="0" y2="8" class="hatch" />
        </pattern>
        <clipPath id="inside"><path :d="closed" /></clipPath>
      </defs>
      <rect
        v-if="!isTarget && level !== undefined && depth !== undefined"
        clip-path="url(#inside)"
        :x="LEFT"
        :width="WIDE"
        :y="y(level)"
        :height="Math.max(0, FLOOR - y(level))"
        class="liquid"
        :class="{ outside: !inTank }"
      />
      <template v-if="isTarget">
        <path v-if="face !== undefined" :d="`M${POST} ${FLOOR}V${y(face) - 10}H${MID}`" class="wall" />
        <path v-if="level !== undefined" :d="`M${MID - 46} ${y(level)}h92`" class="plate" />
      </template>
      <path v-else :d="body" class="wall" :class="{ unknown: depth === undefined }" />
      <path
        v-if="!isTarget && !isOpen && face !== undefined && depth !== undefined && face > depth"
        :d="`M${MID - 42} ${y(depth)}V${y(face)}M${MID + 42} ${y(depth)}V${y(face)}`"
        class="wall"
      />
      <template v-if="face !== undefined">
        <path
          :d="`M${MID - 8} ${y(face)}L${MID - 34} ${y(level ?? 0)}H${MID + 34}L${MID + 8} ${y(face)}Z`"
          class="beam"
          :class="{ meets: beamMeets }"
        />
        <rect
          v-if="g.blanking !== undefined && g.blanking > 0"
          :x="MID - 40"
          :y="y(face)"
          width="80"
          :height="Math.max(0, y(face - g.blanking) - y(face))"
          fill="url(#hatch)"
          class="blanking"
        />
        <rect :x="MID - 20" :y="y(face) - 20" width="40" height="20" class="device" />
        <text :x="MID" :y="y(face) - 25" class="mid">face {{ show(face) }}</text>
      </template>
      <SideMarks :marks="leftMarks" side="left" :edge="LEFT" :to="LEFT + 12" />
      <SideMarks :marks="rightMarks" side="right" :edge="LEFT + WIDE" :to="LEFT + WIDE - 12" />
      <text v-if="depth !== undefined" :x="LEFT + WIDE / 2" :y="FLOOR + 18" class="mid small">
        {{ isTarget ? 'far end, 0' : 'inside bottom, 0' }}
      </text>
      <text v-if="missing.length" x="0" y="20" class="needs">needs {{ missing.join(', ') }}</text>
    </svg>
  </figure>
</template>

<style scoped>
.tank {
  margin: 0;
  max-width: 800px;
}
.wall {
  fill: none;
  stroke: var(--ink);
  stroke-width: 2.4;
}
.wall.unknown {
  stroke-dasharray: 3 6;
}
.plate {
  stroke: var(--action);
  stroke-width: 7;
}
.liquid {
  fill: var(--action);
  opacity: 0.2;
}
.liquid.outside {
  fill: var(--stop);
}
.beam {
  fill: var(--hairline);
  opacity: 0.5;
}
.beam.meets {
  fill: var(--look);
}
.hatch {
  stroke: var(--look);
  stroke-width: 2;
}
.blanking {
  opacity: 0.7;
}
.device {
  fill: var(--sheet);
  stroke: var(--ink);
  stroke-width: 2;
}
</style>
