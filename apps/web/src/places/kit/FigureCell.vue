<script setup lang="ts">
// One plain figure of a row; empty means that it is not stated.
import { parseNumber } from '@calm-loop/core/quantity'
import { computed, ref, useId } from 'vue'

const props = defineProps<{ label: string; suffix: string; value: number | undefined; mark: '.' | ',' }>()
const emit = defineEmits<{ put: [value: number | undefined] }>()
const id = useId()
const text = ref(props.value === undefined ? '' : String(props.value).replace('.', props.mark))
const parsed = computed(() => {
  const read = parseNumber(text.value, { decimalMark: props.mark })
  return 'value' in read ? read.value : undefined
})
const odd = computed(() => text.value.trim() !== '' && parsed.value === undefined)
function typed(value: string): void {
  text.value = value
  emit('put', parsed.value)
}
</script>

<template>
  <div class="entry" :class="{ refused: odd }">
    <label :for="id">{{ label }}</label>
    <v-text-field
      :id="id"
      class="figures"
      :model-value="text"
      :suffix="suffix"
      inputmode="decimal"
      autocomplete="off"
      :aria-invalid="odd"
      @update:model-value="typed"
    />
    <div class="says bad" aria-live="polite">{{ odd ? 'Not a number.' : '' }}</div>
  </div>
</template>
