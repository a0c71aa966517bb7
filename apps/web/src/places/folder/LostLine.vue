<script setup lang="ts">
// What the device lost because a setting before it was changed, until each is typed again.
import { inSentence } from '@calm-loop/core/words'
import { computed } from 'vue'
import { useFolder } from '../../stores/folder.ts'
import { useReEnter } from '../../stores/re-enter.ts'
import GradeMark from '../../widgets/GradeMark.vue'

const folder = useFolder()
const reEnter = useReEnter()
const lost = computed(() =>
  reEnter.outstanding.flatMap((o) => {
    const gone = o.field?.forgets ? o.fields.filter((f) => !folder.entries[f.key]?.typed) : []
    return gone.length
      ? [{ id: o.reset.id, stage: o.field?.stage, what: o.field?.label, gone: gone.map((f) => inSentence(f.label)) }]
      : []
  }),
)
</script>

<template>
  <p v-for="o in lost" :key="o.id" class="lost">
    <GradeMark grade="look" /> {{ o.what }} was changed, and with it the device lost: {{ o.gone.join(', ') }}.
    <router-link :to="`/loops/${folder.view?.loop.id}/${o.stage}`">Type it again</router-link>
  </p>
</template>

<style scoped>
.lost {
  margin: 4px 0 8px;
}
</style>
