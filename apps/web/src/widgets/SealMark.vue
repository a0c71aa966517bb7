<script setup lang="ts">
// How a signature stands: sealed or verified a closed ring, claimed a dotted ring, broken an open ring with stop;
// always with its word.
import type { SealStanding } from '@calm-loop/contract'

defineProps<{ standing: SealStanding; wordless?: boolean }>()
const WORDS: Record<SealStanding, string> = {
  sealed: 'sealed',
  verified: 'verified',
  claimed: 'claimed, not verified',
  broken: 'stop: seal broken',
}
</script>

<template>
  <span class="mark" :class="standing" :data-seal="standing">
    <svg viewBox="0 0 20 20" width="20" height="20" aria-hidden="true">
      <path v-if="standing === 'broken'" d="M15.4 5.2A7 7 0 1 0 16.6 12.3" />
      <circle v-else cx="10" cy="10" r="7" :stroke-dasharray="standing === 'claimed' ? '1.5 3' : undefined" />
    </svg>
    <span :class="{ 'visually-hidden': wordless }">{{ WORDS[standing] }}</span>
  </span>
</template>

<style scoped>
.mark {
  display: inline-flex;
  align-items: center;
  gap: 6px;
  vertical-align: middle;
  color: var(--action);
}
.claimed {
  color: var(--look);
}
.broken {
  color: var(--stop);
  font-weight: 650;
}
svg {
  fill: none;
  stroke: currentColor;
  stroke-width: 2.4;
  stroke-linecap: round;
  flex: none;
}
</style>
