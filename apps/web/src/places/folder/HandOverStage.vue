<script setup lang="ts">
// Hand over: the verdict with its plot and readings, the loop given back, two signatures, and the documents.
import { departureWords, originsWords, verdictOf } from '@calm-loop/contract/judging'
import { pointWords } from '@calm-loop/core/check'
import { unitOf } from '@calm-loop/core/quantity'
import { inSentence } from '@calm-loop/core/words'
import { computed } from 'vue'
import { useFolder } from '../../stores/folder.ts'
import { usePreferences } from '../../stores/preferences.ts'
import ErrorPlot from '../../widgets/ErrorPlot.vue'
import { useHandedOver } from './handed-over.ts'
import HandOverFrame from './HandOverFrame.vue'
import LoopPlaces from './LoopPlaces.vue'
import PlaceReadings from './PlaceReadings.vue'

const folder = useFolder()
const preferences = usePreferences()
const { check, choose } = useHandedOver()
const judged = computed(() => (check.value ? folder.judged(check.value) : null))
const verdict = computed(() => {
  return judged.value ? { pass: judged.value.result.pass, words: verdictOf(judged.value) } : undefined
})
const appliedOf = (id: string) => {
  const e = check.value?.readings.find((r) => r.id === id)?.applied
  return e ? preferences.quantity(e.value, e.unit, { trim: true }) : ''
}
const originOfReading = (id: string) => {
  const r = check.value?.readings.find((x) => x.id === id)
  return r ? originsWords(r) : ''
}
const unit = computed(() => unitOf(judged.value?.judged[0]?.main.unit ?? 'mA').label)
const pct = (v: number) => `${preferences.number(v, { decimals: 3, sign: true })} %`
</script>

<template>
  <HandOverFrame :check="check" :verdict="verdict" @choose="choose">
    <p v-if="judged?.loop?.first" class="bad" data-test="departs">{{ departureWords(judged.loop.first) }}</p>
    <div v-if="check" class="two">
      <ErrorPlot :check="check" :height="260" />
      <dl v-if="judged" class="sums">
        <div>
          <dt>
            Largest error{{
              judged.loop && judged.loop.witnesses.length > 1 ? `, ${inSentence(judged.loop.worst.name)}` : ''
            }}
          </dt>
          <dd class="figures">{{ pct(judged.result.maxErrorPct) }}</dd>
        </div>
        <div>
          <dt>Tolerance</dt>
          <dd class="figures">
            ±{{
              preferences.number(judged.loop?.worst.tolerancePct ?? check.tolerancePct, { decimals: 3, trim: true })
            }}
            %
          </dd>
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
    <LoopPlaces v-if="check && judged?.loop" :check="check" :loop="judged.loop" />
    <template #readings>
      <PlaceReadings v-if="check && judged?.loop" :check="check" :loop="judged.loop" />
      <v-table v-else>
        <thead>
          <tr>
            <th>Point</th>
            <th class="num">{{ folder.kind!.check.trueInput }}</th>
            <th class="num">Expected, {{ unit }}</th>
            <th class="num">Read, {{ unit }}</th>
            <th class="num">Error of span</th>
            <th>Origin</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="j in judged?.judged" :key="j.reading.id">
            <td>{{ pointWords(j.reading) }}</td>
            <td class="num">{{ appliedOf(j.reading.id) }}</td>
            <td class="num">{{ preferences.number(j.main.expected, { decimals: j.main.decimals }) }}</td>
            <td class="num read">{{ preferences.number(j.main.read, { decimals: j.main.decimals }) }}</td>
            <td class="num">
              {{ pct(j.worst.errorPct) }}<template v-if="j.worst !== j.main"> {{ j.worst.name }}</template>
            </td>
            <td>{{ originOfReading(j.reading.id) }}</td>
          </tr>
        </tbody>
      </v-table>
    </template>
  </HandOverFrame>
</template>

<style scoped>
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
.read {
  color: var(--signal);
}
@media (max-width: 740px) {
  .two {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
