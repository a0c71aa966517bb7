<script setup lang="ts">
// What was measured with a loop that was found out of tolerance, since it was last known to be good.
import { workOf } from '@calm-loop/contract'
import { lastGoodBefore } from '@calm-loop/contract/judging'
import { computed, ref } from 'vue'
import { useFolder } from '../../stores/folder.ts'
import { useSession } from '../../stores/session.ts'
import { useStanding } from '../../stores/standing.ts'
import { useWork } from '../../stores/work.ts'
import { dayWords, moment } from '../../widgets/dates.ts'
import GradeMark from '../../widgets/GradeMark.vue'
import WordsField from '../../widgets/WordsField.vue'

const folder = useFolder()
const session = useSession()
const record = useStanding()
const work = useWork()
const answer = ref('')
const asked = computed(() => record.standing?.unanswered[0])
const since = computed(() => asked.value && lastGoodBefore(record.standing?.done ?? [], asked.value.id))
const answers = computed(() => workOf(folder.here.workLog, 'measured-since'))
const dayOf = (id: string) => record.standing?.done.find((c) => c.id === id)?.day
async function keep(): Promise<void> {
  if (asked.value && (await work.add({ what: 'measured-since', check: asked.value.id, answer: answer.value.trim() })))
    answer.value = ''
}
</script>

<template>
  <div v-if="!folder.practising && (asked || answers.length)" class="since" data-test="measured-since">
    <form v-if="asked" @submit.prevent="keep">
      <p>
        <GradeMark grade="look" wordless /> Found out of tolerance on {{ dayWords(asked.day) }}. What was measured with
        it since {{ since ? `it was last in tolerance, ${dayWords(since)}` : 'it was put into use' }}, and does it
        matter?
      </p>
      <template v-if="session.has('technician')">
        <WordsField
          label="What was measured with it since"
          help="Batches, transfers, trips, reports; and who was told."
          :value="answer"
          needed
          @typed="answer = $event"
        />
        <v-btn type="submit" :disabled="!answer.trim()" :loading="work.busy">Keep the answer</v-btn>
        <p v-if="work.problem" class="bad" role="alert">{{ work.problem }}</p>
      </template>
    </form>
    <p v-for="a in answers" :key="a.id" class="small">
      Found out of tolerance{{ dayOf(a.check) ? ` on ${dayWords(dayOf(a.check)!)}` : '' }}: {{ a.answer }}
      <span class="quiet">{{ a.by.name }}, {{ moment(a.at) }}.</span>
    </p>
  </div>
</template>

<style scoped>
.since {
  margin: 16px 0;
  max-width: 760px;
}
</style>
