<script setup lang="ts">
// What is done at a stage, one thing at a time: tabs whose choice stands in the address. The chosen one's panel is the
// slot.
import { computed } from 'vue'
import { useRoute, useRouter } from 'vue-router'

interface Work {
  readonly id: string
  readonly name: string
  /** Stops found there. */
  readonly stops?: number
}
const props = defineProps<{ works: readonly Work[]; label: string }>()
const route = useRoute()
const router = useRouter()
const work = computed(() => props.works.find((w) => w.id === route.query['do'])?.id ?? props.works[0]!.id)
const go = (id: string) => void router.replace({ query: { do: id } })
function keys(event: KeyboardEvent): void {
  const step = event.key === 'ArrowRight' ? 1 : event.key === 'ArrowLeft' ? -1 : 0
  if (!step) return
  const { works } = props
  const next = works[(works.findIndex((w) => w.id === work.value) + step + works.length) % works.length]!
  go(next.id)
  document.getElementById(`work-${next.id}`)?.focus()
}
</script>

<template>
  <div class="works" role="tablist" :aria-label="label">
    <button
      v-for="w in works"
      :id="`work-${w.id}`"
      :key="w.id"
      type="button"
      role="tab"
      :aria-selected="work === w.id"
      aria-controls="work-panel"
      :tabindex="work === w.id ? 0 : -1"
      @click="go(w.id)"
      @keydown="keys"
    >
      {{ w.name }}<span v-if="w.stops" class="count">, {{ w.stops }} stop</span>
    </button>
  </div>
  <div id="work-panel" role="tabpanel" :aria-labelledby="`work-${work}`"><slot :work="work" /></div>
</template>

<style scoped>
.works {
  display: flex;
  flex-wrap: wrap;
  gap: 0 24px;
  border-bottom: 1px solid var(--hairline);
  margin-bottom: 16px;
}
.works button {
  background: none;
  border: 0;
  border-bottom: 3px solid transparent;
  min-height: 48px;
  padding: 0 2px;
  font: inherit;
  color: var(--second);
  cursor: pointer;
}
.works [aria-selected='true'] {
  color: var(--ink);
  font-weight: 650;
  border-bottom-color: var(--action);
}
.count {
  color: var(--stop);
}
</style>
