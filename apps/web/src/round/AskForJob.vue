<script setup lang="ts">
// What was found at the open loop becomes a job of a round. What is practised at the bench asks for nothing.
import type { JobOrigin } from '@calm-loop/contract'
import { computed, defineAsyncComponent, ref } from 'vue'
import { useFolder } from '../stores/folder.ts'

const MakeJob = defineAsyncComponent(() => import('./MakeJob.vue'))
defineProps<{ what: string; why: string; origin: JobOrigin }>()
/** As long as a job takes them; what is cut is seen. */
const [MOST_what, MOST_why] = [200, 300]
const within = (text: string, most: number) => (text.length <= most ? text : `${text.slice(0, most - 1)}…`)
const folder = useFolder()
const loop = computed(() => (folder.practising ? undefined : folder.view?.loop))
const open = ref(false)
const asked = ref(false)
const made = ref(false)
function ask(): void {
  asked.value = true
  open.value = true
}
</script>

<template>
  <span v-if="loop" class="ask">
    <v-btn variant="text" data-test="ask-job" @click="ask">Make a job of it</v-btn>
    <span v-if="made" class="small quiet" role="status">A job is made: it stands in the round.</span>
    <MakeJob
      v-if="asked"
      v-model="open"
      :loop="loop"
      :what="within(what, MOST_what)"
      :why="within(why, MOST_why)"
      :origin="origin"
      @made="made = true"
    />
  </span>
</template>

<style scoped>
.ask {
  display: inline-flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px;
}
</style>
