<script setup lang="ts">
// The budget of one reading at one place: each row with what it contributes, and what they come to together.
import { budgetOf, pointWords, standardUncertainty, type BudgetRow, type LoopVerdict } from '@calm-loop/core/check'
import { computed, ref } from 'vue'
import { usePreferences } from '../../stores/preferences.ts'
import ChoiceField from '../../widgets/ChoiceField.vue'

const props = defineProps<{ loop: LoopVerdict }>()
const preferences = usePreferences()
const known = computed(() =>
  props.loop.judged.flatMap((j) =>
    j.knots
      .filter((k) => k.u_pct > 0)
      .map((knot) => ({ id: `${j.reading.id} ${knot.knotId}`, at: pointWords(j.reading), knot })),
  ),
)
const chosen = ref('')
/** The least sure one until another is chosen. */
const shown = computed(
  () =>
    known.value.find((k) => k.id === chosen.value) ??
    known.value.reduce((a, b) => (b.knot.u_pct > a.knot.u_pct ? b : a), known.value[0]!),
)
const budget = computed(() => budgetOf(shown.value.knot))
const options = computed(() => known.value.map((k) => ({ value: k.id, label: `${k.knot.name}, ${k.at}` })))
const pct = (v: number) => `${preferences.number(v, { decimals: 4 })} %`
const taken = (row: BudgetRow) =>
  row.distribution === 'normal' ? `normal, k = ${row.coverage ?? 2}` : row.distribution
</script>

<template>
  <div v-if="budget">
    <ChoiceField label="Of which reading" :options="options" :value="shown.id" @choose="chosen = $event" />
    <v-table class="rows">
      <thead>
        <tr>
          <th>From</th>
          <th class="num">Value</th>
          <th>Taken as</th>
          <th class="num">Standard uncertainty, of span</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="row in shown.knot.rows" :key="row.what">
          <td>{{ row.what }}</td>
          <td class="num">±{{ preferences.quantity(row.value, row.unit, { decimals: shown.knot.decimals + 2 }) }}</td>
          <td>{{ taken(row) }}</td>
          <td class="num">{{ pct(standardUncertainty(row)) }}</td>
        </tr>
        <tr class="sum">
          <td>Combined; expanded with k = {{ preferences.number(budget.coverageFactor, { decimals: 2 }) }}</td>
          <td class="num">±{{ pct(budget.expanded) }}</td>
          <td></td>
          <td class="num">{{ pct(budget.combined) }}</td>
        </tr>
      </tbody>
    </v-table>
  </div>
</template>

<style scoped>
.sum {
  font-weight: 650;
}
</style>
