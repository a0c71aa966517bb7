<script setup lang="ts">
// The planned points of a check, one line each: in words, with what was read there (the slot), and whether the server
// has it.
import type { Check } from '@calm-loop/contract'
import { standingByPoint } from '@calm-loop/contract/judging'
import { computed } from 'vue'
import { useOutbox, type Pending } from '../../stores/outbox.ts'

const props = defineProps<{
  check: Check
  at: number
  waiting: Map<number, Pending>
  words: (point: Check['points'][number]) => string
  /** Points whose readings are judged. */
  judged: ReadonlySet<number>
}>()
const emit = defineEmits<{ go: [index: number] }>()
const outbox = useOutbox()
const standing = computed(() => standingByPoint(props.check))
</script>

<template>
  <ol class="points">
    <li
      v-for="point in check.points"
      :key="point.index"
      :class="{ here: point.index === at }"
      :data-point="point.index"
      :data-saved="standing.has(point.index) && !waiting.has(point.index)"
    >
      <button type="button" :aria-label="`Go to ${words(point)}`" @click="emit('go', point.index)">
        <span>{{ words(point) }}</span>
        <template v-if="waiting.get(point.index)">
          <span v-if="waiting.get(point.index)!.refused" class="bad wide"
            >refused: {{ waiting.get(point.index)!.refused }}</span
          >
          <span v-else class="look wide">waits to be saved</span>
        </template>
        <span v-else-if="judged.has(point.index)" class="wide read-there"><slot :index="point.index" /></span>
        <span v-else class="quiet">{{ point.index === at ? 'now' : 'to come' }}</span>
      </button>
      <button
        v-if="waiting.get(point.index)?.refused"
        type="button"
        class="link"
        @click="outbox.dismiss(waiting.get(point.index)!.id)"
      >
        Put away
      </button>
    </li>
  </ol>
</template>

<style scoped>
.points {
  list-style: none;
  padding: 0;
  margin: 8px 0 0;
}
li {
  border-bottom: 1px solid var(--hairline);
}
li > button:first-child {
  width: 100%;
  min-height: 44px;
  display: grid;
  grid-template-columns: minmax(max-content, 1fr) 3fr;
  gap: 12px;
  align-items: center;
  text-align: left;
  background: none;
  border: 0;
  font: inherit;
  color: var(--ink);
  cursor: pointer;
}
.here {
  border-bottom: 2px solid var(--action);
  font-weight: 650;
}
.read-there {
  display: grid;
  grid-auto-flow: column;
  grid-auto-columns: max-content;
  gap: 20px;
  align-items: center;
}
.read-there :deep(.figures) {
  min-width: 96px;
  text-align: right;
}
.read-there :deep(.read) {
  color: var(--signal);
}
.read-there :deep(.saved) {
  color: var(--action);
  font-size: 14px;
}
.look {
  color: var(--look);
}
.quiet {
  white-space: nowrap;
}
</style>
