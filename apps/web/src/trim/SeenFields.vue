<script setup lang="ts">
// Without a link: what the device itself shows at a gate, in words, and the figures of what was written.
import type { AskedOfDevice } from '@calm-loop/core/procedure'
import { unitOf } from '@calm-loop/core/quantity'
import WordsField from '../widgets/WordsField.vue'

defineProps<{ asked: AskedOfDevice | undefined; label: string }>()
const words = defineModel<string>('words', { required: true })
const shows = defineModel<readonly [string, string]>('shows', { required: true })
const put = (i: 0 | 1, text: string) => (shows.value = i ? [shows.value[0], text] : [text, shows.value[1]])
</script>

<template>
  <template v-if="asked">
    <WordsField
      v-for="(name, i) in asked.names"
      :key="name"
      :label="`${name}, ${unitOf(asked.units[i as 0 | 1]).label}`"
      :value="shows[i as 0 | 1]"
      needed
      @typed="put(i as 0 | 1, $event)"
    />
  </template>
  <WordsField :label="label" :value="words" needed @typed="words = $event" />
</template>
