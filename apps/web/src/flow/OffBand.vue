<script setup lang="ts">
// How far a figure is off, drawn against what is allowed: zero in the middle, the band of the limit, a dot.
import { computed } from 'vue'

const props = defineProps<{
  /** Undefined while it is not read. */
  off: number | undefined
  limit: number
  /** What the ends of the scale are worth; all three in one unit. */
  most: number
}>()
const MIDDLE = 60
const x = (v: number) => MIDDLE + (v / props.most) * 54
const band = computed(() => ({ x: x(-props.limit), width: x(props.limit) - x(-props.limit) }))
</script>

<template>
  <svg viewBox="0 0 120 24" width="120" height="24" aria-hidden="true">
    <rect :x="band.x" :width="band.width" y="4" height="16" class="band" />
    <path :d="`M${MIDDLE} 2V22`" class="axis" />
    <circle v-if="off !== undefined" :cx="x(off)" cy="12" r="5" class="dot" />
  </svg>
</template>

<style scoped>
.band {
  fill: var(--action);
  opacity: 0.18;
}
.axis {
  stroke: var(--second);
}
.dot {
  fill: var(--signal);
}
</style>
