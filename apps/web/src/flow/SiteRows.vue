<script setup lang="ts">
// The site's own rows of the tables: chosen, they fill the entries; kept, they are there for the next point.
import type { SiteRow } from '@calm-loop/contract'
import { entryFrom } from '@calm-loop/core/quantity'
import { computed, onMounted, ref } from 'vue'
import { useFolder } from '../stores/folder.ts'
import { useSession } from '../stores/session.ts'
import { useWork } from '../stores/work.ts'
import WordsField from '../widgets/WordsField.vue'
import { sure } from '@calm-loop/core/sure'

/** A row that fills entries; buffers are chosen where they are used. */
type Table = Exclude<SiteRow['table'], 'buffer'>
const props = defineProps<{ tables: readonly Table[] }>()
const folder = useFolder()
const session = useSession()
const work = useWork()
onMounted(() => void work.loadRows())
const NAMES = {
  material: 'pipe material',
  liner: 'liner',
  liquid: 'liquid',
  gas: 'gas',
  pair: 'transducer pair',
  dielectric: 'liquid at a probe',
  fill: 'fill of a leg',
} as const
/** The entries that a row of each table is made of. */
const KEYS = {
  material: ['wallSpeed'],
  liner: ['linerSpeed'],
  liquid: ['ownSpeed', 'ownDensity', 'ownViscosity'],
  gas: ['composition'],
  pair: ['wedgeSpeed', 'wedgeAngle'],
  dielectric: ['dielectric'],
  fill: ['legSg'],
} as const
const CHOICE = {
  material: 'material',
  liner: 'liner',
  liquid: 'liquid',
  gas: 'gas',
  pair: 'transducer',
  dielectric: 'liquid',
  fill: 'legFill',
} as const
const rows = computed(() =>
  work.rows.filter((r): r is SiteRow & { table: Table } => props.tables.some((t) => t === r.table)),
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
    (t) => folder.entries[CHOICE[t]]?.typed === 'own' && KEYS[t].every((k) => folder.entries[k]?.typed.trim()),
  ),
)
const name = ref('')
const source = ref('')
async function keep(table: Table): Promise<void> {
  const fills = Object.fromEntries([CHOICE[table], ...KEYS[table]].map((k) => [k, folder.entries[k]!.typed]))
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
        <span class="quiet small">{{ NAMES[row.table] }}, {{ row.source }}, by {{ row.by.name }}</span>
        <v-btn v-if="session.has('technician')" variant="text" @click="fill(row)">Fill it in</v-btn>
      </li>
    </ul>
    <form v-for="t in session.hasDuty('rows') ? own : []" :key="t" class="keep" @submit.prevent="keep(t)">
      <WordsField :label="`Keep this ${NAMES[t]} for the site, as`" :value="name" @typed="name = $event" />
      <WordsField label="Where its figures come from" :value="source" @typed="source = $event" />
      <v-btn type="submit" :disabled="!name.trim() || !source.trim()">Keep the row</v-btn>
    </form>
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
