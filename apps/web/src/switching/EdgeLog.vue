<script setup lang="ts">
// The log of changes: what is on record, the CSV of it, and a file read in — its bad rows shown by line before
// anything is stored.
import { GAPS_LIMIT } from '@calm-loop/contract'
import { v7 as uuid } from 'uuid'
import { computed, ref, shallowRef } from 'vue'
import { addressOf, call, type ApiProblem } from '../api/client.ts'
import { useCount } from '../stores/count.ts'
import { useFolder } from '../stores/folder.ts'
import { useSession } from '../stores/session.ts'
import { moment } from '../widgets/dates.ts'
import type { FileRead } from '../workers/count.worker.ts'
import GrowingTable from '../widgets/GrowingTable.vue'
import { sure } from '@calm-loop/core/sure'

const COLUMNS = [
  { title: 'From' },
  { title: 'To' },
  { title: 'Changes', class: 'num' },
  { title: 'Origin' },
  { title: 'By' },
]
const count = useCount()
const folder = useFolder()
const session = useSession()
const input = ref<HTMLInputElement>()
const reading = ref<number>()
const read = shallowRef<FileRead & { name: string; id: string }>()
const says = ref('')
const done = ref('')
const busy = ref(false)
const at = (ms: number) => moment(new Date(ms).toISOString())
const overlap = computed(() => {
  const r = read.value
  if (!r || r.startMs === undefined || r.endMs === undefined) return undefined
  return count.heads.find((h) => h.startMs <= sure(r.endMs) && h.endMs >= sure(r.startMs))
})
const tooLong = computed(() => (read.value?.gaps.length ?? 0) > GAPS_LIMIT)
const n = (v: number) => v.toLocaleString('en-GB').replaceAll(',', ' ')

async function open(event: Event): Promise<void> {
  const file = (event.target as HTMLInputElement).files?.[0]
  if (!file) return
  read.value = undefined
  says.value = done.value = ''
  reading.value = 0
  try {
    read.value = { ...(await count.readFile(file, (share) => (reading.value = share))), name: file.name, id: uuid() }
  } catch (error) {
    says.value = `This file cannot be read: ${(error as Error).message}`
  } finally {
    reading.value = undefined
    sure(input.value).value = ''
  }
}
async function take(): Promise<void> {
  const r = sure(read.value)
  busy.value = true
  says.value = ''
  try {
    await call('addEdges', {
      params: { loopId: sure(folder.view).loop.id, trainId: r.id },
      body: {
        startMs: sure(r.startMs),
        startState: r.startState,
        gaps: r.gaps,
        origin: 'file',
        note: r.name.slice(0, 200),
      },
    })
    done.value = `${n(r.accepted)} rows of ${r.name} are on record.`
    read.value = undefined
    await folder.refresh()
    await count.load()
  } catch (error) {
    says.value = (error as ApiProblem).message
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <section aria-label="Log of changes">
    <div class="do">
      <v-btn variant="outlined" :href="addressOf('edgesCsv', { loopId: folder.view!.loop.id })" download
        >Every edge, CSV</v-btn
      >
      <template v-if="session.has('technician')">
        <v-btn variant="outlined" :loading="reading !== undefined" @click="input!.click()"
          >Read an edge log (CSV)</v-btn
        >
        <input
          ref="input"
          hidden
          type="file"
          accept=".csv,text/csv,text/plain"
          aria-label="Edge log"
          data-test="edge-file"
          @change="open"
        />
      </template>
    </div>
    <p class="quiet small">
      Two columns, time and state: 2027-03-12T14:02:07.250Z or seconds since 1970; 1 and 0, on and off, true and false.
    </p>
    <v-progress-linear v-if="reading !== undefined" :model-value="100 * reading" aria-label="Reading the file" />
    <p v-if="says" class="bad" role="alert">{{ says }}</p>
    <p v-if="done" role="status">{{ done }}</p>
    <div v-if="read" class="read" data-test="edge-report">
      <h3>{{ read.name }}: nothing is stored yet</h3>
      <p>
        <b class="figures">{{ n(read.accepted) }}</b> of {{ n(read.rows) }} rows can be taken<template
          v-if="read.unchanged"
          >, {{ n(read.unchanged) }} repeat the state and change nothing</template
        >; <b class="figures" :class="{ bad: read.badCount }">{{ n(read.badCount) }}</b> cannot.
        <template v-if="read.startMs !== undefined && read.endMs !== undefined"
          >From {{ at(read.startMs) }} to {{ at(read.endMs) }}.</template
        >
      </p>
      <p v-if="read.withoutZone" class="look">
        {{ n(read.withoutZone) }} times name no zone: they are read in this device’s own zone.
      </p>
      <div v-if="read.bad.length" class="scroll" tabindex="0" role="region" aria-label="Rows that cannot be taken">
        <v-table class="small">
          <thead>
            <tr>
              <th class="num">Line</th>
              <th>Why not</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="b in read.bad" :key="b.line">
              <td class="num">{{ b.line }}</td>
              <td>{{ b.reason }}</td>
            </tr>
          </tbody>
        </v-table>
      </div>
      <p v-if="read.badCount > read.bad.length" class="small quiet">The first {{ n(read.bad.length) }} are shown.</p>
      <p v-if="overlap" class="bad">
        Changes from {{ at(overlap.startMs) }} to {{ at(overlap.endMs) }} are on record already; a time is not counted
        twice. Cut the file, or leave it.
      </p>
      <p v-if="tooLong" class="bad">Longer than two million changes: cut it into parts.</p>
      <div class="do">
        <v-btn
          color="primary"
          variant="flat"
          :disabled="!read.accepted || !!overlap || tooLong"
          :loading="busy"
          data-test="take-edges"
          @click="take"
          >{{
            read.badCount ? `Take the ${n(read.accepted)} good rows only` : `Take all ${n(read.accepted)} rows`
          }}</v-btn
        >
        <v-btn variant="text" @click="read = undefined">Take nothing</v-btn>
      </div>
    </div>
    <h3>On record</h3>
    <GrowingTable v-if="count.heads.length" class="small" :columns="COLUMNS" :items="count.heads" :key-of="(h) => h.id">
      <template #row="{ item: h, at: row }">
        <tr :ref="row">
          <td>{{ at(h.startMs) }}</td>
          <td>{{ at(h.endMs) }}</td>
          <td class="num">{{ n(h.changes) }}</td>
          <td>
            {{
              h.practice ? 'practice at the bench' : h.origin === 'live' ? 'watched live; origin not recorded' : h.note
            }}
          </td>
          <td>{{ h.by.name }}</td>
        </tr>
      </template>
    </GrowingTable>
    <p v-else class="quiet">Nothing yet: record live, or read an edge log.</p>
  </section>
</template>

<style scoped>
h3 {
  margin: 16px 0 4px;
}
.read {
  border-top: 2px solid var(--action);
  border-bottom: 1px solid var(--hairline);
  padding-bottom: 12px;
  margin-top: 12px;
}
.scroll {
  max-height: 260px;
  overflow: auto;
  margin-bottom: 8px;
}
.look {
  color: var(--look);
}
</style>
