<script setup lang="ts">
// Hand over of a discrete point: the verdict with its witnesses and distances, the machine given back, two signatures,
// and the documents.
import { targetWords } from '@calm-loop/core/check'
import { FAULT_PLACES, WITNESSES } from '@calm-loop/core/discrete'
import { computed } from 'vue'
import { useFolder } from '../../stores/folder.ts'
import { usePreferences } from '../../stores/preferences.ts'
import FitDrawing from '../../switching/FitDrawing.vue'
import { useHandedOver } from './handed-over.ts'
import HandOverFrame from './HandOverFrame.vue'

const folder = useFolder()
const preferences = usePreferences()
const { check, choose } = useHandedOver()
const known = computed(() => {
  const of = check.value && folder.studyOfCheck(check.value)
  return of?.family === 'switch' ? of : undefined
})
const judged = computed(() => (check.value ? folder.judgedStates(check.value) : null))
const verdict = computed(() => {
  const pass = judged.value?.pass
  return pass === undefined ? undefined : { pass, words: pass ? 'Every witness agrees' : 'Does not agree' }
})
const mm = (v: number | null | undefined) =>
  v === null || v === undefined ? 'not measured' : preferences.quantity(v, 'mm', { decimals: 2 })
const pct = (v: number | null | undefined, none: string, sign = false) =>
  v === null || v === undefined ? none : `${preferences.number(v, { decimals: 1, sign })} %`
const sums = computed(() => {
  const d = judged.value?.distances
  return [
    ['Operate distance', mm(d?.operate_mm)],
    ['Off the expected one', pct(judged.value?.distanceErrorPct, 'none expected', true)],
    ['Release distance', mm(d?.release_mm)],
    ['Differential', pct(d?.differentialPct, 'not measured')],
    ['Repeats within', pct(d?.repeatPct, 'taken once')],
  ] as const
})
const byId = computed(() => new Map(check.value?.readings.map((r) => [r.id, r])))
</script>

<template>
  <HandOverFrame :check="check" :verdict="verdict" @choose="choose">
    <p v-for="fault in judged?.faults" :key="fault" class="bad">{{ fault }}</p>
    <FitDrawing v-if="known" :run="known.run" :output="known.reader.text('output')" />
    <dl v-if="judged" class="sums">
      <div v-for="[name, value] in sums" :key="name">
        <dt>{{ name }}</dt>
        <dd class="figures">{{ value }}</dd>
      </div>
    </dl>
    <template #readings>
      <v-table>
        <thead>
          <tr>
            <th>Target</th>
            <th class="num">Changed at</th>
            <th v-for="w in WITNESSES" :key="w.id">{{ w.name }}</th>
            <th class="num">Signal wire</th>
            <th>Says</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="j in judged?.readings" :key="j.reading.id">
            <td>{{ targetWords({ index: j.reading.pointIndex, percent: j.reading.target ? 100 : 0 }) }}</td>
            <td class="num read">
              {{ j.reading.distance_mm === undefined ? 'as placed' : mm(j.reading.distance_mm) }}
            </td>
            <td v-for="w in WITNESSES" :key="w.id" class="read">
              {{
                j.reading.seen[w.id] === undefined
                  ? 'not seen'
                  : w.id === 'controller'
                    ? j.reading.seen[w.id]
                      ? 'true'
                      : 'false'
                    : j.reading.seen[w.id]
                      ? 'lit'
                      : 'dark'
              }}
            </td>
            <td class="num read">
              {{
                j.reading.signalV === undefined
                  ? 'not metered'
                  : preferences.quantity(j.reading.signalV, 'V', { decimals: 1 })
              }}
            </td>
            <td>
              {{
                j.disagrees
                  ? `look ${FAULT_PLACES[j.disagrees].where}`
                  : j.volts === 'leads-exchanged'
                    ? 'as expected, leads exchanged'
                    : j.volts && j.volts !== 'agrees'
                      ? 'volts are off'
                      : 'as expected'
              }}
              <span class="visually-hidden">{{ byId.get(j.reading.id)?.by.name }}</span>
            </td>
          </tr>
        </tbody>
      </v-table>
    </template>
  </HandOverFrame>
</template>

<style scoped>
.sums {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(150px, 1fr));
  gap: 8px 24px;
  margin: 8px 0 16px;
}
.sums div {
  border-bottom: 1px solid var(--hairline);
  padding: 6px 0;
}
dt {
  color: var(--second);
  font-size: 14px;
}
dd {
  margin: 0;
}
.read {
  color: var(--signal);
}
</style>
