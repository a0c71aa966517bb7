<script setup lang="ts">
// The register: every loop in one line, with how its last check came out drawn against its tolerance.
import { loopStateWords, LoopState } from '@calm-loop/contract'
import { mdiDownload, mdiFileMultipleOutline, mdiPlus, mdiQrcode, mdiUpload } from '@mdi/js'
import { useDebounceFn } from '@vueuse/core'
import { computed, onMounted, ref, watch } from 'vue'
import { useKinds } from '../../stores/kinds.ts'
import { useRegister } from '../../stores/register.ts'
import { useSession } from '../../stores/session.ts'
import { dayWords, today } from '../../widgets/dates.ts'
import SealMark from '../../widgets/SealMark.vue'
import ErrorGlance from './ErrorGlance.vue'
import ImportFile from './ImportFile.vue'
import LabelSheet from './LabelSheet.vue'
import GrowingTable from '../../widgets/GrowingTable.vue'

const COLUMNS = [
  { title: 'Tag' },
  { title: 'Service' },
  { title: 'Area', class: 'area' },
  { title: 'State' },
  { title: 'Last error, %' },
  { title: 'Next due' },
]
const register = useRegister()
const session = useSession()
const importing = ref(false)
const labelling = ref(false)
const ofFilter = computed(() => {
  const { q, area, state } = register.filter
  return q || area || state ? 'The loops of this filter' : 'All loops'
})
const states = [
  { value: '', label: 'any state' },
  ...LoopState.options.map((value) => ({ value: value, label: loopStateWords[value] })),
  { value: 'overdue', label: 'overdue' },
]
const kinds = useKinds()
const isDiscrete = (id: string) => kinds.of(id)?.family === 'switch'
const kindName = (id: string) => kinds.of(id)?.name ?? ''

onMounted(() => Promise.all([register.load(), kinds.load()]))
watch(
  () => ({ ...register.filter }),
  useDebounceFn(() => register.load(), 150),
)
const further = () => {
  if (register.next && !register.loading) void register.load(true)
}
</script>

<template>
  <div class="place-head">
    <h1>Loops</h1>
    <div class="do">
      <v-btn v-if="session.has('technician')" :prepend-icon="mdiUpload" variant="text" @click="importing = true"
        >Import</v-btn
      >
      <v-btn :prepend-icon="mdiDownload" variant="text" href="/api/loops.csv" download>CSV</v-btn>
      <v-btn :prepend-icon="mdiQrcode" variant="text" @click="labelling = true">Labels</v-btn>
      <v-btn :prepend-icon="mdiFileMultipleOutline" variant="text" to="/many">Many at once</v-btn>
      <v-btn v-if="session.has('technician')" :prepend-icon="mdiPlus" color="primary" variant="flat" to="/loops/new"
        >New loop</v-btn
      >
    </div>
  </div>
  <div class="filters">
    <div class="entry wide">
      <v-text-field
        v-model="register.filter.q"
        aria-label="Find by tag, service or area"
        placeholder="tag, service or area"
        clearable
        @click:clear="register.filter.q = ''"
      />
    </div>
    <div class="entry">
      <v-select
        v-model="register.filter.area"
        aria-label="Area"
        :items="[{ value: '', title: 'every area' }, ...register.areas.map((a) => ({ value: a, title: a }))]"
      />
    </div>
    <div class="entry">
      <v-select v-model="register.filter.state" aria-label="State" :items="states" item-title="label" />
    </div>
  </div>
  <p v-if="register.problem" class="bad" role="alert">{{ register.problem }}</p>
  <GrowingTable class="register" :columns="COLUMNS" :items="register.loops" :key-of="(loop) => loop.id" @end="further">
    <template #row="{ item: loop, at }">
      <tr :ref="at" class="loop">
        <td>
          <router-link :to="`/loops/${loop.id}`" class="figures tag">{{ loop.tag }}</router-link>
        </td>
        <td>
          {{ loop.service }}
          <div class="small quiet">{{ kindName(loop.kind) }}</div>
        </td>
        <td class="area">{{ loop.area }}</td>
        <td :class="`state ${loop.state}`">
          <SealMark v-if="loop.state === 'seal-broken'" standing="broken" />
          <template v-else>{{ loopStateWords[loop.state] }}</template>
        </td>
        <td>
          <ErrorGlance :error="loop.lastErrorPct" :tolerance="loop.tolerancePct" :discrete="isDiscrete(loop.kind)" />
        </td>
        <td class="due">
          <template v-if="loop.nextDue"
            >{{ dayWords(loop.nextDue) }}
            <div v-if="loop.nextDue < today()" class="overdue small">overdue</div></template
          >
          <span v-else class="quiet">after the first check</span>
        </td>
      </tr>
    </template>
  </GrowingTable>
  <p v-if="!register.loops.length && !register.loading && !register.problem" class="quiet none">
    {{
      register.filter.q || register.filter.area || register.filter.state
        ? 'No loop matches. Clear a filter above.'
        : 'No loop has been entered yet.'
    }}
  </p>
  <p class="small quiet" role="status">
    {{ register.loading ? 'reading the register' : register.next ? 'more below' : `${register.loops.length} loops` }}
  </p>
  <ImportFile v-model="importing" @done="register.load()" />
  <LabelSheet v-if="labelling" v-model="labelling" :of="ofFilter" :query="{ ...register.filter }" />
</template>

<style scoped>
.filters {
  display: flex;
  gap: 24px;
  margin-bottom: 16px;
}
.entry {
  flex: 0 1 190px;
}
.wide {
  flex: 1 1 260px;
}
.register :deep(td) {
  vertical-align: middle;
}
.tag {
  display: inline-block;
  padding: 10px 0;
  font-size: 18px;
  font-weight: 650;
  text-decoration: none;
  white-space: nowrap;
}
.tag:hover {
  text-decoration: underline;
}
.state.half-entered,
.overdue {
  color: var(--look);
}
.state.failed,
.state.stopped,
.state.not-fit {
  color: var(--stop);
  font-weight: 650;
}
.state.passed {
  color: var(--action);
}
.due {
  white-space: nowrap;
}
.none {
  padding: 32px 0;
}
@media (max-width: 900px) {
  .register :deep(.area) {
    display: none;
  }
}
@media (max-width: 560px) {
  .filters {
    flex-wrap: wrap;
    gap: 4px 24px;
  }
  .entry {
    flex: 1 1 140px;
  }
  .wide {
    flex-basis: 100%;
  }
}
</style>
