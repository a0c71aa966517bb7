<script setup lang="ts">
// The audit trail: who did what, when, newest first; a chain whose every link is held against the one before.
import type { AuditEntry, AuditPage, ListedPerson } from '@calm-loop/contract'
import { useDebounceFn } from '@vueuse/core'
import { computed, onMounted, reactive, ref, watch } from 'vue'
import { addressOf, call, type ApiProblem } from '../../api/client.ts'
import { dayWords } from '../../widgets/dates.ts'
import SealMark from '../../widgets/SealMark.vue'
import GrowingTable from '../../widgets/GrowingTable.vue'

const COLUMNS = ['Time UTC', 'Who', 'What', 'Loop', 'Details', 'Link'].map((title) => ({ title }))
const people = ref<ListedPerson[]>([])
const page = ref<AuditPage>()
const entries = ref<AuditEntry[]>([])
const says = ref('')
const busy = ref(false)
const filter = reactive({ person: '', action: '', tag: '', from: '', to: '' })
/** A day that is half typed is none yet. */
const isDay = (text: string) => /^\d{4}-\d\d-\d\d$/.test(text)
const query = computed(() =>
  Object.fromEntries(Object.entries(filter).filter(([k, v]) => (k === 'from' || k === 'to' ? isDay(v) : v))),
)

async function load(before?: number): Promise<void> {
  busy.value = true
  says.value = ''
  try {
    const found = await call('audit', { query: { ...query.value, ...(before ? { before } : {}) } })
    page.value = found
    entries.value = before ? [...entries.value, ...found.entries] : found.entries
  } catch (error) {
    says.value = (error as ApiProblem).message
  } finally {
    busy.value = false
  }
}
onMounted(async () => {
  people.value = await call('people').catch(() => [])
  await load()
})
watch(
  query,
  useDebounceFn(() => load(), 200),
)
const older = () => {
  if (page.value?.next && !busy.value) void load(page.value.next)
}
const time = (instant: string) => instant.slice(11, 19)
const actionWords = (action: string) => action.replaceAll('-', ' ')
/** Details as words: names and values, without the marks of the notation. */
const detailWords = (text: string) =>
  text
    .replace(/[{}"[\]]/g, '')
    .replaceAll(':', ' ')
    .replaceAll(',', ', ')
const chain = computed(() => page.value?.chain)
</script>

<template>
  <div class="place-head">
    <h1>Audit trail</h1>
    <v-btn variant="text" :href="addressOf('auditCsv', {}, query)" download>CSV</v-btn>
  </div>
  <p v-if="chain" class="chain" role="status" data-test="chain">
    <SealMark :standing="chain.brokenAt === null ? 'sealed' : 'broken'" wordless />
    <span v-if="chain.brokenAt === null">
      {{ chain.length }} entries, each holding the hash of the one before: none was changed or taken out.
    </span>
    <span v-else class="bad"
      >Stop: the chain is broken at entry {{ chain.brokenAt }}. Something was changed or taken out there.</span
    >
  </p>
  <div class="filters">
    <div class="entry">
      <label for="audit-person">Who</label>
      <v-select
        id="audit-person"
        v-model="filter.person"
        :items="[{ title: 'anyone', value: '' }, ...people.map((p) => ({ title: p.name, value: p.id }))]"
      />
    </div>
    <div class="entry">
      <label for="audit-action">What</label>
      <v-select
        id="audit-action"
        v-model="filter.action"
        :items="[
          { title: 'anything', value: '' },
          ...(page?.actions ?? []).map((a) => ({ title: actionWords(a), value: a })),
        ]"
      />
    </div>
    <div class="entry">
      <label for="audit-tag">Loop</label>
      <v-text-field id="audit-tag" v-model="filter.tag" placeholder="part of a tag" />
    </div>
    <div class="entry">
      <label for="audit-from">From</label>
      <v-text-field id="audit-from" v-model="filter.from" placeholder="such as 2026-11-01" />
    </div>
    <div class="entry">
      <label for="audit-to">To</label>
      <v-text-field id="audit-to" v-model="filter.to" placeholder="such as 2026-11-30" />
    </div>
  </div>
  <p v-if="says" class="bad" role="alert">{{ says }}</p>
  <div class="scroll">
    <GrowingTable :columns="COLUMNS" :items="entries" :key-of="(e) => e.id" @end="older">
      <template #row="{ item: e, at }">
        <tr :ref="at" :data-place="e.place">
          <td class="figures time">{{ dayWords(e.at.slice(0, 10)) }} {{ time(e.at) }}</td>
          <td>{{ e.by?.name ?? 'the installation' }}</td>
          <td>{{ actionWords(e.action) }}</td>
          <td>
            <router-link v-if="e.loop" :to="`/loops/${e.loop.id}`">{{ e.loop.tag }}</router-link>
          </td>
          <td class="small quiet details">{{ detailWords(e.details) }}</td>
          <td class="figures small">
            <SealMark v-if="!e.whole" standing="broken" />
            <span v-else :title="e.hash">{{ e.place }} · {{ e.hash.slice(0, 8) }}</span>
          </td>
        </tr>
      </template>
    </GrowingTable>
  </div>
  <p v-if="!entries.length && !busy" class="quiet">No entry is of this kind.</p>
  <v-btn v-if="page?.next" :loading="busy" @click="older">Older entries</v-btn>
</template>

<style scoped>
.chain {
  display: flex;
  gap: 12px;
  align-items: center;
}
.filters {
  display: grid;
  grid-template-columns: repeat(5, minmax(0, 1fr));
  gap: 4px 24px;
  margin-bottom: 12px;
}
.scroll {
  overflow-x: auto;
}
.time {
  white-space: nowrap;
}
.details {
  overflow-wrap: anywhere;
  max-width: 420px;
}
@media (max-width: 900px) {
  .filters {
    grid-template-columns: repeat(2, minmax(0, 1fr));
  }
}
</style>
