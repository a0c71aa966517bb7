<script setup lang="ts">
// Computed figures of a stage, each with its unit; one that cannot be computed yet names what it needs. The working
// opens on demand.
import type { Figure } from '@calm-loop/core/kinds'
import { decimalsFor } from '@calm-loop/core/quantity'
import { usePreferences } from '../stores/preferences.ts'
import { useWorking } from '../stores/working.ts'

defineProps<{ figures: readonly Figure[] }>()
const preferences = usePreferences()
const working = useWorking()
</script>

<template>
  <dl class="list">
    <div
      v-for="figure in figures"
      :key="figure.id"
      v-memo="[figure.value, figure.unit, figure.label, figure.says, figure.needs?.join(), preferences.decimalMark]"
      class="line"
      :data-figure="figure.id"
    >
      <dt>{{ figure.label }}</dt>
      <dd v-if="figure.value !== undefined">
        <button
          v-if="figure.working"
          type="button"
          class="figures value"
          :aria-label="`${figure.label}: show the working`"
          @click="working.show({ figure: figure.id })"
        >
          {{
            preferences.quantity(figure.value, figure.unit, { decimals: figure.decimals ?? decimalsFor(figure.unit) })
          }}
        </button>
        <span v-else class="figures">{{
          preferences.quantity(figure.value, figure.unit, { decimals: figure.decimals ?? decimalsFor(figure.unit) })
        }}</span>
      </dd>
      <dd v-else class="lacking">{{ figure.needs?.length ? `needs ${figure.needs.join(', ')}` : figure.says }}</dd>
    </div>
  </dl>
</template>

<style scoped>
.list {
  margin: 0;
  contain: content;
}
.line {
  display: flex;
  justify-content: space-between;
  align-items: baseline;
  gap: 16px;
  min-height: 44px;
  border-bottom: 1px solid var(--hairline);
}
dt {
  color: var(--second);
  padding: 10px 0;
}
dd {
  margin: 0;
  text-align: right;
}
.value {
  background: none;
  border: 0;
  border-bottom: 1px dotted var(--second);
  color: var(--ink);
  font-size: 16px;
  min-height: 44px;
  cursor: pointer;
  white-space: nowrap;
}
.lacking {
  color: var(--look);
  border-bottom: 2px dotted var(--look);
  font-size: 14px;
}
</style>
