<script setup lang="ts">
// Of which day a round is, what it takes, and when one sets out.
import { mdiSortVariant } from '@mdi/js'
import { useRound } from '../../stores/round.ts'
import { isDay } from '../../widgets/dates.ts'
import WordsField from '../../widgets/WordsField.vue'

defineProps<{ day: string; areas: readonly string[] }>()
const emit = defineEmits<{ day: [day: string] }>()
const round = useRound()
</script>

<template>
  <form class="settings" @submit.prevent>
    <WordsField label="Day" type="date" :value="day" @typed="isDay($event) && emit('day', $event)" />
    <WordsField
      label="Checks due until"
      type="date"
      :value="round.state.until"
      @typed="isDay($event) && round.change({ until: $event })"
    />
    <WordsField
      label="Set out at"
      type="time"
      :value="round.state.begins"
      @typed="/^\d\d:\d\d$/.test($event) && round.change({ begins: $event })"
    />
    <div v-if="areas.length > 1" class="entry">
      <label for="round-areas">Areas</label>
      <v-select
        id="round-areas"
        :model-value="round.state.areas"
        :items="areas"
        multiple
        placeholder="every area"
        @update:model-value="round.change({ areas: $event })"
      />
    </div>
    <v-btn
      v-if="round.state.byHand.length"
      :prepend-icon="mdiSortVariant"
      variant="text"
      @click="round.change({ byHand: [] })"
      >Walking order again</v-btn
    >
  </form>
</template>

<style scoped>
.settings {
  display: grid;
  grid-template-columns: repeat(3, minmax(140px, 180px)) minmax(140px, 240px) auto;
  gap: 0 24px;
  align-items: start;
  justify-content: start;
}
@media (max-width: 560px) {
  .settings {
    grid-template-columns: 1fr 1fr;
    gap: 0 16px;
  }
}
</style>
