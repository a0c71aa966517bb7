<script setup lang="ts">
// Which pieces of kit are used, ticked one by one; what is past its date says so.
import type { Gear } from '@calm-loop/contract'
import { dayWords, today } from '../../widgets/dates.ts'
import GradeMark from '../../widgets/GradeMark.vue'

defineProps<{ kit: readonly Gear[] }>()
const chosen = defineModel<string[]>({ required: true })
const toggle = (id: string) =>
  (chosen.value = chosen.value.includes(id) ? chosen.value.filter((c) => c !== id) : [...chosen.value, id])
</script>

<template>
  <div role="group" aria-label="Test equipment">
    <h3>With which equipment</h3>
    <label v-for="g in kit" :key="g.id" class="piece">
      <input type="checkbox" :checked="chosen.includes(g.id)" @change="toggle(g.id)" />
      <span
        >{{ g.name }} <span class="quiet small figures serial">{{ g.serial }}</span></span
      >
      <span class="small quiet">{{ g.uncertainty }}</span>
      <span class="small" :class="{ bad: g.due < today() }"
        ><GradeMark v-if="g.due < today()" grade="look" wordless /> {{ g.due < today() ? 'expired' : 'due' }}
        {{ dayWords(g.due) }}</span
      >
    </label>
  </div>
</template>

<style scoped>
.piece {
  display: grid;
  grid-template-columns: 32px minmax(0, 1.2fr) minmax(0, 1fr) 170px;
  gap: 8px;
  align-items: center;
  min-height: 48px;
  border-bottom: 1px solid var(--hairline);
  cursor: pointer;
}
.serial {
  white-space: nowrap;
}
.piece input {
  width: 24px;
  height: 24px;
  accent-color: var(--action);
}
@media (max-width: 560px) {
  .piece {
    grid-template-columns: 32px minmax(0, 1fr);
    gap: 0 8px;
    padding: 8px 0;
  }
  .piece > :not(input) {
    grid-column: 2;
  }
}
</style>
