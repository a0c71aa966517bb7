<script setup lang="ts">
// The manifold valve by valve: which is open, which is shut, which is to be moved now. Each valve can be worked; the
// wrong one is refused and says why.
import {
  VALVE_NAMES,
  valvesOf,
  type Manifold,
  type ManifoldType,
  type Valve,
  type ValveMove,
} from '@calm-loop/core/procedure'
import { computed } from 'vue'

const props = defineProps<{
  type: ManifoldType
  state: Manifold
  wanted?: ValveMove | undefined
  busy?: boolean
  still?: boolean
}>()
const emit = defineEmits<{ move: [move: ValveMove] }>()
const PLACE: Record<Valve, { x: number; y: number; upright: boolean }> = {
  high: { x: 170, y: 92, upright: true },
  low: { x: 390, y: 92, upright: true },
  equalize: { x: 280, y: 172, upright: false },
  'vent-high': { x: 88, y: 172, upright: false },
  'vent-low': { x: 472, y: 172, upright: false },
}
const valves = computed(() =>
  valvesOf(props.type).map((id) => ({
    id,
    ...PLACE[id],
    open: props.state[id] === 'open',
    now: props.wanted?.valve === id,
  })),
)
const open = (v: Valve) => props.state[v] === 'open'
/** Where the process reaches, and where air does. */
const reach = computed(() => {
  const [high, low, equal] = [open('high'), open('low'), open('equalize')]
  return { high: high || (low && equal), low: low || (high && equal) }
})
const work = (v: Valve) => emit('move', { valve: v, to: open(v) ? 'shut' : 'open' })
const title = computed(() => valves.value.map((v) => `${VALVE_NAMES[v.id]} ${v.open ? 'open' : 'shut'}`).join(', '))
// A valve after ISO 14617: two triangles point to point; shut ones are filled.
const bow = (upright: boolean) => (upright ? 'M-13 -20H13L-13 20H13Z' : 'M-20 -13V13L20 -13V13Z')
</script>

<template>
  <figure class="manifold">
    <svg class="worded" viewBox="-90 0 740 330" role="group" :aria-label="`Manifold: ${title}`">
      <text x="170" y="22" class="mid small">high side of the process</text>
      <text x="390" y="22" class="mid small">low side of the process</text>
      <path d="M170 30V72" class="pipe full" />
      <path d="M390 30V72" class="pipe full" />
      <path d="M170 112V250" class="pipe" :class="{ full: reach.high }" />
      <path d="M390 112V250" class="pipe" :class="{ full: reach.low }" />
      <path d="M170 172H260" class="pipe" :class="{ full: reach.high }" />
      <path d="M300 172H390" class="pipe" :class="{ full: reach.low }" />
      <template v-if="type === 'five-valve'">
        <path d="M170 172H108M68 172H40" class="pipe" :class="{ full: reach.high && open('vent-high') }" />
        <path d="M390 172H452M492 172H520" class="pipe" :class="{ full: reach.low && open('vent-low') }" />
        <text x="36" y="152" class="small mid">air</text>
        <text x="524" y="152" class="small mid">air</text>
      </template>
      <rect x="130" y="250" width="300" height="52" class="cell" />
      <line x1="280" x2="280" y1="250" y2="302" class="membrane" />
      <text x="206" y="282" class="mid">H</text>
      <text x="354" y="282" class="mid">L</text>
      <text x="280" y="322" class="mid small">
        {{
          reach.high && reach.low
            ? open('equalize')
              ? 'both sides joined, on the process'
              : 'cell on the process'
            : reach.high || reach.low
              ? 'one side on the process'
              : open('equalize')
                ? 'isolated, both sides joined'
                : 'isolated'
        }}
      </text>
      <g
        v-for="v in valves"
        :key="v.id"
        :transform="`translate(${v.x} ${v.y})`"
        class="valve"
        :class="{ open: v.open, wanted: v.now, still }"
        :data-valve="v.id"
        :data-state="v.open ? 'open' : 'shut'"
        role="button"
        :tabindex="still ? -1 : 0"
        :aria-disabled="busy || still"
        :aria-label="`${VALVE_NAMES[v.id]}: ${v.open ? 'open; shut it' : 'shut; open it'}`"
        @click="!busy && !still && work(v.id)"
        @keydown.enter.prevent="!busy && !still && work(v.id)"
        @keydown.space.prevent="!busy && !still && work(v.id)"
      >
        <circle r="34" class="target" />
        <path :d="bow(v.upright)" class="bow" />
        <text v-if="v.upright" :x="v.id === 'high' ? -44 : 44" y="-4" :class="v.id === 'high' ? 'end' : ''">
          {{ VALVE_NAMES[v.id] }}
        </text>
        <text
          v-if="v.upright"
          :x="v.id === 'high' ? -44 : 44"
          y="16"
          class="small"
          :class="v.id === 'high' ? 'end' : ''"
        >
          {{ v.open ? 'open' : 'shut' }}
        </text>
        <text v-if="!v.upright" x="0" y="50" class="mid small">
          {{ v.id === 'equalize' ? 'Equalizing valve' : 'Vent' }}, {{ v.open ? 'open' : 'shut' }}
        </text>
      </g>
    </svg>
  </figure>
</template>

<style scoped>
.manifold {
  margin: 8px 0;
  max-width: 720px;
}
.pipe {
  fill: none;
  stroke: var(--hairline);
  stroke-width: 7;
}
.pipe.full {
  stroke: var(--action);
}
.cell {
  fill: var(--sheet);
  stroke: var(--ink);
  stroke-width: 1.5;
}
.membrane {
  stroke: var(--ink);
  stroke-dasharray: 3 3;
}
.target {
  fill: transparent;
}
.bow {
  fill: var(--ink);
  stroke: var(--ink);
  stroke-width: 2;
  stroke-linejoin: round;
}
.open .bow {
  fill: var(--sheet);
}
.valve:not(.still) {
  cursor: pointer;
}
.valve .end {
  text-anchor: end;
}
.valve.wanted .target {
  stroke: var(--action);
  stroke-width: 3;
  fill: var(--ground);
}
.valve:focus-visible {
  outline: none !important;
}
.valve:focus-visible .target {
  stroke: var(--action);
  stroke-width: 4;
  stroke-dasharray: 4 3;
}
</style>
