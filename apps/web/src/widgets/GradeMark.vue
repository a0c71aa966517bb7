<script setup lang="ts">
// The mark of a finding's grade: stop a filled block with a bar, look a wedge, note a small ring; always with its word.
import type { Grade } from '@calm-loop/core/findings'

defineProps<{ grade: Grade; wordless?: boolean }>()
</script>

<template>
  <span class="mark" :class="grade">
    <svg viewBox="0 0 20 20" width="20" height="20" aria-hidden="true">
      <template v-if="grade === 'stop'">
        <rect x="2" y="2" width="16" height="16" />
        <rect x="5" y="8.6" width="10" height="2.8" class="bar" />
      </template>
      <path v-else-if="grade === 'look'" d="M3 17L10 2.5L10 17Z" />
      <circle v-else cx="10" cy="10" r="4.5" />
    </svg>
    <span :class="{ 'visually-hidden': wordless }">{{ grade }}</span>
  </span>
</template>

<style scoped>
.mark {
  display: inline-flex;
  align-items: center;
  gap: 6px;
  font-weight: 650;
}
.stop {
  color: var(--stop);
}
.look {
  color: var(--look);
}
.note {
  color: var(--second);
}
svg {
  fill: currentColor;
  flex: none;
}
.note svg {
  fill: none;
  stroke: currentColor;
  stroke-width: 2;
}
.bar {
  fill: var(--sheet);
}
</style>
