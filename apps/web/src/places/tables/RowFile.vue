<script setup lang="ts">
// The site's own rows of a table as CSV: taken along, and brought in again; what stands here is not added twice.
import type { SiteRow } from '@calm-loop/contract'
import { OWN_ROWS, type OwnTable } from '@calm-loop/core/tables'
import Papa from 'papaparse'
import { computed, ref } from 'vue'
import { useWork } from '../../stores/work.ts'
import { keepAs } from '../../widgets/files.ts'
import PickFile from '../../widgets/PickFile.vue'

const props = defineProps<{ table: OwnTable; rows: readonly SiteRow[] }>()
const work = useWork()
const says = ref('')
const heads = computed(() => ['name', ...OWN_ROWS[props.table].figures.map((f) => f.key), 'source'])
const MOST = 500
function save(): void {
  const lines = props.rows.map((r) => [
    r.name,
    ...OWN_ROWS[props.table].figures.map((f) => r.fills[f.key] ?? ''),
    r.source,
  ])
  keepAs(`${OWN_ROWS[props.table].name}.csv`, `\ufeff${Papa.unparse([heads.value, ...lines])}`, 'text/csv')
}
async function bring(file: File): Promise<void> {
  const { data } = Papa.parse<Record<string, string>>((await file.text()).replace(/^\ufeff/, ''), {
    ...{ header: true, skipEmptyLines: true, transformHeader: (h: string) => h.trim() },
  })
  const { choice, figures } = OWN_ROWS[props.table]
  const wrong = data.flatMap((row, i) => (heads.value.every((h) => row[h]?.trim()) ? [] : [i + 2]))
  if (!data.length || data.length > MOST || wrong.length) {
    const why = wrong.length ? `line ${wrong.slice(0, 10).join(', ')} lacks something` : `it has ${data.length} rows`
    says.value = `Nothing was kept: ${why}. Each row has ${heads.value.join(', ')}.`
    return
  }
  let added = 0
  for (const row of data) {
    const fills = { [choice]: 'own', ...Object.fromEntries(figures.map((f) => [f.key, (row[f.key] ?? '').trim()])) }
    const [name, source] = [(row['name'] ?? '').trim().slice(0, 80), (row['source'] ?? '').trim().slice(0, 200)]
    const before = props.rows.find((r) => r.name === name)
    if (before && before.source === source && JSON.stringify(before.fills) === JSON.stringify(fills)) continue
    const body = { table: props.table, name, source, fills, ...(before ? { follows: before.id } : {}) }
    if (!(await work.addRow(body))) break
    added++
  }
  says.value = `${added} of ${data.length} rows were new or other than before, and are kept.`
}
</script>

<template>
  <v-btn variant="text" :disabled="!rows.length" @click="save">As CSV</v-btn>
  <PickFile label="Bring rows in from CSV" accept=".csv,text/csv" @picked="bring" />
  <p v-if="says" role="status" class="small">{{ says }}</p>
</template>
