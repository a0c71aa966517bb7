<script setup lang="ts">
// A conductor at the wiring desk: its insulation colour with an ink outline, its number, and the current in it when
// asked.
import { INSULATION, isEarth, type Conductor } from '@calm-loop/core/wiring'
import { namePlace, roundedPath, type PlacedConductor } from '@calm-loop/drawing'
import { EdgeLabelRenderer, getSmoothStepPath, type EdgeProps } from '@vue-flow/core'
import { computed } from 'vue'
import { useDesk } from '../stores/desk.ts'
import { useShown } from './shown.ts'
import { sure } from '@calm-loop/core/sure'

const props = defineProps<EdgeProps<{ conductor: Conductor; placed?: PlacedConductor }>>()
const desk = useDesk()
const { milliamps } = useShown()
const conductor = computed(() => props.data.conductor)
const near = (a: { x: number; y: number }, x: number, y: number) => Math.hypot(a.x - x, a.y - y) < 24

/** The tidy run, as long as its ends are where the terminals are; else a plain one until the layout has followed. */
const run = computed(() => {
  const points = props.data.placed?.points
  const [first, last] = [points?.[0], points?.at(-1)]
  if (
    points &&
    first &&
    last &&
    near(first, props.sourceX, props.sourceY) &&
    near(last, props.targetX, props.targetY)
  ) {
    return { d: roundedPath(points), ...namePlace(points, sure(props.data.placed)) }
  }
  const [d, x, y] = getSmoothStepPath(props)
  return { d, x, y, beside: undefined }
})
/** Which part of its name stands at its place. */
const ANCHOR = { on: '-50%', right: '3px', left: 'calc(-100% - 3px)' } as const
const colour = computed(() => INSULATION[conductor.value.colour ?? ''] ?? '#cfcabb')
/** A mains conductor, an earth or a data wire carries no loop current that could be told. */
const telling = computed(() => {
  const { from, to, core } = conductor.value
  return core !== 'shield' && [from, to].every((ref) => desk.told(ref) && desk.wiring && !isEarth(desk.wiring, ref))
})
const mA = computed(() => (telling.value ? desk.energised?.milliamps(conductor.value.id) : undefined))
/** Where its potential lies between the lowest and the highest, 0 to 1; undefined where it cannot be told. */
const potential = computed(() => {
  const span = desk.potentials
  const ends = [conductor.value.from, conductor.value.to]
  if (!span || !ends.every(desk.told)) return undefined
  const volts = ends.map((ref) => sure(desk.energised).volts(ref))
  const [a, b] = volts
  return a === undefined || b === undefined ? undefined : ((a + b) / 2 - span.low) / (span.high - span.low)
})
const shade = computed(
  () => `color-mix(in oklab, var(--high) ${((potential.value ?? 0) * 100).toFixed(1)}%, var(--low))`,
)
const flows = computed(() => desk.animated && mA.value !== undefined && Math.abs(mA.value) > 0.05)
/** Faster with more current, by no means to scale. */
const period = computed(() => `${(2.4 / Math.max(0.3, Math.min(2, Math.abs(mA.value ?? 0) / 12))).toFixed(2)}s`)
const chosen = computed(() => desk.chosen?.what === 'conductor' && desk.chosen.id === conductor.value.id)
const marked = computed(() => desk.marked.includes(conductor.value.id))
const metered = computed(
  () => desk.placement && 'conductor' in desk.placement && desk.placement.conductor === conductor.value.id,
)
/** Beside a device there is room for a name only; its current is said above the drawing. */
const named = computed(() => {
  const roomy = !run.value.beside && (chosen.value || desk.animated)
  const current = roomy && mA.value !== undefined ? ` ${milliamps(Math.abs(mA.value))}` : ''
  return `${conductor.value.id}${current}`
})
</script>

<template>
  <g :data-conductor="conductor.id" :class="{ chosen, marked }" @click="desk.choose('conductor', conductor.id)">
    <path :d="run.d" class="reach" />
    <path v-if="potential !== undefined" :d="run.d" class="shade" :style="{ stroke: shade }" />
    <path :d="run.d" class="outline" />
    <path :d="run.d" class="core" :style="{ stroke: colour }" />
    <path
      v-if="flows"
      :d="run.d"
      class="flow"
      :class="{ back: (mA ?? 0) < 0 }"
      :style="{ animationDuration: period }"
    />
    <path v-if="metered" :d="run.d" class="metered" />
  </g>
  <EdgeLabelRenderer>
    <span
      class="tag figures nodrag nopan"
      :class="{ chosen, marked }"
      :style="{ transform: `translate(${run.x}px, ${run.y}px) translate(${ANCHOR[run.beside ?? 'on']}, -50%)` }"
      @click="desk.choose('conductor', conductor.id)"
      >{{ named }}</span
    >
  </EdgeLabelRenderer>
</template>

<style scoped>
path {
  fill: none;
}
.reach {
  stroke: transparent;
  stroke-width: 20;
}
.shade {
  stroke-width: 17;
  stroke-linecap: round;
}
.outline {
  stroke: var(--ink);
  stroke-width: 5;
}
.core {
  stroke-width: 3;
}
.chosen .outline {
  stroke: var(--action);
  stroke-width: 9;
}
.marked .outline {
  stroke: var(--stop);
  stroke-width: 9;
}
.flow {
  stroke: var(--signal);
  stroke-width: 5;
  stroke-dasharray: 1 15;
  stroke-linecap: round;
  animation: along linear infinite;
}
.flow.back {
  animation-direction: reverse;
}
@keyframes along {
  from {
    stroke-dashoffset: 32;
  }
  to {
    stroke-dashoffset: 0;
  }
}
.metered {
  stroke: var(--signal);
  stroke-width: 2;
  stroke-dasharray: 2 6;
}
.tag {
  position: absolute;
  background: var(--ground);
  color: var(--ink);
  font-size: 13px;
  line-height: 16px;
  padding: 0 4px;
  border-radius: 3px;
  pointer-events: all;
  cursor: pointer;
}
.tag.chosen {
  background: var(--action);
  color: var(--sheet);
}
.tag.marked {
  color: var(--stop);
  font-weight: 650;
}
</style>
