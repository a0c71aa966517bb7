<script setup lang="ts">
// Choosing terminals or a conductor, for a meter or a reading.
import { terminalsOf } from '@calm-loop/core/wiring'
import { computed, useId } from 'vue'
import { useDesk } from '../stores/desk.ts'
import { inSentence } from '@calm-loop/core/words'

const props = defineProps<{ label: string; of: 'terminal' | 'conductor'; value: string }>()
const emit = defineEmits<{ choose: [value: string] }>()
const desk = useDesk()
const id = useId()
const options = computed(() => {
  const w = desk.wiring
  if (!w) return []
  const spots = terminalsOf(w)
  if (props.of === 'conductor')
    return w.conductors
      .filter((c) => spots.has(c.from) && spots.has(c.to) && c.core !== 'shield')
      .map((c) => ({ value: c.id, label: `${c.id}, ${c.from} to ${c.to}` }))
  return [...spots].map(([ref, s]) => ({ value: ref, label: `${ref}, ${inSentence(s.device.name)}` }))
})
</script>

<template>
  <div class="entry">
    <label :for="id">{{ label }}</label>
    <select
      :id="id"
      class="figures"
      :value="value"
      @change="emit('choose', ($event.target as HTMLSelectElement).value)"
    >
      <option value="" disabled>choose</option>
      <option v-for="o in options" :key="o.value" :value="o.value">{{ o.label }}</option>
    </select>
  </div>
</template>

<style scoped>
select {
  width: 100%;
  min-height: 44px;
  background: none;
  border: 0;
  border-bottom: 1px solid var(--second);
  color: var(--ink);
  font: inherit;
  font-family: var(--figures);
  font-size: 15px;
}
option {
  background: var(--sheet);
  color: var(--ink);
}
</style>
