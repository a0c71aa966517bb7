<script setup lang="ts">
// Each cable with the convention that its colours follow: a colour says nothing without it.
import { COLOUR_CONVENTIONS, conventionOf, setLegend } from '@calm-loop/core/wiring'
import { useDesk } from '../stores/desk.ts'

const desk = useDesk()
</script>

<template>
  <section aria-label="Cables">
    <h3 class="mt-4">Cables and their colours</h3>
    <div v-for="cable in desk.wiring?.cables" :key="cable.id" class="cable">
      <span
        ><b class="figures">{{ cable.id }}</b> {{ cable.name }}</span
      >
      <select
        :aria-label="`${cable.id}, colour convention`"
        :value="cable.legend"
        :disabled="!desk.mayChange"
        @change="desk.change((w) => setLegend(w, cable.id, ($event.target as HTMLSelectElement).value))"
      >
        <option v-for="c in COLOUR_CONVENTIONS" :key="c.id" :value="c.id">{{ c.name }}</option>
      </select>
      <span class="quiet small">
        {{
          Object.entries(conventionOf(cable.legend).colours)
            .map(([c, m]) => `${c} ${m}`)
            .join(', ') || 'no meanings known'
        }}. {{ conventionOf(cable.legend).source }}.
      </span>
    </div>
  </section>
</template>

<style scoped>
.cable {
  display: grid;
  grid-template-columns: 160px 240px minmax(0, 1fr);
  gap: 16px;
  align-items: center;
  border-bottom: 1px solid var(--hairline);
  min-height: 48px;
}
select {
  min-height: 44px;
  background: none;
  border: 0;
  border-bottom: 1px solid var(--hairline);
  color: var(--ink);
  font: inherit;
  font-size: 15px;
  max-width: 100%;
}
select option {
  background: var(--sheet);
  color: var(--ink);
}
@media (max-width: 740px) {
  .cable {
    grid-template-columns: minmax(0, 1fr);
    gap: 0;
  }
}
</style>
