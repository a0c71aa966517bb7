<script setup lang="ts">
// The planned points of a discrete check with what was read at each, and whether the server has it.
import { entriesOfCheck, judgeSwitchCheck, standingByPoint, type Check } from '@calm-loop/contract'
import { targetWords } from '@calm-loop/core/check'
import { computed } from 'vue'
import { useFolder } from '../../stores/folder.ts'
import { useOutbox, type Pending } from '../../stores/outbox.ts'
import { usePreferences } from '../../stores/preferences.ts'

const props = defineProps<{ check: Check; at: number; waiting: Map<number, Pending> }>()
const emit = defineEmits<{ go: [index: number] }>()
const folder = useFolder()
const outbox = useOutbox()
const preferences = usePreferences()
const standing = computed(() => standingByPoint(props.check))
const judged = computed(() => {
  const found = judgeSwitchCheck(folder.kind!.id, entriesOfCheck(folder.view!.versions, props.check), props.check)
  return new Map(found?.readings.map((j) => [j.reading.pointIndex, j]))
})
const where = (index: number) => {
  const applied = standing.value.get(index)?.applied
  return applied && applied.unit !== 'state' ? preferences.quantity(applied.value, applied.unit, { decimals: 2 }) : ''
}
</script>

<template>
  <ol class="points">
    <li
      v-for="p in check.points"
      :key="p.index"
      :class="{ here: p.index === at }"
      :data-point="p.index"
      :data-saved="standing.has(p.index)"
    >
      <button type="button" :aria-label="`Go to ${targetWords(p)}`" @click="emit('go', p.index)">
        <span>{{ targetWords(p) }}</span>
        <template v-if="waiting.get(p.index)">
          <span v-if="waiting.get(p.index)!.refused" class="bad">refused: {{ waiting.get(p.index)!.refused }}</span>
          <span v-else class="look">waits to be saved</span>
        </template>
        <template v-else-if="judged.get(p.index)">
          <span class="figures read">{{ where(p.index) }}</span>
          <span :class="judged.get(p.index)!.disagrees ? 'bad' : 'saved'">{{
            judged.get(p.index)!.disagrees ? 'a witness disagrees' : 'as expected, saved'
          }}</span>
        </template>
        <span v-else class="quiet">{{ p.index === at ? 'now' : 'to come' }}</span>
      </button>
      <button
        v-if="waiting.get(p.index)?.refused"
        type="button"
        class="drop"
        @click="outbox.dismiss(waiting.get(p.index)!.id)"
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
  margin: 0;
}
li {
  border-bottom: 1px solid var(--hairline);
}
li button {
  width: 100%;
  min-height: 44px;
  display: grid;
  grid-template-columns: minmax(196px, 1.5fr) 0.7fr 1fr;
  gap: 8px;
  align-items: center;
  text-align: left;
  background: none;
  border: 0;
  font: inherit;
  color: var(--ink);
  cursor: pointer;
}
.quiet {
  white-space: nowrap;
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
}
.bad {
  color: var(--stop);
}
li .drop {
  color: var(--action);
  text-decoration: underline;
}
</style>
