<script setup lang="ts">
// What is done at a stage, one thing at a time: tabs whose choice stands in the address. The chosen one's panel is the
// slot.
import { computed } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { sure } from '@calm-loop/core/sure'

interface Work {
  readonly id: string
  readonly name: string
  /** Stops found there. */
  readonly stops?: number
}
const props = defineProps<{ works: readonly Work[]; label: string }>()
const route = useRoute()
const router = useRouter()
const work = computed(() => props.works.find((w) => w.id === route.query['do'])?.id ?? sure(props.works[0]).id)
const go = (id: unknown) => {
  if (id !== work.value) void router.replace({ query: { do: String(id) } })
}
</script>

<template>
  <v-tabs :model-value="work" class="works" :show-arrows="false" :aria-label="label" @update:model-value="go">
    <v-tab v-for="w in works" :id="`work-${w.id}`" :key="w.id" :value="w.id" aria-controls="work-panel">
      <span
        >{{ w.name }}<span v-if="w.stops" class="count">, {{ w.stops }} stop</span></span
      >
    </v-tab>
  </v-tabs>
  <div id="work-panel" role="tabpanel" :aria-labelledby="`work-${work}`"><slot :work="work" /></div>
</template>

<style scoped>
.works {
  height: auto;
  border-bottom: 1px solid var(--hairline);
  margin-bottom: 16px;
}
.works :deep(.v-slide-group__content) {
  flex-wrap: wrap;
}
.works .v-tab {
  min-width: 0;
  padding: 0 12px;
}
.count {
  color: var(--stop);
}
</style>
