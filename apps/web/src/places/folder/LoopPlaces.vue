<script setup lang="ts">
// The verdict at every place that was read, and how sure it is: along the thread, the first that departs first.
import type { Check } from '@calm-loop/contract'
import { howRead, notChecked, ratioWords, ruleWords, verdictWords } from '@calm-loop/contract/judging'
import { isFailed, type LoopVerdict } from '@calm-loop/core/check'
import { computed, ref } from 'vue'
import { useFolder } from '../../stores/folder.ts'
import { usePreferences } from '../../stores/preferences.ts'
import BudgetRows from './BudgetRows.vue'

const props = defineProps<{ check: Check; loop: LoopVerdict }>()
const folder = useFolder()
const preferences = usePreferences()
const shown = ref(false)
const pct = (v: number, sign = true) => `${preferences.number(v, { decimals: 3, sign })} %`
const how = (at: string) => {
  const read = props.check.terms?.reads.find((r) => r.at === at)
  return (read && howRead(props.check, read)) || 'as shown'
}
const left = computed(() => {
  const known = folder.studyOfCheck(props.check)
  return known?.family === 'current' ? notChecked(props.check, known.thread) : []
})
</script>

<template>
  <section aria-label="Places" class="places">
    <v-table class="table">
      <thead>
        <tr>
          <th>Place</th>
          <th>Verdict</th>
          <th class="num">Largest error</th>
          <th class="num">Tolerance</th>
          <th class="num">Tolerance to uncertainty</th>
          <th>Read with</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="w in loop.witnesses" :key="w.witness.id" :data-place-verdict="w.witness.id">
          <td>{{ w.witness.name }}</td>
          <td :class="isFailed(w.verdict) ? 'bad' : 'good'">{{ verdictWords[w.verdict] }}</td>
          <td class="num read">{{ pct(w.maxErrorPct) }}</td>
          <td class="num">±{{ pct(w.tolerancePct, false) }}</td>
          <td class="num">{{ ratioWords(w.ratio) }}</td>
          <td>{{ how(w.witness.id) }}</td>
        </tr>
      </tbody>
    </v-table>
    <p v-if="check.terms" class="small quiet">
      {{ ruleWords[check.terms.rule] }}
      <template v-if="left.length">Not checked: {{ left.join(', ') }}.</template>
    </p>
    <details
      v-if="loop.witnesses.some((w) => w.u_pct > 0)"
      @toggle="shown = ($event.target as HTMLDetailsElement).open"
    >
      <summary>Uncertainty, row by row</summary>
      <BudgetRows v-if="shown" :loop="loop" />
    </details>
  </section>
</template>

<style scoped>
.places {
  margin: 12px 0;
}
.table {
  overflow-x: auto;
}
.good {
  color: var(--action);
}
.read {
  color: var(--signal);
}
summary {
  min-height: 44px;
  padding: 10px 0;
  cursor: pointer;
}
</style>
