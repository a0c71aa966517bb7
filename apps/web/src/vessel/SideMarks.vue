<script setup lang="ts">
// Words on one side of a drawing, each led to its height.
import type { Placed } from './marks.ts'

defineProps<{
  marks: readonly Placed[]
  side: 'left' | 'right'
  /** Edge of what is drawn on that side, and how far into it the leads go. */
  edge: number
  to: number
}>()
</script>

<template>
  <g v-for="(m, i) in marks" :key="i">
    <path
      :d="`M${edge + (side === 'left' ? -14 : 14)} ${m.text - 5}L${edge + (side === 'left' ? -4 : 4)} ${m.y}H${to}`"
      class="lead"
      :class="m.tone"
    />
    <text :x="edge + (side === 'left' ? -20 : 20)" :y="m.text" :class="[{ end: side === 'left' }, m.tone]">
      {{ m.words }}
    </text>
  </g>
</template>

<style scoped>
.lead {
  fill: none;
  stroke: var(--second);
}
.lead.action {
  stroke: var(--action);
}
.lead.stop {
  stroke: var(--stop);
  stroke-width: 2;
}
text.stop {
  fill: var(--stop);
}
</style>
