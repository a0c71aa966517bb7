<script setup lang="ts">
// A job is done, or not wanted any more: said once, with a word for whoever reads it later.
import type { EndJob, Job } from '@calm-loop/contract'
import { ref, watch } from 'vue'
import type { ApiProblem } from '../../api/client.ts'
import { useRound } from '../../stores/round.ts'
import ChoiceField from '../../widgets/ChoiceField.vue'
import WordsField from '../../widgets/WordsField.vue'

const job = defineModel<Job | undefined>({ required: true })
const how = ref<EndJob['how']>('done')
const words = ref('')
const says = ref('')
const HOW = [
  { value: 'done', label: 'It is done' },
  { value: 'withdrawn', label: 'Not wanted any more' },
]
watch(job, () => {
  how.value = 'done'
  words.value = says.value = ''
})
async function end(): Promise<void> {
  if (!job.value) return
  try {
    await useRound().endJob(job.value, { how: how.value, words: words.value })
    job.value = undefined
  } catch (error) {
    says.value = (error as ApiProblem).message
  }
}
</script>

<template>
  <v-dialog :model-value="!!job" aria-label="End a job" @update:model-value="job = undefined">
    <v-card v-if="job" class="pa-6">
      <h2>{{ job.tag }}: {{ job.what }}</h2>
      <form class="mt-4" @submit.prevent="end">
        <ChoiceField label="How it ends" :options="HOW" :value="how" @choose="how = $event as EndJob['how']" />
        <WordsField
          label="In a word"
          :value="words"
          help="What was found or done, for whoever reads it later."
          @typed="words = $event"
        />
        <p v-if="says" class="bad" role="alert">{{ says }}</p>
        <div class="do">
          <v-btn type="submit" color="primary" variant="flat">{{
            how === 'done' ? 'It is done' : 'Withdraw it'
          }}</v-btn>
          <v-btn variant="text" @click="job = undefined">Leave it open</v-btn>
        </div>
      </form>
    </v-card>
  </v-dialog>
</template>
