<script setup lang="ts">
// One of a few, or one of a list.
import { computed, useId } from 'vue'

const props = defineProps<{
  label: string
  options: readonly { value: string; label: string }[]
  value: string
  help?: string | undefined
  standard?: string | undefined
  needed?: boolean
}>()
const emit = defineEmits<{ choose: [value: string] }>()
const id = useId()
const few = computed(() => props.options.length <= 4)
const shown = computed(() => props.value || props.standard || null)
const missing = computed(() => props.needed && !shown.value)
</script>

<template>
  <div class="entry" role="group" :aria-labelledby="id">
    <span :id="id" class="entry-label">
      <span :class="{ needed: missing }">{{ label }}</span>
      <span v-if="missing" class="need-word"> to be chosen</span>
    </span>
    <div v-if="few" class="few">
      <button
        v-for="option in options"
        :key="option.value"
        type="button"
        class="pick"
        :aria-pressed="shown === option.value"
        @click="emit('choose', option.value)"
      >
        {{ option.label }}
      </button>
    </div>
    <v-select
      v-else
      :aria-label="label"
      :items="options"
      item-title="label"
      item-value="value"
      :model-value="shown"
      :placeholder="missing ? 'choose' : ''"
      @update:model-value="emit('choose', $event ?? '')"
    />
    <div class="says">{{ help }}</div>
  </div>
</template>

<style scoped>
.few {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 18px;
}
.pick {
  min-height: 44px;
  padding: 0 2px;
  background: none;
  border: 0;
  border-bottom: 3px solid transparent;
  color: var(--second);
  font: inherit;
  cursor: pointer;
}
.pick[aria-pressed='true'] {
  color: var(--ink);
  font-weight: 650;
  border-bottom-color: var(--action);
}
.need-word {
  color: var(--look);
  font-size: 14px;
}
</style>
