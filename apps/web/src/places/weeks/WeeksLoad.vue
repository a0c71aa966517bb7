<script setup lang="ts">
// How full each week is: as it falls due, dashed; as it is planned, whole; what there is room for, a thin line.
import type { Week } from '@calm-loop/core/round'
import { useElementSize } from '@vueuse/core'
import { computed, ref } from 'vue'
import { dayInYear } from '../../widgets/dates.ts'
import { drawLoad } from './weeks-load.ts'

const props = defineProps<{ weeks: readonly Week[] }>()
const emit = defineEmits<{ pick: [monday: string] }>()
const box = ref<HTMLElement>()
const { width } = useElementSize(box, { width: 900, height: 0 })
const wide = computed(() => Math.max(300, width.value))
const [LEFT, TOP, HEIGHT] = [56, 8, 120]
const drawn = computed(() => drawLoad(props.weeks, { width: wide.value - LEFT - 8, height: HEIGHT }))
const floor = TOP + HEIGHT
const steps = (of: 'due' | 'room') =>
  drawn.value.weeks.map((w, i) => `${i ? 'L' : 'M'}${LEFT + w.x} ${floor - w[of]}H${LEFT + w.x + w.width}`).join('')
const hours = (minutes: number) => (minutes / 60).toFixed(1)
const says = computed(
  () =>
    'Hours of checks by week, planned and as they fall due: ' +
    props.weeks.map((w) => `${dayInYear(w.begins)} ${hours(w.planned)} and ${hours(w.due)}`).join(', '),
)
</script>

<template>
  <div ref="box" data-test="weeks-load">
    <p class="small quiet">Hours a week: filled as planned, dashed as they fall due, thin what there is room for.</p>
    <svg
      class="worded"
      :viewBox="`0 0 ${wide} ${floor + 30}`"
      :height="floor + 30"
      width="100%"
      role="img"
      :aria-label="says"
    >
      <g v-for="m in drawn.marks" :key="m.hours">
        <path :d="`M${LEFT} ${floor - m.y}H${wide - 8}`" class="mark" />
        <text :x="LEFT - 8" :y="floor - m.y + 5" class="small end figures">{{ m.hours }} h</text>
      </g>
      <g v-for="w in drawn.weeks" :key="w.begins" class="week" @click="emit('pick', w.begins)">
        <rect :x="LEFT + w.x" :y="TOP" :width="w.width" :height="HEIGHT" fill="transparent" />
        <rect
          :x="LEFT + w.x + 3"
          :y="floor - w.planned"
          :width="Math.max(1, w.width - 6)"
          :height="w.planned"
          :class="['planned', { over: w.over }]"
        />
        <text v-if="w.named" :x="LEFT + w.x + 3" :y="floor + 20" class="small figures">{{ dayInYear(w.begins) }}</text>
      </g>
      <path :d="steps('room')" class="room" />
      <path :d="steps('due')" class="due" />
    </svg>
  </div>
</template>

<style scoped>
.mark {
  stroke: var(--hairline);
}
.planned {
  fill: var(--action);
  opacity: 0.75;
}
.planned.over {
  fill: var(--look);
}
.room {
  fill: none;
  stroke: var(--second);
}
.due {
  fill: none;
  stroke: var(--signal);
  stroke-width: 2;
  stroke-dasharray: 5 4;
}
.week {
  cursor: pointer;
}
</style>
