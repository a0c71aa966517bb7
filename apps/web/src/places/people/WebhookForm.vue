<script setup lang="ts">
// One webhook: where it is, what it is told, the secret that signs each message.
import { computed } from 'vue'
import ChoiceField from '../../widgets/ChoiceField.vue'
import WordsField from '../../widgets/WordsField.vue'
import { ON_OFF, type Hook } from './webhook.ts'

const props = defineProps<{ hook: Hook; number: number }>()
const emit = defineEmits<{ edit: [change: Partial<Hook>]; off: [] }>()
const WHAT = [
  { value: 'loop alarm', label: 'loops and alarms' },
  { value: 'loop', label: 'loops' },
  { value: 'alarm', label: 'alarms' },
]
const what = computed(() => [...props.hook.what].sort().reverse().join(' '))
const chooseWhat = (words: string) => emit('edit', { what: words.split(' ') as Hook['what'] })
const secretHelp = computed(() =>
  props.hook.hasSecret
    ? 'One is set; type another to change it.'
    : 'At least 16 characters; with it each message is signed.',
)
</script>

<template>
  <fieldset class="edit-grid">
    <legend>Webhook {{ number }}</legend>
    <ChoiceField
      label="Sent"
      :options="ON_OFF"
      :value="hook.on ? 'on' : 'off'"
      @choose="emit('edit', { on: $event === 'on' })"
    />
    <WordsField
      label="Address"
      :value="hook.url"
      help="https://host/path: each message is posted there."
      @typed="emit('edit', { url: $event.trim() })"
    />
    <ChoiceField label="Told of" :options="WHAT" :value="what" @choose="chooseWhat" />
    <WordsField
      label="Secret of both sides"
      type="password"
      autocomplete="new-password"
      :value="hook.secret"
      :help="secretHelp"
      @typed="emit('edit', { secret: $event })"
    />
    <div><v-btn variant="text" @click="emit('off')">Take this webhook off</v-btn></div>
  </fieldset>
</template>

<style scoped>
fieldset {
  border: 0;
  border-top: 1px solid var(--hairline);
  padding: 12px 0;
  margin: 0;
}
legend {
  font-weight: 600;
}
</style>
