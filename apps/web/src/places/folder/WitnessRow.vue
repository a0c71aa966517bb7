<script setup lang="ts">
// One witness of a discrete check: what it should show, what was looked at, and what it shows live.
import type { WITNESSES } from '@calm-loop/core/discrete'
import { computed } from 'vue'
import ChoiceField from '../../widgets/ChoiceField.vue'
import type { Look } from './takingStates.ts'

const props = defineProps<{
  witness: (typeof WITNESSES)[number]
  expected: boolean | undefined
  live: boolean | undefined
  look: Look
  /** The first that does not show what it should. */
  off: boolean
}>()
const emit = defineEmits<{ look: [look: Look] }>()
const program = computed(() => props.witness.id === 'controller')
const words = (on: boolean) => (program.value ? (on ? 'true' : 'false') : on ? 'lit' : 'dark')
const options = computed(() =>
  program.value
    ? [
        { value: 'lit', label: 'true' },
        { value: 'dark', label: 'false' },
      ]
    : ['lit', 'dark', 'not seen'].map((value) => ({ value, label: value })),
)
</script>

<template>
  <div class="witness" :data-witness="witness.id" :class="{ off }">
    <div class="expect">
      <span class="small quiet" aria-hidden="true">{{ witness.name }}</span>
      <p>
        <svg width="18" height="18" aria-hidden="true"><circle cx="9" cy="9" r="6" class="ring" /></svg>
        <span class="small quiet">expected</span>
        <span>{{ expected === undefined ? 'nothing' : words(expected) }}</span>
      </p>
    </div>
    <ChoiceField :label="witness.name" :options="options" :value="look" @choose="emit('look', $event as Look)" />
    <p class="live">
      <svg width="18" height="18" aria-hidden="true">
        <circle cx="9" cy="9" r="5" class="dot" :class="{ dark: live !== true }" />
      </svg>
      <span v-if="live !== undefined" class="figures">{{ words(live) }}</span>
      <span v-else class="quiet small">no live figure</span>
    </p>
  </div>
</template>

<style scoped>
.witness {
  display: grid;
  grid-template-columns: 146px minmax(0, 1fr) 84px;
  gap: 8px;
  align-items: center;
  border-top: 1px solid var(--hairline);
  padding-top: 6px;
}
.witness :deep(.says) {
  display: none;
}
/* Said beside, with what is expected; a reader of the page hears it here. */
.witness :deep(.entry-label) {
  position: absolute;
  width: 1px;
  height: 1px;
  overflow: hidden;
  clip-path: inset(50%);
}
.witness svg {
  flex: none;
}
.witness :deep(.few) {
  gap: 4px 14px;
  flex-wrap: nowrap;
}
.witness :deep(.pick) {
  white-space: nowrap;
}
.witness.off {
  border-left: 4px solid var(--stop);
  padding-left: 10px;
}
.witness p {
  display: flex;
  align-items: center;
  gap: 8px;
  margin: 0;
}
.live {
  color: var(--signal);
  font-weight: 600;
}
.ring {
  fill: none;
  stroke: var(--ink);
  stroke-width: 2;
}
.dot {
  fill: var(--signal);
  stroke: var(--signal);
  stroke-width: 2;
}
.dot.dark {
  fill: none;
}
</style>
