<script setup lang="ts">
// The day as a thread: a ring for each stop, as long as it takes, with how much sooner or later it may end.
import type { Stop, Timed } from '@calm-loop/core/round'
import { useElementSize } from '@vueuse/core'
import { computed, ref } from 'vue'
import { drawDay } from './day-thread.ts'

const props = defineProps<{ times: readonly Timed<Stop>[]; begins: string; at?: string | undefined }>()
const emit = defineEmits<{ pick: [id: string] }>()
const box = ref<HTMLElement>()
const { width } = useElementSize(box, { width: 1000, height: 0 })
const begins = computed(() => Number(props.begins.slice(0, 2)) * 60 + Number(props.begins.slice(3, 5)))
const day = computed(() => drawDay(props.times, begins.value, Math.max(240, width.value)))
const LINE = 56
const says = computed(
  () =>
    `From ${props.begins}: ` +
    props.times.map(({ stop, from }) => `${from} ${stop.loop.tag} in ${stop.loop.area}`).join(', ') +
    `; done about ${props.times.at(-1)?.to ?? props.begins}`,
)
</script>

<template>
  <div ref="box" class="day" data-test="day-thread">
    <svg :viewBox="`0 0 ${Math.max(240, width)} 124`" height="124" width="100%" role="img" :aria-label="says">
      <path :d="`M4 ${LINE} H${Math.max(240, width) - 4}`" class="thin" />
      <g v-for="hour in day.hours" :key="hour.words">
        <path :d="`M${hour.x} ${LINE + 34} v5`" class="thin" />
        <text :x="hour.x" :y="LINE + 54" class="hour">{{ hour.words }}</text>
      </g>
      <g v-for="area in day.areas" :key="area.x">
        <path :d="`M${area.x + 2} ${LINE + 14} v5 h${Math.max(0, area.width - 6)} v-5`" class="thin" />
        <text v-if="area.shown" :x="area.x + 6" :y="LINE + 32" class="area">{{ area.name }}</text>
      </g>
      <g
        v-for="stop in day.stops"
        :key="stop.id"
        class="stop"
        :class="{ here: stop.id === at }"
        @click="emit('pick', stop.id)"
      >
        <rect :x="stop.x - 6" y="0" :width="Math.max(12, stop.width)" :height="LINE + 12" fill="transparent" />
        <path :d="`M${stop.x} ${LINE} H${stop.x + stop.width}`" class="takes" />
        <path
          v-if="stop.latest - stop.soonest > 4"
          :d="`M${stop.soonest} ${LINE - 5} v10 M${stop.soonest} ${LINE} H${stop.latest} M${stop.latest} ${LINE - 5} v10`"
          class="spread"
        />
        <path v-if="stop.row === 1" :d="`M${stop.x} ${LINE - 8} V26`" class="thin" />
        <text
          v-if="stop.row !== undefined"
          :x="stop.x"
          :y="stop.row === 0 ? 40 : 18"
          class="figures tag"
          :text-anchor="stop.x < 34 ? 'start' : 'middle'"
          :dx="stop.x < 34 ? -stop.x : 0"
        >
          {{ stop.tag }}
        </text>
        <circle :cx="stop.x" :cy="LINE" r="6" class="ring" :class="{ overdue: stop.overdue }" />
        <circle v-if="stop.jobs" :cx="stop.x" :cy="LINE" r="2.6" class="job" />
      </g>
    </svg>
  </div>
</template>

<style scoped>
.day {
  margin: 8px 0 4px;
}
svg {
  display: block;
  overflow: visible;
}
.thin {
  stroke: var(--second);
  stroke-width: 1;
  fill: none;
}
.takes {
  stroke: var(--action);
  stroke-width: 4;
}
.spread {
  stroke: var(--second);
  stroke-width: 1;
}
.ring {
  fill: var(--ground);
  stroke: var(--action);
  stroke-width: 2.4;
}
.ring.overdue {
  stroke: var(--look);
}
.job {
  fill: var(--signal);
}
.here .ring {
  fill: var(--action);
}
.stop {
  cursor: pointer;
}
text {
  fill: var(--ink);
  font-size: 14px;
}
.hour {
  fill: var(--second);
  font-family: var(--figures);
  text-anchor: middle;
}
.area {
  fill: var(--second);
}
</style>
