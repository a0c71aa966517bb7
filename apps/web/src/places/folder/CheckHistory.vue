<script setup lang="ts">
// Earlier checks of this loop: worst error of each against the tolerance, over the years.
import { checkWords, isPractice, verdictOfCheck } from '@calm-loop/contract/judging'
import { CategoryScale, Chart, LinearScale, LineController, LineElement, PointElement } from 'chart.js'
import { computed } from 'vue'
import { Line } from 'vue-chartjs'
import { useFolder } from '../../stores/folder.ts'
import { usePreferences } from '../../stores/preferences.ts'
import { dayWords } from '../../widgets/dates.ts'
import { useTones } from '../../widgets/tones.ts'
import GrowingTable from '../../widgets/GrowingTable.vue'
import { sure } from '@calm-loop/core/sure'

const COLUMNS = ['Begun', 'State', 'Largest error', 'Stands', 'By'].map((title) => ({ title }))
Chart.register(CategoryScale, LinearScale, LineController, LineElement, PointElement)

defineProps<{ shown: string | undefined }>()
const emit = defineEmits<{ choose: [id: string] }>()
const folder = useFolder()
const preferences = usePreferences()
const tones = useTones()
const rows = computed(() =>
  (folder.view?.checks ?? []).map((check) => {
    const known = folder.studyOfCheck(check)
    const verdict = known && verdictOfCheck(known, check)
    return { check, pass: verdict?.pass, max: verdict?.errorPct ?? undefined }
  }),
)
const discrete = computed(() => folder.kind?.family === 'switch')
/** Practice is listed, marked, and never among the errors of the loop. */
const drawn = computed(() => rows.value.filter((r) => r.max !== undefined && !isPractice(r.check)))
const data = computed(() => ({
  labels: drawn.value.map((r) => dayWords(r.check.startedAt)),
  datasets: [
    {
      label: 'largest error',
      data: drawn.value.map((r) => sure(r.max)),
      borderColor: tones.value.signal,
      backgroundColor: tones.value.signal,
      pointRadius: 5,
      pointStyle: 'rect' as const,
      borderWidth: 1.5,
    },
    ...([1, -1] as const).map((sign) => ({
      label: 'tolerance',
      data: drawn.value.map((r) => sign * r.check.tolerancePct),
      borderColor: tones.value.second,
      borderWidth: 1,
      pointRadius: 0,
    })),
  ],
}))
const axis = computed(() => ({
  ticks: { color: tones.value.second, font: { family: tones.value.figures, size: 14 }, maxTicksLimit: 6 },
  grid: { color: tones.value.hairline },
  border: { color: tones.value.second },
}))
const options = computed(() => ({
  responsive: true,
  maintainAspectRatio: false,
  animation: false as const,
  events: [],
  scales: {
    x: axis.value,
    y: {
      ...axis.value,
      title: {
        display: true,
        text: discrete.value ? 'operate distance, % off' : 'largest error, % of span',
        color: tones.value.second,
        font: { family: tones.value.words, size: 14 },
      },
    },
  },
}))
const words = computed(
  () =>
    `Largest error of ${drawn.value.length} checks: ` +
    drawn.value
      .map((r) => `${dayWords(r.check.startedAt)} ${preferences.number(sure(r.max), { decimals: 2, sign: true })} %`)
      .join('; '),
)
</script>

<template>
  <section class="history">
    <h3>All checks of this loop</h3>
    <div v-if="drawn.length" class="canvas">
      <Line :data="data" :options="options" :aria-label="words" role="img" />
    </div>
    <GrowingTable :columns="COLUMNS" :items="[...rows].reverse()" :key-of="(row) => row.check.id">
      <template #row="{ item: { check, pass, max }, at }">
        <tr :ref="at">
          <td>
            <button type="button" class="pick" :aria-pressed="check.id === shown" @click="emit('choose', check.id)">
              {{ dayWords(check.startedAt) }}
            </button>
          </td>
          <td>{{ check.phase === 'as-found' ? 'as found' : 'as left' }}</td>
          <td class="num">
            {{
              max === undefined
                ? pass === undefined
                  ? 'not read'
                  : pass
                    ? 'passed'
                    : 'failed'
                : `${preferences.number(max, { decimals: 3, sign: true })} %`
            }}
          </td>
          <td>
            {{ checkWords(check) }}
          </td>
          <td>{{ check.startedBy.name }}</td>
        </tr>
      </template>
    </GrowingTable>
  </section>
</template>

<style scoped>
.history {
  border-top: 1px solid var(--hairline);
  padding-top: 12px;
  margin-top: 16px;
}
.canvas {
  height: 200px;
}
.pick {
  min-height: 44px;
  background: none;
  border: 0;
  color: var(--action);
  text-decoration: underline;
  font: inherit;
  cursor: pointer;
}
.pick[aria-pressed='true'] {
  font-weight: 700;
}
</style>
