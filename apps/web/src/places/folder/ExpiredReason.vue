<script setup lang="ts">
// Why kit is used that is past its due date; nothing where none is.
import type { Gear } from '@calm-loop/contract'
import WordsField from '../../widgets/WordsField.vue'

defineProps<{ expired: readonly Gear[] }>()
const reason = defineModel<string>({ required: true })
</script>

<template>
  <div v-if="expired.length">
    <p class="look">
      {{ expired.map((g) => g.name).join(', ') }}: past its due date. It can be used for a reason; the certificate
      carries both.
    </p>
    <WordsField label="Why it is used past its due date" :value="reason" needed @typed="reason = $event" />
  </div>
</template>

<style scoped>
.look {
  color: var(--look);
}
</style>
