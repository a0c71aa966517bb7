<script setup lang="ts">
// The planned points with what was read at each, and whether the server has it.
import { judgeCheck, standingByPoint, type Check } from '@calm-loop/contract'
import { pointWords } from '@calm-loop/core/check'
import { computed } from 'vue'
import { useOutbox, type Pending } from '../../stores/outbox.ts'
import { usePreferences } from '../../stores/preferences.ts'

const props = defineProps<{ check: Check; at: number; waiting: Map<number, Pending> }>()
const emit = defineEmits<{ go: [index: number] }>()
const preferences = usePreferences()
const outbox = useOutbox()
const judged = computed(() => new Map(judgeCheck(props.check)?.judged.map((j) => [j.reading.pointIndex, j])))
const standing = computed(() => standingByPoint(props.check))
</script>

<template>
  <ol class="points">
    <li
      v-for="point in check.points"
      :key="point.index"
      :class="{ here: point.index === at }"
      :data-point="point.index"
      :data-saved="standing.has(point.index)"
    >
      <button type="button" :aria-label="`Go to ${pointWords(point)}`" @click="emit('go', point.index)">
        <span>{{ pointWords(point) }}</span>
        <template v-if="waiting.get(point.index)">
          <span v-if="waiting.get(point.index)!.refused" class="bad"
            >refused: {{ waiting.get(point.index)!.refused }}</span
          >
          <span v-else class="look">waits to be saved</span>
        </template>
        <template v-else-if="judged.get(point.index)">
          <span class="figures read">{{ preferences.quantity(judged.get(point.index)!.reading.mA, 'mA') }}</span>
          <span class="figures"
            >{{ preferences.number(judged.get(point.index)!.errorPct, { decimals: 3, sign: true }) }} %</span
          >
          <span class="saved">saved</span>
        </template>
        <span v-else class="quiet">{{ point.index === at ? 'now' : 'to come' }}</span>
      </button>
      <button
        v-if="waiting.get(point.index)?.refused"
        type="button"
        class="drop"
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
li button {
  width: 100%;
  min-height: 44px;
  display: grid;
  grid-template-columns: 1.1fr 1.2fr 1.1fr 0.6fr;
  gap: 8px;
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
.read {
  color: var(--signal);
}
.saved {
  color: var(--action);
  font-size: 14px;
}
.look {
  color: var(--look);
  grid-column: span 3;
}
.bad {
  color: var(--stop);
  grid-column: span 3;
}
li .drop {
  color: var(--action);
  text-decoration: underline;
}
</style>
