<script setup lang="ts">
// The verdict in large letters, and the pair in both manners of speaking.
import { bothManners, VERDICT_WORDS } from '@calm-loop/core/kinds'
import { computed } from 'vue'
import { useFolder } from '../stores/folder.ts'
import { sure } from '@calm-loop/core/sure'

const folder = useFolder()
const r = computed(() => sure(folder.reader))
const verdict = computed(() => folder.run?.verdict)
const manners = computed(() => {
  const output = r.value.text('output')
  const common = r.value.text('common')
  if (!output || !common) return undefined
  return bothManners(output, common as 'positive' | 'negative', r.value.text('drives') === 'load')
})
const good = computed(() => verdict.value === 'works' || verdict.value === 'works-inverted')
</script>

<template>
  <div class="verdict">
    <h2 v-if="verdict" :class="good ? 'pass' : 'fail'" data-test="fit">{{ VERDICT_WORDS[verdict] }}</h2>
    <h2 v-else class="quiet">No verdict yet</h2>
    <p v-if="manners" class="manners">
      <span>{{ manners.sensor }}</span> <span>{{ manners.card }}</span>
    </p>
  </div>
</template>

<style scoped>
.verdict {
  display: grid;
  grid-template-columns: minmax(180px, auto) minmax(0, 1fr);
  gap: 4px 32px;
  align-items: baseline;
  margin-bottom: 8px;
}
h2 {
  font-size: 24px;
}
.manners {
  margin: 0;
}
@media (max-width: 740px) {
  .verdict {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
