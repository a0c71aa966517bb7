<script setup lang="ts">
// A survey: what it will come to, begun, drawn as it runs, ended; past ones as report and CSV. The server logs it.
import { SURVEY_HOURS, SURVEY_ROWS } from '@calm-loop/contract'
import { surveyPlan } from '@calm-loop/core/flow'
import { entryFrom, entryIn, totalLabel, type Entry } from '@calm-loop/core/quantity'
import { tracePlot } from '@calm-loop/drawing'
import { useElementSize, useWakeLock } from '@vueuse/core'
import { computed, onBeforeUnmount, ref, watch } from 'vue'
import { addressOf } from '../api/client.ts'
import { useFolder } from '../stores/folder.ts'
import { usePreferences } from '../stores/preferences.ts'
import { useSession } from '../stores/session.ts'
import { clock, moment } from '../widgets/dates.ts'
import QuantityField from '../widgets/QuantityField.vue'
import SceneSvg from '../widgets/SceneSvg.vue'
import WordsField from '../widgets/WordsField.vue'
import { useSurvey } from './useSurvey.ts'
import { sure } from '@calm-loop/core/sure'

const folder = useFolder()
const session = useSession()
const preferences = usePreferences()
const { surveys, open, now, problem, begin, end } = useSurvey()
const loopId = computed(() => sure(folder.view).loop.id)
const interval = ref<Entry>(entryFrom('1 s', { quantity: 'time', unit: 's' }))
const lasts = ref<Entry>(entryFrom('8 h', { quantity: 'time', unit: 'h' }))
const charge = ref<Entry>(entryFrom('100 %', { quantity: 'ratio', unit: '%' }))
const note = ref('')

const wish = computed(() => ({ interval_s: entryIn(interval.value, 's'), hours: entryIn(lasts.value, 'h') }))
const plan = computed(() => {
  const { interval_s, hours } = wish.value
  return interval_s && hours && interval_s > 0 && hours > 0 ? surveyPlan(hours, interval_s) : undefined
})
/** Hours that the battery still has; undefined where the meter has none. */
const battery_h = computed(() => {
  const whole = folder.reader?.in('batteryLasts', 'h')
  const left = entryIn(charge.value, '%')
  return whole === undefined || left === undefined ? undefined : (whole * Math.max(0, Math.min(100, left))) / 100
})
const objection = computed(() => {
  const { interval_s, hours } = wish.value
  if (!folder.practising && !folder.view?.device)
    return 'No meter is connected: say under Link which device this is, or connect the bench to practise.'
  if (interval_s === undefined || interval_s < 0.2 || interval_s > 86_400) return 'An interval from 0.2 s to one day.'
  if (hours === undefined || hours <= 0 || hours > SURVEY_HOURS) return 'A time of up to 31 days.'
  return sure(plan.value).rows > SURVEY_ROWS ? 'That is more than a million rows: a longer interval, or less time.' : ''
})
const bytes = (n: number) =>
  n < 1e6 ? `${preferences.number(n / 1e3, { decimals: 0 })} kB` : `${preferences.number(n / 1e6, { decimals: 1 })} MB`
const hours = (h: number) => preferences.quantity(h, 'h', { decimals: 1, trim: true })
const start = () => {
  const { interval_s, hours: h } = wish.value
  if (!objection.value && interval_s && h) void begin({ interval_s, hours: h, note: note.value.trim() })
}

const unit = computed(() => open.value?.unit ?? 'm3/h')
const shownTotal = (v: number, of: string) => `${preferences.number(v, { decimals: 3 })} ${totalLabel(of)}`
const box = ref<HTMLElement>()
const { width } = useElementSize(box)
const scene = computed(() =>
  tracePlot({
    ...{ rows: now.value?.recent ?? [], interval_s: open.value?.interval_s ?? 1, unit: unit.value },
    ...{ width: Math.max(320, Math.round(width.value)), height: 220 },
    clock: (ms) => clock(new Date(ms).toISOString()),
  }),
)
const flowNow = computed(() => now.value?.recent.at(-1)?.[1] ?? undefined)

// The screen stays on while somebody watches.
const wake = useWakeLock()
watch(open, (running) => void (running ? wake.request('screen') : wake.release()).catch(() => undefined), {
  immediate: true,
})
onBeforeUnmount(() => void wake.release().catch(() => undefined))
</script>

<template>
  <section class="survey" aria-label="Survey">
    <h3>Survey</h3>
    <template v-if="!open && session.has('technician')">
      <form class="do" @submit.prevent="start">
        <QuantityField
          label="A row every"
          quantity="time"
          unit="s"
          :entry="interval"
          needed
          @entry="interval = $event"
        />
        <QuantityField label="It lasts" quantity="time" unit="h" :entry="lasts" needed @entry="lasts = $event" />
        <QuantityField
          v-if="folder.reader?.in('batteryLasts', 'h') !== undefined"
          label="Battery is charged to"
          quantity="ratio"
          unit="%"
          :entry="charge"
          @entry="charge = $event"
        />
        <WordsField class="wide" label="What is surveyed" :value="note" @typed="note = $event" />
        <v-btn color="primary" variant="flat" type="submit" :disabled="!!objection" data-test="begin-survey"
          >Begin the survey</v-btn
        >
      </form>
      <p v-if="objection" class="look small">{{ objection }}</p>
      <p v-else-if="plan" class="quiet small" data-test="survey-plan">
        About <span class="figures">{{ preferences.number(plan.rows, { decimals: 0 }) }}</span> rows,
        <span class="figures">{{ bytes(plan.bytes) }}</span> as a file.
        <template v-if="battery_h !== undefined">
          The battery has <span class="figures">{{ hours(battery_h) }}</span> left.
        </template>
        The server logs it, also when this page is closed.
      </p>
      <p v-if="battery_h !== undefined && battery_h < (wish.hours ?? 0)" class="look small" data-test="battery-short">
        The battery is empty before the survey is over: charge it, or bring a supply.
      </p>
    </template>
    <div v-if="open" ref="box" class="running">
      <template v-if="now?.recent.length">
        <SceneSvg :scene="scene" class="worded" />
        <dl>
          <div>
            <dt>Rows</dt>
            <dd class="figures" data-test="survey-rows">{{ now.rows }}</dd>
          </div>
          <div>
            <dt>Total</dt>
            <dd class="figures" data-test="survey-total">{{ shownTotal(now.total, unit) }}</dd>
          </div>
          <div>
            <dt>Flow now</dt>
            <dd class="figures">
              {{ flowNow === undefined ? 'none' : preferences.quantity(flowNow, unit, { decimals: 2 }) }}
            </dd>
          </div>
        </dl>
      </template>
      <p v-if="now?.problem" class="look" role="status">No flow comes: {{ now.problem }}</p>
      <p class="quiet small">
        Begun {{ moment(open.at) }} by {{ open.by.name }}, a row every {{ open.interval_s }} s<template
          v-if="open.hours !== undefined"
          >, for {{ hours(open.hours) }}. It goes on when this page is closed.</template
        ><template v-else>. Its page was closed: it only waits to be ended.</template>
      </p>
      <v-btn
        v-if="session.has('technician')"
        color="primary"
        variant="flat"
        data-test="end-survey"
        @click="end(open.id)"
        >End the survey</v-btn
      >
    </div>
    <p v-if="problem" class="bad" role="alert">{{ problem }}</p>
    <v-table v-if="surveys.length" class="surveys">
      <thead>
        <tr>
          <th scope="col">Begun</th>
          <th scope="col">What</th>
          <th scope="col" class="end">Rows</th>
          <th scope="col" class="end">Total</th>
          <th scope="col">Papers</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="s in surveys" :key="s.id">
          <td>{{ moment(s.at) }}, {{ s.by.name }}</td>
          <td>
            {{ s.note || 'no words' }}<span v-if="s.ended?.why" class="quiet small why">{{ s.ended.why }}</span>
          </td>
          <td class="figures end">{{ s.ended ? s.ended.rows : 'running' }}</td>
          <td class="figures end">{{ s.ended ? shownTotal(s.ended.total, s.unit) : '' }}</td>
          <td class="papers">
            <a :href="addressOf('surveyPdf', { loopId, surveyId: s.id })" class="link" target="_blank" rel="noopener"
              >Report</a
            >
            <a :href="addressOf('surveyCsv', { loopId, surveyId: s.id })" class="link" data-test="survey-csv">CSV</a>
          </td>
        </tr>
      </tbody>
    </v-table>
  </section>
</template>

<style scoped>
.survey {
  border-top: 1px solid var(--hairline);
  margin-top: 16px;
  padding-top: 12px;
}
.do {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 24px;
  align-items: center;
}
.do > :deep(.entry) {
  width: min(200px, 100%);
}
.do > :deep(.entry.wide) {
  width: min(320px, 100%);
}
.running {
  margin-top: 8px;
}
.why {
  display: block;
}
.papers a {
  margin-right: 16px;
}
dl {
  display: flex;
  gap: 32px;
  flex-wrap: wrap;
}
dt {
  color: var(--second);
  font-size: 14px;
}
dd {
  margin: 0;
  font-size: 20px;
}
.surveys {
  margin-top: 16px;
}
th,
td {
  text-align: left;
  font-weight: 400;
  padding: 10px 16px 10px 0;
  border-bottom: 1px solid var(--hairline);
}
th {
  color: var(--second);
  font-size: 14px;
}
.end {
  text-align: right;
}
</style>
