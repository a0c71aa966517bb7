<script setup lang="ts">
// Hand over: the verdict with its plot and readings, the loop given back, two signatures, and the documents.
import { judgeCheck, type Check } from '@calm-loop/contract'
import { pointWords } from '@calm-loop/core/check'
import { computed, ref } from 'vue'
import { addressOf } from '../../api/client.ts'
import { useFolder } from '../../stores/folder.ts'
import { usePreferences } from '../../stores/preferences.ts'
import { moment } from '../../widgets/dates.ts'
import ErrorPlot from '../../widgets/ErrorPlot.vue'
import CheckHistory from './CheckHistory.vue'
import SignCheck from './SignCheck.vue'

const folder = useFolder()
const preferences = usePreferences()
const chosen = ref<string>()
const check = computed<Check | undefined>(
  () => folder.view?.checks.find((c) => c.id === chosen.value) ?? folder.latestCheck,
)
const judged = computed(() => (check.value ? judgeCheck(check.value) : null))
const params = computed(() => ({ loopId: folder.view!.loop.id, checkId: check.value?.id ?? '' }))
const appliedOf = (id: string) => {
  const e = check.value?.readings.find((r) => r.id === id)?.applied
  return e ? preferences.quantity(e.value, e.unit, { trim: true }) : ''
}
const pct = (v: number) => `${preferences.number(v, { decimals: 3, sign: true })} %`
</script>

<template>
  <section aria-label="Hand over">
    <template v-if="check">
      <div class="verdict">
        <h2 v-if="judged" :class="judged.result.pass ? 'pass' : 'fail'" data-test="verdict">
          {{ judged.result.pass ? 'Within tolerance' : 'Out of tolerance' }}
        </h2>
        <h2 v-else>Nothing read yet</h2>
        <span class="quiet"
          >{{ check.phase === 'as-found' ? 'as found' : 'as left' }}, begun {{ moment(check.startedAt) }} by
          {{ check.startedBy.name }}</span
        >
      </div>
      <div class="two">
        <ErrorPlot :check="check" :height="260" />
        <dl v-if="judged" class="sums">
          <div>
            <dt>Largest error</dt>
            <dd class="figures">{{ pct(judged.result.maxErrorPct) }}</dd>
          </div>
          <div>
            <dt>Tolerance</dt>
            <dd class="figures">±{{ preferences.number(check.tolerancePct, { decimals: 3, trim: true }) }} %</dd>
          </div>
          <div>
            <dt>Hysteresis</dt>
            <dd class="figures">
              {{
                judged.result.hysteresisPct === null
                  ? 'not met both ways'
                  : `${preferences.number(judged.result.hysteresisPct)} %`
              }}
            </dd>
          </div>
          <div>
            <dt>Linearity</dt>
            <dd class="figures">{{ preferences.number(judged.result.linearityPct) }} %</dd>
          </div>
        </dl>
      </div>
      <SignCheck :key="check.id" :check="check" />
      <div class="papers">
        <v-btn :href="addressOf('certificate', params)" target="_blank">Certificate (PDF)</v-btn>
        <v-btn :href="addressOf('readingsCsv', params)" download>Readings (CSV)</v-btn>
        <v-btn :href="addressOf('bundle', params)" download>Whole folder (JSON)</v-btn>
      </div>
      <details>
        <summary>{{ check.readings.length }} readings</summary>
        <table class="plain">
          <thead>
            <tr>
              <th>Point</th>
              <th class="num">{{ folder.kind!.check.trueInput }}</th>
              <th class="num">Expected, mA</th>
              <th class="num">Read, mA</th>
              <th class="num">Error of span</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="j in judged?.judged" :key="j.reading.id">
              <td>{{ pointWords(j.reading) }}</td>
              <td class="num">{{ appliedOf(j.reading.id) }}</td>
              <td class="num">{{ preferences.number(j.expected_mA) }}</td>
              <td class="num read">{{ preferences.number(j.reading.mA) }}</td>
              <td class="num">{{ pct(j.errorPct) }}</td>
            </tr>
          </tbody>
        </table>
      </details>
    </template>
    <p v-else class="quiet">
      Nothing has been checked yet.
      <router-link :to="`/loops/${folder.view!.loop.id}/check`">Begin a check</router-link>. The folder itself can be
      taken along at any time: <a :href="addressOf('bundle', params)" download>whole folder (JSON)</a>.
    </p>
    <CheckHistory v-if="(folder.view?.checks.length ?? 0) > 1" :shown="check?.id" @choose="chosen = $event" />
  </section>
</template>

<style scoped>
.verdict {
  display: flex;
  align-items: baseline;
  gap: 16px;
  flex-wrap: wrap;
}
.pass {
  color: var(--action);
}
.fail {
  color: var(--stop);
}
.two {
  display: grid;
  grid-template-columns: minmax(0, 1.7fr) minmax(200px, 1fr);
  gap: 32px;
  align-items: center;
}
.sums div {
  display: flex;
  justify-content: space-between;
  border-bottom: 1px solid var(--hairline);
  padding: 10px 0;
}
dt {
  color: var(--second);
}
dd {
  margin: 0;
}
.papers {
  display: flex;
  flex-wrap: wrap;
  gap: 12px;
  margin: 16px 0;
}
.read {
  color: var(--signal);
}
summary {
  min-height: 44px;
  padding: 10px 0;
  cursor: pointer;
}
@media (max-width: 740px) {
  .two {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
