<script setup lang="ts">
// Test equipment with its own due dates; what is expired is said so.
import type { Gear } from '@calm-loop/contract'
import { v7 as uuid } from 'uuid'
import { computed, onMounted, ref } from 'vue'
import { call, type ApiProblem } from '../../api/client.ts'
import { useSession } from '../../stores/session.ts'
import { dayWords, today } from '../../widgets/dates.ts'
import GradeMark from '../../widgets/GradeMark.vue'
import WordsField from '../../widgets/WordsField.vue'
import GrowingTable from '../../widgets/GrowingTable.vue'

const columns = computed(() => [
  ...['Equipment', 'Measures', 'Range', 'Uncertainty', 'Due'].map((title) => ({ title })),
  ...(session.hasDuty('kit') ? [{ title: 'Change', hidden: true }] : []),
])
const session = useSession()
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
  ['due', 'Calibration due', ''],
] as const
const ready = computed(
  () =>
    editing.value &&
    editing.value.name.trim() &&
    editing.value.measures.trim() &&
    /^\d{4}-\d\d-\d\d$/.test(editing.value.due),
)

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
    <v-btn v-if="session.hasDuty('kit') && !editing" color="primary" variant="flat" @click="editing = blank()"
      >Add equipment</v-btn
    >
  </div>
  <p v-if="says" class="bad" role="alert">{{ says }}</p>
  <form v-if="editing" class="edit-grid" @submit.prevent="save">
    <WordsField
      v-for="[key, label, help] in FIELDS"
      :key="key"
      :label="label"
      :type="key === 'due' ? 'date' : 'text'"
      :value="editing[key]"
      :help="help"
      :needed="key === 'name' || key === 'measures' || key === 'due'"
      @typed="editing = { ...editing!, [key]: $event }"
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
          <b>{{ item.name }}</b>
          <div class="small quiet figures">{{ item.serial }}</div>
        </td>
        <td>{{ item.measures }}</td>
        <td>{{ item.range }}</td>
        <td>{{ item.uncertainty || 'not stated' }}</td>
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

<style scoped>
.none {
  padding: 24px 0;
}
</style>
