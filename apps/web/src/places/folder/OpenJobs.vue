<script setup lang="ts">
// What is asked for at this loop and not done yet, as it stands in the round.
import type { Job } from '@calm-loop/contract'
import { computed, shallowRef, watch } from 'vue'
import { call } from '../../api/client.ts'
import { useOutbox } from '../../stores/outbox.ts'
import { dayWords } from '../../widgets/dates.ts'

const props = defineProps<{ loopId: string }>()
const open = shallowRef<readonly Job[]>([])
const outbox = useOutbox()
/** Jobs of this page that are on their way: once they are there, the list is another. */
const underWay = computed(
  () => outbox.waiting.filter((w) => w.endpoint === 'makeJob' || w.endpoint === 'endJob').length,
)
watch(
  [() => props.loopId, underWay],
  async ([loopId], before) => {
    if (loopId !== before?.[0]) open.value = []
    const jobs = await call('jobs', { query: { loopId } }).catch(() => undefined)
    if (jobs && loopId === props.loopId) open.value = jobs.filter((j) => !j.ended)
  },
  { immediate: true },
)
</script>

<template>
  <p v-if="open.length" class="jobs small" data-test="open-jobs">
    <span class="quiet">{{ open.length === 1 ? 'Open job:' : `${open.length} open jobs:` }}</span>
    <span v-for="job in open" :key="job.id" class="job">
      {{ job.what }}{{ job.by ? `, by ${dayWords(job.by)}` : '' }} <span class="quiet">({{ job.madeBy.name }})</span>
    </span>
    <router-link to="/round" class="link">In the round</router-link>
  </p>
</template>

<style scoped>
.jobs {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0 16px;
  margin: 0;
}
.jobs a {
  display: inline-flex;
  align-items: center;
  min-height: 44px;
}
</style>
