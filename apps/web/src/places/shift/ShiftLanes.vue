<script setup lang="ts">
// Who was where when: what is done is drawn whole, what stands open as a ring at its end.
import type { Shift } from '@calm-loop/contract/shift'
import { useElementSize } from '@vueuse/core'
import { computed, ref } from 'vue'
import { clock } from '../../widgets/dates.ts'
import { drawShift } from './shift-lanes.ts'

const props = defineProps<{ shift: Shift }>()
const box = ref<HTMLElement>()
const { width } = useElementSize(box, { width: 900, height: 0 })
const wide = computed(() => Math.max(300, width.value))
const begin = computed(() => (wide.value < 600 ? 8 : 150))
const drawn = computed(() => drawShift(props.shift, wide.value, begin.value))
const says = computed(
  () =>
    'Who worked where: ' +
    drawn.value.lanes
      .map((l) => `${l.name} at ${l.stretches.map((s) => s.tag + (s.open ? ', open' : '')).join(', ') || 'no loop'}`)
      .join('; '),
)
</script>

<template>
  <div ref="box">
    <svg
      v-if="drawn.lanes.length"
      class="worded"
      :viewBox="`0 0 ${wide} ${drawn.height}`"
      :height="drawn.height"
      width="100%"
      role="img"
      :aria-label="says"
      data-test="shift-lanes"
    >
      <g v-for="hour in drawn.hours" :key="hour.at">
        <path :d="`M${hour.x} 8V${drawn.height - 24}`" class="hour" />
        <text :x="hour.x" :y="drawn.height - 6" class="small mid figures">{{ clock(hour.at) }}</text>
      </g>
      <g v-for="lane in drawn.lanes" :key="lane.name">
        <text :x="0" :y="begin < 100 ? lane.y - 24 : lane.y + 5">{{ lane.name }}</text>
        <path :d="`M${begin} ${lane.y}H${wide - 4}`" class="lane" />
        <g v-for="s in lane.stretches" :key="s.key">
          <path :d="`M${s.x} ${lane.y}h${s.width}`" class="at" />
          <text v-if="s.shown" :x="s.text" :y="lane.y - 10" class="figures tag">{{ s.tag }}</text>
          <circle v-if="s.open" :cx="s.x + s.width" :cy="lane.y" r="6" :class="['ring', { left: s.left }]" />
        </g>
      </g>
    </svg>
  </div>
</template>

<style scoped>
.hour {
  stroke: var(--hairline);
}
.lane {
  stroke: var(--second);
}
.at {
  stroke: var(--action);
  stroke-width: 6;
}
.tag {
  font-size: 14px;
}
.ring {
  fill: var(--ground);
  stroke: var(--look);
  stroke-width: 2.6;
}
.ring.left {
  stroke: var(--stop);
}
</style>
