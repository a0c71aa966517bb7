<script setup lang="ts">
// Every table that is worked with, with where its figures come from; beside them the rows of the site's own.
import {
  builtInTables,
  kindsChoosing,
  OWN_ROWS,
  standingRows,
  type OwnTable,
  type TableRow,
} from '@calm-loop/core/tables'
import type { SiteRow } from '@calm-loop/contract'
import { computed, onMounted, ref, shallowRef } from 'vue'
import { useSession } from '../../stores/session.ts'
import { useWork } from '../../stores/work.ts'
import ChoiceField from '../../widgets/ChoiceField.vue'
import WordsField from '../../widgets/WordsField.vue'
import OwnRowForm from './OwnRowForm.vue'
import RowFile from './RowFile.vue'
import RowUses from './RowUses.vue'

const work = useWork()
const session = useSession()
onMounted(() => void work.loadRows())
const tables = builtInTables()
const id = ref(tables[0]?.id ?? '')
const q = ref('')
const table = computed(() => tables.find((t) => t.id === id.value) ?? tables[0]!)
const plain = (text: string) => text.toLowerCase()
const has = (row: TableRow) => row.cells.some((c) => plain(c).includes(plain(q.value.trim())))
const shown = computed(() => table.value.rows.filter(has))
/** Other tables in which what is looked for stands. */
const elsewhere = computed(() =>
  q.value.trim() ? tables.filter((t) => t.id !== id.value && t.rows.some(has)).map((t) => t.name) : [],
)
const own = computed<OwnTable | undefined>(() => table.value.own)
const ownRows = computed(() =>
  standingRows(work.rows.filter((r) => r.table === own.value)).filter(({ row }) =>
    plain(row.name).includes(plain(q.value.trim())),
  ),
)
/** What is being entered: anew, from another, or in place of one. */
const editing = shallowRef<{
  name: string
  source: string
  fills: Readonly<Record<string, string>>
  follows?: string
}>()
const add = () => (editing.value = { name: '', source: '', fills: {} })
const copy = (row: TableRow) =>
  (editing.value = { name: `${row.cells[0] ?? ''}, ours`, source: '', fills: { ...row.fills } })
const change = (row: SiteRow) =>
  (editing.value = { name: row.name, source: row.source, fills: row.fills, follows: row.id })
/** Whose loops are looked for. */
const asked = shallowRef<{ name: string; row?: SiteRow; builtIn?: TableRow }>()
const timesWords = (n: number) => (n === 0 ? '' : n === 1 ? ', changed once' : `, changed ${n} times`)
const pick = (to: string) => {
  id.value = to
  editing.value = asked.value = undefined
}
</script>

<template>
  <div class="place-head">
    <div>
      <h1>Tables</h1>
      <p class="lead">What is worked with, and where each figure comes from; beside it the rows of this site.</p>
    </div>
  </div>
  <div class="find">
    <ChoiceField
      label="Table"
      :options="tables.map((t) => ({ value: t.id, label: t.name }))"
      :value="id"
      @choose="pick"
    />
    <WordsField label="Find in it" :value="q" @typed="q = $event" />
  </div>
  <p v-if="elsewhere.length" class="quiet small" role="status">It stands in: {{ elsewhere.join(', ') }}.</p>
  <section v-if="own" aria-labelledby="own-rows">
    <h2 id="own-rows">This site’s own</h2>
    <p v-if="!ownRows.length" class="quiet">
      None yet. A row of one’s own fills the entries of a loop where it is chosen.
    </p>
    <ul v-else class="own">
      <li v-for="{ row, before } in ownRows" :key="row.id" :data-own-row="row.name">
        <b>{{ row.name }}</b>
        <span class="figures">{{ OWN_ROWS[own].figures.map((f) => row.fills[f.key] ?? '').join(', ') }}</span>
        <span class="quiet small"> {{ row.source }}; by {{ row.by.name }}{{ timesWords(before.length) }} </span>
        <span class="do">
          <v-btn v-if="session.hasDuty('rows')" variant="text" @click="change(row)">Change</v-btn>
          <v-btn variant="text" @click="asked = { name: row.name, row }">Loops that use it</v-btn>
        </span>
      </li>
    </ul>
    <div v-if="session.hasDuty('rows')" class="do">
      <v-btn data-test="add-row" @click="add">Add a row</v-btn>
      <RowFile :table="own" :rows="ownRows.map((r) => r.row)" />
    </div>
    <OwnRowForm
      v-if="editing"
      :key="editing.follows ?? editing.name"
      :table="own"
      :from="editing"
      @left="editing = undefined"
    />
  </section>
  <RowUses
    v-if="asked"
    :key="asked.row?.id ?? asked.name"
    :name="asked.name"
    :of="
      asked.row
        ? { rowId: asked.row.id }
        : {
            choice: table.choice ?? '',
            value: asked.builtIn?.id ?? '',
            kinds: [...kindsChoosing(table.choice ?? '', asked.builtIn?.id ?? '')],
          }
    "
  />
  <section aria-labelledby="built-in">
    <h2 id="built-in">{{ table.name }}</h2>
    <p class="quiet source" data-test="source">{{ table.source }}</p>
    <div class="scroll" tabindex="0" role="region" :aria-label="table.name">
      <table>
        <thead>
          <tr>
            <th v-for="h in table.heads" :key="h" scope="col">{{ h }}</th>
            <th scope="col"><span class="visually-hidden">What can be done with it</span></th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="row in shown" :key="row.id">
            <td
              v-for="(c, i) in row.cells"
              :key="i"
              :class="{ figures: i > 0 }"
              :data-head="i > 0 ? table.heads[i] : undefined"
            >
              {{ c }}<span v-if="i === 0 && row.source" class="quiet small of">{{ row.source }}</span>
            </td>
            <td class="do">
              <v-btn v-if="own && row.fills && session.hasDuty('rows')" variant="text" @click="copy(row)">Copy</v-btn>
              <v-btn
                v-if="table.choice && kindsChoosing(table.choice, row.id).length"
                variant="text"
                :aria-label="`Loops that use ${row.cells[0]}`"
                @click="asked = { name: row.cells[0] ?? '', builtIn: row }"
                >Loops</v-btn
              >
            </td>
          </tr>
        </tbody>
      </table>
    </div>
    <p v-if="!shown.length" class="quiet">Nothing of that stands in it.</p>
  </section>
  <p v-if="work.problem" class="bad" role="alert">{{ work.problem }}</p>
</template>

<style scoped>
section {
  margin-top: 24px;
}
.find {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(260px, 1fr));
  gap: 0 32px;
}
.own {
  list-style: none;
  margin: 0;
  padding: 0;
}
.own li {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px 20px;
  min-height: 48px;
  border-top: 1px solid var(--hairline);
}
.own .do {
  margin-left: auto;
}
.source {
  max-width: 90ch;
}
.scroll {
  overflow-x: auto;
  position: relative;
}
table {
  width: 100%;
  border-collapse: collapse;
}
th,
td {
  padding: 6px 16px 6px 0;
  text-align: left;
  vertical-align: middle;
}
tbody tr {
  border-top: 1px solid var(--hairline);
}
td.do {
  white-space: nowrap;
  text-align: right;
}
.of {
  display: block;
}
@media (max-width: 560px) {
  thead {
    display: none;
  }
  tbody tr,
  tbody td {
    display: block;
    text-align: left;
  }
  tbody td {
    padding: 2px 0;
    overflow-wrap: anywhere;
  }
  td[data-head]::before {
    content: attr(data-head) ': ';
    color: var(--second);
  }
  td.do {
    white-space: normal;
  }
}
</style>
