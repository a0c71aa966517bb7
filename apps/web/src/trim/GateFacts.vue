<script setup lang="ts">
// What is known at a gate before it is passed, each figure large enough to be read from the device.
import type { Fact } from './gate.ts'

defineProps<{ facts: readonly Fact[] }>()
</script>

<template>
  <dl v-if="facts.length" class="facts">
    <div v-for="f in facts" :key="f.name">
      <dt>{{ f.name }}</dt>
      <dd :class="{ figures: f.as !== 'words', signal: f.as === 'live' }">{{ f.says }}</dd>
    </div>
  </dl>
</template>

<style scoped>
.facts {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 32px;
  margin: 0;
  flex-basis: 100%;
}
dt {
  font-size: 14px;
  color: var(--second);
}
dd {
  margin: 0;
  font-size: 22px;
}
.signal {
  color: var(--signal);
}
</style>
