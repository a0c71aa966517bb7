<script setup lang="ts">
// The site's own rows of the tables: chosen, they fill the entries; kept, they are there for the next point.
import type { SiteRow } from '@calm-loop/contract'
import { entryFrom } from '@calm-loop/core/quantity'
import { OWN_ROWS, standingRows, type OwnTable } from '@calm-loop/core/tables'
import { computed, onMounted, ref } from 'vue'
import { useFolder } from '../stores/folder.ts'
import { useSession } from '../stores/session.ts'
import { useWork } from '../stores/work.ts'
import WordsField from '../widgets/WordsField.vue'
import { sure } from '@calm-loop/core/sure'

const props = defineProps<{ tables: readonly OwnTable[] }>()
const folder = useFolder()
const session = useSession()
const work = useWork()
onMounted(() => void work.loadRows())
/** The newest of each: what was kept before it stays on record. */
const rows = computed(() =>
  standingRows(work.rows)
    .map(({ row }) => row)
    .filter((r): r is SiteRow & { table: OwnTable } => props.tables.some((t) => t === r.table)),
)
function fill(row: SiteRow): void {
  for (const [key, typed] of Object.entries(row.fills)) {
    const field = sure(folder.kind).fields.find((f) => f.key === key)
    if (field) folder.set(key, field.type === 'quantity' ? entryFrom(typed, field) : { typed })
  }
}
/** What could be kept now: a table whose choice is “own” and whose figures are there. */
const own = computed(() =>
  props.tables.filter(
    (t) =>
      folder.entries[OWN_ROWS[t].choice]?.typed === 'own' &&
      OWN_ROWS[t].figures.every(({ key }) => folder.entries[key]?.typed.trim()),
  ),
)
const name = ref('')
const source = ref('')
async function keep(table: OwnTable): Promise<void> {
  const fills = Object.fromEntries(
    [OWN_ROWS[table].choice, ...OWN_ROWS[table].figures.map((f) => f.key)].map((k) => [k, folder.entries[k]!.typed]),
  )
  if (await work.addRow({ table, name: name.value.trim(), source: source.value.trim(), fills }))
    name.value = source.value = ''
}
</script>

<template>
  <details v-if="rows.length || own.length" class="rows">
    <summary>The site’s own rows ({{ rows.length }})</summary>
    <ul>
      <li v-for="row in rows" :key="row.id">
        <b>{{ row.name }}</b>
        <span class="quiet small">{{ OWN_ROWS[row.table].name }}, {{ row.source }}, by {{ row.by.name }}</span>
        <v-btn v-if="session.has('technician')" variant="text" @click="fill(row)">Fill it in</v-btn>
      </li>
    </ul>
    <form v-for="t in session.hasDuty('rows') ? own : []" :key="t" class="keep" @submit.prevent="keep(t)">
      <WordsField :label="`Keep this ${OWN_ROWS[t].name} for the site, as`" :value="name" @typed="name = $event" />
      <WordsField label="Where its figures come from" :value="source" @typed="source = $event" />
      <v-btn type="submit" :disabled="!name.trim() || !source.trim()">Keep the row</v-btn>
    </form>
    <p class="small"><router-link to="/tables" class="link">All tables, with their sources</router-link></p>
    <p v-if="work.problem" class="bad" role="alert">{{ work.problem }}</p>
  </details>
</template>

<style scoped>
summary {
  min-height: 44px;
  display: list-item;
  padding: 10px 0;
  cursor: pointer;
}
ul {
  list-style: none;
  padding: 0;
}
.keep {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 24px;
  align-items: center;
}
</style>
