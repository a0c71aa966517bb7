<script setup lang="ts">
// A line of text.
import { useId } from 'vue'

defineProps<{
  label: string
  value: string
  help?: string | undefined
  needed?: boolean
  type?: string
  autocomplete?: string
  says?: string
  /** Offered while typing; anything else may be typed. */
  suggestions?: readonly string[] | undefined
}>()
const emit = defineEmits<{ typed: [value: string]; enter: [] }>()
const id = useId()
</script>

<template>
  <div class="entry" :class="{ refused: says }">
    <label :for="id">
      <span :class="{ needed: needed && value.trim() === '' }">{{ label }}</span>
      <span v-if="needed && value.trim() === ''" class="need-word"> to be entered</span>
    </label>
    <v-text-field
      :id="id"
      :model-value="value"
      :type="type ?? 'text'"
      :autocomplete="autocomplete ?? 'off'"
      maxlength="300"
      :list="suggestions?.length ? `${id}-list` : undefined"
      @update:model-value="emit('typed', $event)"
      @keydown.enter="emit('enter')"
    />
    <datalist v-if="suggestions?.length" :id="`${id}-list`">
      <option v-for="s in suggestions" :key="s" :value="s" />
    </datalist>
    <div class="says" :class="{ bad: says }">{{ says || help }}</div>
  </div>
</template>

<style scoped>
.need-word {
  color: var(--look);
  font-size: 14px;
}
</style>
