<script setup lang="ts">
// As found beside as left, stage by stage; and what was changed in the device, by whom and when.
import { Refusal } from '@calm-loop/core/refusal'
import { PROCEDURE_NAMES } from '@calm-loop/core/procedure'
import { computed } from 'vue'
import { useTrim } from '../stores/trim.ts'
import { moment } from '../widgets/dates.ts'
import PointTable from './PointTable.vue'
import StageErrors from './StageErrors.vue'
import TakePoints from './TakePoints.vue'
import { STAGE_TITLES, signed } from './words.ts'
import { sure } from '@calm-loop/core/sure'

const trim = useTrim()
const found = computed(() => (trim.diagnosis instanceof Refusal ? undefined : trim.diagnosis))
const left = computed(() => (trim.leftDiagnosis instanceof Refusal ? undefined : trim.leftDiagnosis))
const pct = (points: typeof trim.found) =>
  trim
    .good(points)
    .map((p) => (100 * (p.applied - sure(trim.known).lrv)) / (sure(trim.known).urv - sure(trim.known).lrv))
const rows = computed(() => {
  const stages = found.value?.stages.map((s) => s.stage) ?? left.value?.stages.map((s) => s.stage) ?? []
  return [
    ...stages.map((stage) => {
      const [a, b] = [found.value, left.value].map((d) => d?.stages.find((s) => s.stage === stage)?.errors)
      return {
        name: STAGE_TITLES[stage],
        cells: [
          a?.zeroErrorPct,
          b?.zeroErrorPct,
          a && a.zeroErrorPct + a.spanErrorPct,
          b && b.zeroErrorPct + b.spanErrorPct,
          a?.maxErrorPct,
          b?.maxErrorPct,
        ],
      }
    }),
    {
      name: 'Loop as a whole',
      cells: [undefined, undefined, undefined, undefined, found.value?.chainMaxPct, left.value?.chainMaxPct],
    },
  ]
})
const cell = (v: number | undefined, i: number) =>
  v === undefined ? '' : i > 3 ? `${v.toFixed(2)} %` : `${signed(v)} %`
interface Line {
  readonly at: string
  readonly who: string
  readonly words: string
}
/** What runs of guided work have written, and what the device logged itself. */
const changes = computed<Line[]>(() => {
  const own = (trim.device?.log ?? []).map((l) => ({ at: l.at, who: 'the device', words: l.what }))
  const runs = trim.runs.flatMap((run) =>
    run.entries.flatMap((e): Line[] => {
      const event = e.event
      const name = PROCEDURE_NAMES[run.state.procedure]
      if (event.do === 'begin') return [{ at: e.at, who: e.by.name, words: `${name} begun.` }]
      if (event.do === 'cancel') return [{ at: e.at, who: e.by.name, words: `${name} cancelled: ${event.reason}.` }]
      if (event.do === 'again') {
        const step = run.state.steps.find((s) => s.id === event.step)
        return [{ at: e.at, who: e.by.name, words: `${step?.title ?? event.step} taken again: ${event.reason}.` }]
      }
      if (event.do === 'answered' && run.state.steps.find((s) => s.id === event.step)?.writes)
        return [
          {
            at: e.at,
            who: e.by.name,
            words:
              `${sure(run.state.steps.find((s) => s.id === event.step)).title}: ` +
              `${event.taken ? 'taken' : `refused, ${event.says}`}.`,
          },
        ]
      return []
    }),
  )
  return [...own, ...runs].sort((a, b) => (a.at < b.at ? 1 : -1)).slice(0, 60)
})
</script>

<template>
  <section aria-label="As found and as left">
    <StageErrors
      v-if="found"
      :diagnosis="found"
      :tolerance-pct="trim.tolerancePct"
      :applied="pct(trim.found)"
      :left="left"
      :left-applied="pct(trim.left)"
    />
    <p v-else-if="trim.diagnosis instanceof Refusal" class="look">{{ trim.diagnosis.message }}</p>
    <p v-else class="quiet">As found is not on record yet.</p>
    <v-table v-if="found || left" data-test="side-by-side">
      <thead>
        <tr>
          <th rowspan="2">Error, % of span</th>
          <th colspan="2">at zero</th>
          <th colspan="2">at full span</th>
          <th colspan="2">worst point</th>
        </tr>
        <tr>
          <template v-for="i in 3" :key="i"
            ><th>as found</th>
            <th>as left</th></template
          >
        </tr>
      </thead>
      <tbody>
        <tr v-for="row in rows" :key="row.name">
          <td>{{ row.name }}</td>
          <td v-for="(v, i) in row.cells" :key="i" class="figures">
            {{ cell(v, i) || (i % 2 && !left && (i > 3 || row.name !== 'Loop as a whole') ? 'not taken' : '') }}
          </td>
        </tr>
      </tbody>
    </v-table>
    <h3>Take as left</h3>
    <TakePoints phase="as-left" />
    <PointTable :points="trim.left" phase="as-left" pinnable />
    <h3>Changes in the device</h3>
    <v-table v-if="changes.length" data-test="changes">
      <thead>
        <tr>
          <th>When</th>
          <th>Who</th>
          <th>What</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(l, i) in changes" :key="i">
          <td class="figures">{{ moment(l.at) }}</td>
          <td>{{ l.who }}</td>
          <td>{{ l.words }}</td>
        </tr>
      </tbody>
    </v-table>
    <p v-else class="quiet">Nothing has been changed since this device came to the bench.</p>
  </section>
</template>

<style scoped>
h3 {
  margin: 20px 0 8px;
  font-size: 18px;
}
.look {
  color: var(--look);
}
</style>
