<script setup lang="ts">
// Lines of a list that are refused, each with every reason, and what was written otherwise; all of them as a file too.
import type { RefusedLine } from '@calm-loop/core/intake'
import Papa from 'papaparse'
import { computed, ref } from 'vue'
import { keepAs } from '../../widgets/files.ts'

const props = defineProps<{
  refused: readonly RefusedLine[]
  notes: readonly { readonly line: number; readonly note: string }[]
  name: string
}>()
const STEP = 50
const shown = ref(STEP)
const some = computed(() => [...props.refused].sort((a, b) => a.line - b.line).slice(0, shown.value))
const MOST_NOTES = 100
function saveAll(): void {
  const rows = props.refused.map(({ line, tag, why }) => ({ line: line || '', tag, why: why.join(' ') }))
  keepAs(`${props.name} refused.csv`, Papa.unparse(rows, { escapeFormulae: true }), 'text/csv')
}
</script>

<template>
  <div v-if="refused.length" class="scroll">
    <table data-test="refused">
      <caption class="visually-hidden">
        Refused lines
      </caption>
      <thead>
        <tr>
          <th scope="col">Line</th>
          <th scope="col">Tag</th>
          <th scope="col">Why</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="r in some" :key="`${r.line} ${r.tag}`">
          <td class="figures">{{ r.line || '—' }}</td>
          <td class="figures">{{ r.tag || '—' }}</td>
          <td>{{ r.why.join(' ') }}</td>
        </tr>
      </tbody>
    </table>
  </div>
  <div v-if="refused.length" class="do">
    <v-btn v-if="shown < refused.length" variant="text" @click="shown += STEP * 4">
      Show more of {{ refused.length }}
    </v-btn>
    <v-btn variant="text" @click="saveAll">All refused lines as CSV</v-btn>
  </div>
  <details v-if="notes.length">
    <summary>
      {{ notes.length }} {{ notes.length === 1 ? 'thing is' : 'things are' }} written otherwise or left out
    </summary>
    <ul>
      <li v-for="(n, i) in notes.slice(0, MOST_NOTES)" :key="i" class="small">line {{ n.line }}: {{ n.note }}</li>
      <li v-if="notes.length > MOST_NOTES" class="small quiet">and {{ notes.length - MOST_NOTES }} more</li>
    </ul>
  </details>
</template>

<style scoped>
.scroll {
  overflow-x: auto;
}
td,
th {
  padding: 6px 16px 6px 0;
  text-align: left;
  vertical-align: top;
}
td.figures {
  white-space: nowrap;
}
tbody tr {
  border-top: 1px solid var(--hairline);
}
summary {
  min-height: 44px;
  cursor: pointer;
}
</style>
