<script setup lang="ts">
// The probe in its vessel, to scale in height: nozzle and column, both dead zones, the weight, where 4 and 20 mA lie
// on it, and the level on the thread.
import { probeGeometry, volumeIn } from '@calm-loop/core/kinds'
import { convertUnit } from '@calm-loop/core/quantity'
import { sure } from '@calm-loop/core/sure'
import { computed } from 'vue'
import { useFolder } from '../../stores/folder.ts'
import { usePreferences } from '../../stores/preferences.ts'
import { useThread } from '../../stores/thread.ts'
import { apart, type Mark } from '../../vessel/marks.ts'
import SideMarks from '../../vessel/SideMarks.vue'
import { outline } from '../../vessel/outline.ts'

const folder = useFolder()
const thread = useThread()
const preferences = usePreferences()
const H = 440
const [FLOOR, TOP] = [H - 40, 56]
const [LEFT, RIGHT] = [262, 486]
const r = computed(() => sure(folder.reader))
const g = computed(() => probeGeometry(r.value))
const sane = (v: number | undefined): v is number => v !== undefined && Number.isFinite(v) && v >= 0
/** Where the bottom lies below the face: as entered, else a little below what hangs there. */
const bottom = computed(() => {
  const hangs = [g.value.length, g.value.empty].filter(sane)
  return sane(g.value.bottomBelowFace) && g.value.bottomBelowFace > 0
    ? g.value.bottomBelowFace
    : Math.max(...hangs, 1000) * 1.06
})
const deepest = computed(() => Math.max(bottom.value, ...[g.value.length, g.value.empty].filter(sane)))
/** Height on the drawing of a distance below the face; above it too, a little. */
const y = (below: number) =>
  TOP + (Math.min(Math.max(below, -0.04 * deepest.value), deepest.value) / deepest.value) * (FLOOR - TOP)
const MID = computed(() => (g.value.standpipe ? RIGHT + 34 : (LEFT + RIGHT) / 2))
const lid = computed(() => (sane(g.value.depth) ? g.value.faceAbove : 0.12 * bottom.value))
const body = computed(() => outline(r.value, { left: LEFT, right: RIGHT, top: y(lid.value), floor: y(bottom.value) }))
const unit = computed(() => thread.thread?.knots[0]?.unit ?? 'mm')
const show = (mm: number) =>
  preferences.quantity(convertUnit(mm, 'mm', unit.value), unit.value, {
    decimals: unit.value === 'mm' ? 0 : 3,
    trim: true,
  })
/** Distance of the level below the face. */
const surface = computed(() => {
  const at = thread.expected[0]
  if (!at?.known || g.value.empty === undefined) return undefined
  return g.value.empty - convertUnit(at.value, unit.value, 'mm')
})
const volume = computed(() =>
  surface.value === undefined || g.value.bottomBelowFace === undefined
    ? undefined
    : volumeIn(g.value.vessel, g.value.bottomBelowFace - surface.value),
)
const left = computed(() => {
  const marks: Mark[] = []
  const { depth, faceAbove, empty, full, length } = g.value
  if (sane(depth)) marks.push({ y: y(faceAbove), words: `top of the vessel ${show(depth)}` })
  if (sane(full)) marks.push({ y: y(full), words: `100 % at ${show(full)}` })
  if (sane(empty)) marks.push({ y: y(empty), words: `0 % at ${show(empty)}` })
  if (sane(length)) marks.push({ y: y(length), words: `end of the probe ${show(length)}` })
  return apart(marks, { bottom: H - 8 })
})
/** Whether an end of the current lies where the probe measures nothing. */
const isDead = (key: 'lrv' | 'urv') =>
  folder.study?.findings.some((f) => f.code.startsWith('current-in-') && f.fields.includes(key)) ?? false
const right = computed(() => {
  const marks: Mark[] = []
  const { top, length, bottom: zone, at4, at20 } = g.value
  if (sane(top) && top > 0) marks.push({ y: y(top / 2), words: `upper dead zone ${show(top)}` })
  if (sane(length) && sane(zone) && zone > 0)
    marks.push({ y: y(length - zone / 2), words: `lower dead zone ${show(zone)}` })
  for (const [mA, key, at] of [
    [4, 'lrv', at4],
    [20, 'urv', at20],
  ] as const)
    if (at !== undefined)
      marks.push({ y: y(at), words: `${mA} mA at ${show(at)}`, tone: isDead(key) ? 'stop' : 'action' })
  if (surface.value !== undefined && !g.value.off)
    marks.push({
      y: y(surface.value),
      words:
        `level ${show(sure(g.value.empty) - surface.value)}` +
        (volume.value === undefined ? '' : `, ${preferences.quantity(volume.value, 'm3', { decimals: 2 })}`),
    })
  return apart(marks, { bottom: H - 8 })
})
const X = computed(() => (g.value.standpipe ? RIGHT + 62 : RIGHT))
const title = computed(() =>
  [
    g.value.off ? 'The head is off the process: readings are void' : '',
    ...left.value.map((m) => m.words),
    ...right.value.map((m) => m.words),
  ]
    .filter(Boolean)
    .join('; '),
)
</script>

<template>
  <figure class="probe">
    <svg class="worded" :viewBox="`0 0 760 ${H}`" role="img" :aria-label="title">
      <defs>
        <pattern id="zone" width="7" height="7" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <line x1="0" y1="0" x2="0" y2="7" class="hatch" />
        </pattern>
        <clipPath id="vessel-inside"><path :d="body" /></clipPath>
      </defs>
      <rect
        v-if="surface !== undefined"
        clip-path="url(#vessel-inside)"
        :x="LEFT"
        :width="RIGHT - LEFT"
        :y="y(surface)"
        :height="Math.max(0, y(bottom) - y(surface))"
        class="liquid"
      />
      <path :d="body" class="wall" :class="{ unknown: !sane(g.depth) }" />
      <template v-if="g.standpipe">
        <rect
          v-if="surface !== undefined"
          :x="MID - 13"
          width="26"
          :y="y(surface)"
          :height="Math.max(0, y(bottom) - y(surface))"
          class="liquid"
        />
        <path :d="`M${MID - 14} ${y(0)}V${y(bottom)}H${MID + 14}V${y(0)}`" class="wall" />
        <path :d="`M${RIGHT} ${y(lid) + 18}H${MID - 14}M${RIGHT} ${y(bottom) - 22}H${MID - 14}`" class="wall joint" />
      </template>
      <path
        v-else-if="sane(g.depth) && g.faceAbove > 0"
        :d="`M${MID - 22} ${y(g.faceAbove)}V${y(0)}M${MID + 22} ${y(g.faceAbove)}V${y(0)}`"
        class="wall"
      />
      <g :class="{ void: g.off }">
        <path :d="`M${MID - 34} ${y(0)}H${MID + 34}`" class="flange" />
        <rect :x="MID - 22" :y="y(0) - 40" width="44" height="36" rx="6" class="device" />
        <template v-if="sane(g.length)">
          <path :d="`M${MID} ${y(0)}V${y(g.length)}`" :class="['wire', g.make]" />
          <rect
            v-if="sane(g.top)"
            :x="MID - 15"
            width="30"
            :y="y(0)"
            :height="Math.max(0, y(g.top) - y(0))"
            fill="url(#zone)"
            class="zone"
          />
          <rect
            v-if="sane(g.bottom)"
            :x="MID - 15"
            width="30"
            :y="y(Math.max(0, g.length - g.bottom))"
            :height="Math.max(0, y(g.length) - y(Math.max(0, g.length - g.bottom)))"
            fill="url(#zone)"
            class="zone"
          />
          <rect
            v-if="g.weight > 0"
            :x="MID - 7"
            width="14"
            :y="y(Math.max(0, g.length - g.weight))"
            :height="Math.max(4, y(g.length) - y(Math.max(0, g.length - g.weight)))"
            rx="3"
            class="weight"
          />
        </template>
      </g>
      <text v-if="g.off" :x="MID" y="12" class="mid bad">head off: readings void</text>
      <SideMarks :marks="left" side="left" :edge="LEFT" :to="MID - 18" />
      <SideMarks :marks="right" side="right" :edge="X" :to="MID + 18" />
      <text :x="(LEFT + RIGHT) / 2" :y="H - 10" class="mid small">
        {{ sane(g.depth) ? 'inside bottom' : 'the vessel’s height is not entered' }}
      </text>
    </svg>
  </figure>
</template>

<style scoped>
.probe {
  margin: 0;
  max-width: 820px;
}
.wall {
  fill: none;
  stroke: var(--ink);
  stroke-width: 2.4;
}
.wall.unknown {
  stroke-dasharray: 3 6;
}
.wall.joint {
  stroke-width: 5;
  stroke: var(--second);
}
.liquid {
  fill: var(--action);
  opacity: 0.2;
}
.flange {
  stroke: var(--ink);
  stroke-width: 5;
}
.device {
  fill: var(--sheet);
  stroke: var(--ink);
  stroke-width: 2;
}
.wire {
  stroke: var(--ink);
  stroke-width: 3;
}
.wire.cable {
  stroke-width: 2;
  stroke-dasharray: 7 2;
}
.wire.coaxial {
  stroke-width: 8;
  stroke-opacity: 0.55;
}
.weight {
  fill: var(--ink);
}
.hatch {
  stroke: var(--look);
  stroke-width: 2.4;
}
.zone {
  opacity: 0.8;
}
.void {
  opacity: 0.35;
}
</style>
