<script setup lang="ts">
// A file of this device, picked by a press or the keyboard; the same again after a refusal too.
import { ref } from 'vue'

defineProps<{ label: string; accept: string }>()
const emit = defineEmits<{ picked: [file: File] }>()
const name = ref('')
function take(event: Event): void {
  const input = event.target as HTMLInputElement
  const file = input.files?.[0]
  if (!file) return
  name.value = file.name
  emit('picked', file)
  input.value = ''
}
</script>

<template>
  <label class="pick-file">
    <span class="words">{{ label }}</span>
    <span class="quiet small">{{ name }}</span>
    <input class="visually-hidden" type="file" :accept="accept" @change="take" />
  </label>
</template>

<style scoped>
.pick-file {
  display: inline-flex;
  align-items: center;
  gap: 12px;
  min-height: 44px;
  cursor: pointer;
}
.words {
  color: var(--action);
  text-decoration: underline;
  text-underline-offset: 3px;
}
.pick-file:focus-within .words {
  outline: 3px solid var(--action);
  outline-offset: 4px;
}
</style>
