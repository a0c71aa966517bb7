<script setup lang="ts">
// A survey: begun with its interval, drawn as it runs, totalled, ended; past ones as CSV.
import { workOf } from '@calm-loop/contract'
import { entryFrom, entryIn, totalLabel, type Entry } from '@calm-loop/core/quantity'
import { computed, ref } from 'vue'
import { addressOf } from '../api/client.ts'
import { useFolder } from '../stores/folder.ts'
import { usePreferences } from '../stores/preferences.ts'
import { useSession } from '../stores/session.ts'
import { useWork } from '../stores/work.ts'
import { moment } from '../widgets/dates.ts'
import QuantityField from '../widgets/QuantityField.vue'
import WordsField from '../widgets/WordsField.vue'
import { useMeter } from './useMeter.ts'
import { useSurvey } from './useSurvey.ts'

const W = 720
const H = 170
const folder = useFolder()
const session = useSession()
const work = useWork()
const preferences = usePreferences()
const bench = useMeter()
const { running, survey, rows, total, unit, begin, end, close } = useSurvey(bench)
const interval = ref<Entry>(entryFrom('1 s', { quantity: 'time', unit: 's' }))
const note = ref('')
const seconds = computed(() => entryIn(interval.value, 's'))
const objection = computed(() =>
  seconds.value === undefined || seconds.value < 0.2 || seconds.value > 86_400
    ? 'An interval from 0.2 s to one day.'
    : bench.meter.value?.phase === 'running'
      ? ''
      : 'The meter does not measure: start it first.',
)
const flowUnit = computed(() => bench.live.limits?.unit ?? 'm3/h')
const shownTotal = (v: number, of: string) => `${preferences.number(v, { decimals: 3 })} ${totalLabel(of)}`
const flows = computed(() => rows.value.flatMap((r) => (r[1] === null ? [] : [{ t: r[0], v: r[1] }])).slice(-600))
const ends = computed(() => {
  const all = flows.value.map((f) => f.v)
  const [low, high] = [Math.min(0, ...all), Math.max(1e-9, ...all)]
  return { low, high: high + (high - low) * 0.08 }
})
const trace = computed(() => {
  const [first, last] = [flows.value[0]?.t ?? 0, flows.value.at(-1)?.t ?? 1]
  return flows.value
    .map(
      (f, i) =>
        `${i ? 'L' : 'M'}${(((f.t - first) / Math.max(1, last - first)) * W).toFixed(1)} ` +
        `${(H - ((f.v - ends.value.low) / (ends.value.high - ends.value.low)) * (H - 20)).toFixed(1)}`,
    )
    .join('')
})
const surveys = computed(() =>
  workOf(work.log, 'survey')
    .map((s) => ({ ...s, ended: workOf(work.log, 'survey-end').find((e) => e.survey === s.id) }))
    .reverse(),
)
</script>

<template>
  <section class="survey" aria-label="Survey">
    <h3>Survey</h3>
    <form
      v-if="!running && session.has('technician')"
      class="do"
      @submit.prevent="!objection && begin(seconds!, flowUnit, note.trim())"
    >
      <QuantityField label="A row every" quantity="time" unit="s" :entry="interval" needed @entry="interval = $event" />
      <WordsField label="What is surveyed" :value="note" @typed="note = $event" />
      <v-btn color="primary" variant="flat" type="submit" :disabled="!!objection" data-test="begin-survey"
        >Begin the survey</v-btn
      >
      <span v-if="objection" class="look small">{{ objection }}</span>
    </form>
    <template v-if="rows.length">
      <svg
        class="worded trace"
        :viewBox="`-4 0 ${W + 8} ${H + 24}`"
        role="img"
        aria-label="Flow since the survey began"
      >
        <path :d="`M0 ${H}H${W}`" class="axis" />
        <path :d="trace" class="line" />
        <text x="0" :y="H + 18" class="small">{{ moment(new Date(rows[0]![0]).toISOString()) }}</text>
        <text :x="W" :y="H + 18" class="small end">now</text>
        <text :x="W" y="14" class="small end">{{ preferences.quantity(ends.high, unit, { decimals: 1 }) }}</text>
      </svg>
      <dl>
        <div>
          <dt>Rows</dt>
          <dd class="figures" data-test="survey-rows">{{ rows.length }}</dd>
        </div>
        <div>
          <dt>Total</dt>
          <dd class="figures" data-test="survey-total">{{ shownTotal(total, unit) }}</dd>
        </div>
        <div>
          <dt>Flow now</dt>
          <dd class="figures">
            {{ rows.at(-1)![1] === null ? 'none' : preferences.quantity(rows.at(-1)![1]!, unit, { decimals: 2 }) }}
          </dd>
        </div>
      </dl>
    </template>
    <v-btn v-if="running" color="primary" variant="flat" data-test="end-survey" @click="end">End the survey</v-btn>
    <p v-if="running" class="quiet small">
      This page logs while it is open; going elsewhere ends the survey. Keep the tablet awake.
    </p>
    <p v-if="work.problem" class="bad" role="alert">
      {{ work.problem }} Rows that were taken are kept here and sent again.
    </p>
    <v-table v-if="surveys.length" class="surveys">
      <thead>
        <tr>
          <th scope="col">Begun</th>
          <th scope="col">What</th>
          <th scope="col" class="end">Rows</th>
          <th scope="col" class="end">Total</th>
          <th scope="col">File</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="s in surveys" :key="s.id">
          <td>{{ moment(s.at) }}, {{ s.by.name }}</td>
          <td>{{ s.note || 'no words' }}</td>
          <td class="figures end">
            <template v-if="s.ended">{{ s.ended.rows }}</template><template v-else-if="s.id === survey"
              >running</template
            ><v-btn v-else-if="session.has('technician')" variant="text" @click="close(folder.view!.loop.id, s.id)"
              >Cut off: end it</v-btn
            ><template v-else>cut off</template>
          </td>
          <td class="figures end">{{ s.ended ? shownTotal(s.ended.total, s.unit) : '' }}</td>
          <td>
            <a
              :href="addressOf('surveyCsv', { loopId: folder.view!.loop.id, surveyId: s.id })"
              class="link"
              data-test="survey-csv"
              >CSV</a
            >
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
.axis {
  stroke: var(--second);
}
.line {
  fill: none;
  stroke: var(--signal);
  stroke-width: 1.8;
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
