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
/** Where nothing is one of the choices, it is chosen until another is. */
const none = computed(() => (props.options.some((o) => o.value === '') ? '' : null))
const shown = computed(() => props.value || props.standard || none.value)
/** Each button says itself what it chooses, also the one that stands until something is chosen. */
const leave = () => undefined
const missing = computed(() => props.needed && shown.value === null)
</script>

<template>
  <div class="entry" role="group" :aria-labelledby="id">
    <span :id="id" class="entry-label">
      <span :class="{ needed: missing }">{{ label }}</span>
      <span v-if="missing" class="need-word"> to be chosen</span>
    </span>
    <v-btn-toggle v-if="few" :model-value="shown" class="few" @update:model-value="leave">
      <v-btn
        v-for="option in options"
        :key="option.value"
        class="pick"
        variant="text"
        :value="option.value"
        :aria-pressed="shown === option.value"
        @click="emit('choose', option.value)"
      >
        {{ option.label }}
      </v-btn>
    </v-btn-toggle>
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
  gap: 0 18px;
}
.pick {
  min-width: 0;
  padding: 0 2px;
}
.need-word {
  color: var(--look);
  font-size: 14px;
}
</style>
