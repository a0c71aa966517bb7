<script setup lang="ts">
// The range in steps from 0 to 100 %, at every knot, to be printed and pinned up.
import { knotScales, spread } from '@calm-loop/core/thread'
import { computed, ref } from 'vue'
import { useFolder } from '../stores/folder.ts'
import { usePreferences } from '../stores/preferences.ts'
import { useThread } from '../stores/thread.ts'
import { today, dayWords } from '../widgets/dates.ts'
import ChoiceField from '../widgets/ChoiceField.vue'

const folder = useFolder()
const thread = useThread()
const preferences = usePreferences()
const step = ref('10')
const STEPS = ['5', '10', '12.5', '20', '25'].map((value) => ({ value, label: `${value} %` }))
const percents = computed(() => {
  const list: number[] = []
  for (let p = 0; p < 100 - 1e-9; p += Number(step.value)) list.push(p)
  return [...list, 100]
})
const rows = computed(() => {
  const t = thread.thread
  if (!t) return []
  const i = t.knots.findIndex((k) => k.role === 'digital')
  const { low, high } = knotScales(t)[i] ?? {}
  if (low === undefined || high === undefined) return []
  return percents.value.map((percent) => ({
    percent,
    cells: spread(t, t.knots[i]!.id, low + (percent / 100) * (high - low)).map((v, k) =>
      v.known ? preferences.number(v.value, { decimals: t.knots[k]!.decimals }) : v.says,
    ),
  }))
})
const print = () => window.print()
</script>

<template>
  <section aria-label="Table of the range" class="print-only-this">
    <h2 class="visually-hidden">Table of the range</h2>
    <div class="head no-print">
      <ChoiceField label="Steps" :options="STEPS" :value="step" @choose="step = $event" />
      <v-btn data-test="print" @click="print">Print</v-btn>
    </div>
    <p class="printed">
      <b class="figures">{{ folder.view!.loop.tag }}</b> {{ folder.view!.loop.service }}, {{ dayWords(today()) }}
    </p>
    <v-table v-if="rows.length" data-test="range-table">
      <thead>
        <tr>
          <th class="num">%</th>
          <th v-for="k in thread.thread!.knots" :key="k.id" class="num">
            {{ k.name }}<br /><span class="quiet">{{
              preferences.quantity(0, k.unit).replace(/^[\d.,]+\s*/, '')
            }}</span>
          </th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="row in rows" :key="row.percent">
          <td class="num">{{ preferences.number(row.percent, { decimals: 1, trim: true }) }}</td>
          <td v-for="(c, i) in row.cells" :key="i" class="num">{{ c }}</td>
        </tr>
      </tbody>
    </v-table>
    <p v-else class="look">The table needs the range at both ends.</p>
  </section>
</template>

<style scoped>
.head {
  display: flex;
  gap: 24px;
  align-items: center;
}
.head > :deep(.entry) {
  width: 160px;
}
.look {
  color: var(--look);
}
.printed {
  margin: 8px 0;
}
</style>
<style>
@media print {
  body * {
    visibility: hidden;
  }
  .print-only-this,
  .print-only-this * {
    visibility: visible;
  }
  .print-only-this {
    position: absolute;
    inset: 0 0 auto 0;
  }
  .print-only-this .no-print {
    display: none !important;
  }
}
</style>
