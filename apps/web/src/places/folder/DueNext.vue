<script setup lang="ts">
// When it is due again, from the record: what was found and left over the years, drift, the interval that follows, why,
// and who accepts it.
import { sure } from '@calm-loop/core/sure'
import { driftPlot } from '@calm-loop/drawing'
import { useElementSize } from '@vueuse/core'
import { computed, onMounted, ref } from 'vue'
import { useFolder } from '../../stores/folder.ts'
import { useSession } from '../../stores/session.ts'
import { useSite } from '../../stores/site.ts'
import { useStanding } from '../../stores/standing.ts'
import { dayWords } from '../../widgets/dates.ts'
import SceneSvg from '../../widgets/SceneSvg.vue'
import WordsField from '../../widgets/WordsField.vue'
import DecideForm from './DecideForm.vue'

const folder = useFolder()
const session = useSession()
const site = useSite()
const record = useStanding()
onMounted(site.loadJudging)
const box = ref<HTMLElement>()
const { width } = useElementSize(box)
const standing = computed(() => record.standing)
/** Asked only where there is a record: the section is not there without one. */
const known = computed(() => sure(standing.value))
const scene = computed(() =>
  driftPlot({
    due: known.value.due,
    tolerancePct: known.value.done.at(-1)?.tolerancePct ?? 1,
    nextDue: known.value.nextDue,
    measure: folder.kind?.family === 'switch' ? 'operate distance, % off' : 'error, % of span',
    width: Math.max(320, Math.round(width.value)),
    height: 240,
  }),
)
const due = computed(() => known.value.due)
const accepted = computed(() => standing.value?.interval.accepted)
const suggestion = computed(() => {
  const words = { shorten: 'shorter than now', keep: 'as now', lengthen: 'longer than now' }
  return `Suggested: ${due.value.suggested_days} days, ${words[due.value.action]} (${known.value.interval.words}).`
})
const open = ref(false)
const days = ref('')
const wanted = computed(() => (/^\d{1,4}$/.test(days.value.trim()) ? Number(days.value) : 0))
const possible = computed(() => wanted.value >= 1 && wanted.value <= site.judging.maxInterval_days)
function begin(): void {
  days.value = `${due.value.suggested_days}`
  open.value = true
}
const accept = async (reason: string, password: string) => {
  const { suggested_days } = due.value
  await record.decide(
    { what: 'interval', days: wanted.value, instead: record.entered, suggested_days, reason },
    password,
  )
  open.value = false
}
</script>

<template>
  <section v-if="standing?.done.length" class="due" aria-label="When it is due again" data-test="due-next">
    <h3>
      When it is due again<template v-if="standing.nextDue">: {{ dayWords(standing.nextDue) }}</template>
    </h3>
    <div ref="box"><SceneSvg v-if="width > 0 && standing.due.history.length" :scene="scene" /></div>
    <p>
      <b data-test="suggested">{{ suggestion }}</b> {{ due.why.join(' ') }}
    </p>
    <p v-if="accepted" class="small" data-test="accepted-interval">
      {{ accepted.days }} days accepted by {{ accepted.by.name }}, {{ dayWords(accepted.at) }}: {{ accepted.reason }}
    </p>
    <template v-if="session.hasDuty('fitness') && !folder.practising">
      <v-btn v-if="!open" data-test="accept-interval" @click="begin">Accept an interval</v-btn>
      <DecideForm
        v-else
        title="Accept an interval"
        :verb="`Accept ${wanted || '…'} days`"
        :blocked="!possible"
        :act="accept"
      >
        <WordsField
          label="Days between two checks"
          :value="days"
          needed
          :says="possible ? '' : `Whole days, at most ${site.judging.maxInterval_days}: the site’s longest.`"
          @typed="days = $event"
        />
      </DecideForm>
    </template>
    <p v-else-if="!folder.practising" class="small quiet">
      A {{ session.session?.duties.fitness }} may accept another interval.
    </p>
  </section>
</template>

<style scoped>
.due {
  border-top: 1px solid var(--hairline);
  padding-top: 12px;
  margin-top: 16px;
}
</style>
