<script setup lang="ts">
// Test equipment with its own due dates; what is expired is said so.
import { isSupply } from '@calm-loop/core/round'
import type { Gear } from '@calm-loop/contract'
import { v7 as uuid } from 'uuid'
import { computed, defineAsyncComponent, onMounted, ref } from 'vue'
import { call, type ApiProblem } from '../../api/client.ts'
import { useSession } from '../../stores/session.ts'
import { dayWords, today } from '../../widgets/dates.ts'
import GradeMark from '../../widgets/GradeMark.vue'
import WordsField from '../../widgets/WordsField.vue'
import RangeFigures from './RangeFigures.vue'
import GrowingTable from '../../widgets/GrowingTable.vue'
import WorkTabs from '../../widgets/WorkTabs.vue'
import ElectrodeShelf from './ElectrodeShelf.vue'
import { useRoute } from 'vue-router'

const columns = computed(() => [
  ...['Equipment', 'Measures', 'Range', 'Uncertainty', 'Due'].map((title) => ({ title })),
  ...(session.hasDuty('kit') ? [{ title: 'Change', hidden: true }] : []),
])
const PieceRecord = defineAsyncComponent(() => import('./PieceRecord.vue'))
const session = useSession()
const route = useRoute()
const WORKS = [
  { id: 'equipment', name: 'Equipment' },
  { id: 'electrodes', name: 'Electrodes' },
]
const piece = computed(() => (typeof route.query['piece'] === 'string' ? route.query['piece'] : ''))
const kit = ref<Gear[]>([])
const editing = ref<Gear>()
const says = ref('')
const load = async () => (kit.value = await call('gear'))
onMounted(() => load().catch((error: ApiProblem) => (says.value = error.message)))
const blank = (): Gear => ({ id: uuid(), name: '', serial: '', measures: '', range: '', uncertainty: '', due: '' })
const FIELDS = [
  ['name', 'Name', 'What it is called here, such as Loop meter L1.'],
  ['serial', 'Serial number', ''],
  ['measures', 'Measures', 'Current, voltage, level …'],
  ['range', 'Range', ''],
  ['uncertainty', 'Uncertainty', 'As its certificate gives it, with k.'],
  ['certificate', 'Its certificate’s number', 'Printed on every certificate that it is used for.'],
  ['calibrated', 'Calibrated on', ''],
  ['due', 'Calibration due', ''],
] as const
const isDay = (key: string) => key === 'due' || key === 'calibrated'
/** A text that may be left out is left out where it is empty. */
function put(key: (typeof FIELDS)[number][0], text: string): void {
  if (!editing.value) return
  const { certificate, calibrated, ...rest } = editing.value
  const optional = { certificate, calibrated, [key]: text }
  const kept = Object.fromEntries(
    Object.entries(optional).filter(([k, v]) => v || !(k === 'certificate' || k === 'calibrated')),
  )
  editing.value = { ...rest, ...kept }
}
const ready = computed(
  () =>
    editing.value &&
    editing.value.name.trim() &&
    editing.value.measures.trim() &&
    /^\d{4}-\d\d-\d\d$/.test(editing.value.due),
)

function withoutRanges({ ranges: _, ...rest }: Gear): Gear {
  return rest
}

async function save(): Promise<void> {
  if (!editing.value) return
  says.value = ''
  try {
    await call('saveGear', { params: { gearId: editing.value.id }, body: editing.value })
    editing.value = undefined
    await load()
  } catch (error) {
    says.value = (error as ApiProblem).message
  }
}
</script>

<template>
  <div class="place-head">
    <h1>Kit</h1>
    <v-btn
      v-if="session.hasDuty('kit') && !editing && !piece && route.query['do'] !== 'electrodes'"
      color="primary"
      variant="flat"
      @click="editing = blank()"
      >Add equipment</v-btn
    >
  </div>
  <WorkTabs v-slot="{ work }" :works="WORKS" label="Kit">
    <ElectrodeShelf v-if="work === 'electrodes'" />
    <PieceRecord v-else-if="piece" :gear-id="piece" />
    <template v-else>
      <p v-if="says" class="bad" role="alert">{{ says }}</p>
      <form v-if="editing" class="edit-grid" @submit.prevent="save">
        <WordsField
          v-for="[key, label, help] in FIELDS"
          :key="key"
          :label="label"
          :type="isDay(key) ? 'date' : 'text'"
          :value="editing[key] ?? ''"
          :help="help"
          :needed="key === 'name' || key === 'measures' || key === 'due'"
          @typed="put(key, $event)"
        />
        <RangeFigures
          class="wide"
          :ranges="editing.ranges ?? []"
          @change="editing = $event.length ? { ...editing!, ranges: $event } : withoutRanges(editing!)"
        />
        <div class="do">
          <v-btn type="submit" color="primary" variant="flat" :disabled="!ready">Save equipment</v-btn>
          <v-btn variant="text" @click="editing = undefined">Leave it as it was</v-btn>
        </div>
      </form>
      <GrowingTable :columns="columns" :items="kit" :key-of="(item) => item.id">
        <template #row="{ item, at }">
          <tr :ref="at">
            <td>
              <router-link :to="{ path: '/kit', query: { piece: item.id } }" class="name">{{ item.name }}</router-link>
              <div class="small quiet figures">{{ item.serial }}</div>
            </td>
            <td>{{ item.measures }}</td>
            <td>{{ item.range }}</td>
            <td>
              <span v-if="isSupply(item)" class="quiet">used up: it measures nothing</span>
              <template v-else>
                {{ item.uncertainty || 'not stated' }}
                <div v-if="!item.ranges?.length" class="small look">no figures: its readings are judged simply</div>
              </template>
            </td>
            <td>
              {{ dayWords(item.due) }}
              <div v-if="item.due < today()" class="small"><GradeMark grade="look" wordless /> expired</div>
            </td>
            <td v-if="session.hasDuty('kit')">
              <v-btn variant="text" :aria-label="`Change ${item.name}`" @click="editing = { ...item }">Change</v-btn>
            </td>
          </tr>
        </template>
      </GrowingTable>
      <p v-if="!kit.length" class="quiet none">
        No equipment yet. Certificates name what a check was done with, so enter your loop meter first.
      </p>
    </template>
  </WorkTabs>
</template>

<style scoped>
.name {
  font-weight: 700;
  display: inline-flex;
  align-items: center;
  min-height: 44px;
}
.wide {
  grid-column: 1 / -1;
}
.look {
  color: var(--look);
}
.none {
  padding: 24px 0;
}
</style>
