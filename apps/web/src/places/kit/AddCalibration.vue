<script setup lang="ts">
// A calibration of a piece by a laboratory, as its certificate has it: points that it was found at, and the file.
import type { Calibration, NewCalibration } from '@calm-loop/contract/kit-record'
import type { Gear } from '@calm-loop/contract'
import { CERTIFICATE_BYTES } from '@calm-loop/contract/limits'
import { foundGood } from '@calm-loop/contract/judging'
import { judgedFound } from '@calm-loop/core/kit'
import { unitOf } from '@calm-loop/core/quantity'
import { v7 as uuid } from 'uuid'
import { computed, ref } from 'vue'
import { call, problemWords, type ApiProblem } from '../../api/client.ts'
import { usePreferences } from '../../stores/preferences.ts'
import ChoiceField from '../../widgets/ChoiceField.vue'
import { isDay } from '../../widgets/dates.ts'
import PickFile from '../../widgets/PickFile.vue'
import WordsField from '../../widgets/WordsField.vue'
import FigureCell from './FigureCell.vue'
import { usePlainly } from './plainly.ts'

const props = defineProps<{ piece: Gear }>()
const emit = defineEmits<{ saved: []; left: [] }>()
const preferences = usePreferences()
const number = usePlainly()
/** Under one id however often it is tried: what arrived is not put on record twice. */
const id = uuid()
const typed = ref({ day: '', certificate: '', by: '', due: '', note: '' })
const FIELDS = [
  ['day', 'Calibrated on', 'date', ''],
  ['certificate', 'Number of the certificate', 'text', ''],
  ['by', 'By which laboratory', 'text', ''],
  ['due', 'Due again', 'date', ''],
  ['note', 'Besides', 'text', 'What was adjusted or repaired.'],
] as const
const STATED = [
  { value: 'not-stated', label: 'not stated' },
  { value: 'good', label: 'good' },
  { value: 'off', label: 'off' },
] as const
const stated = ref<NewCalibration['stated']>('not-stated')
const LEFT = [
  { value: 'good', label: 'good, adjusted where it was not' },
  { value: 'off', label: 'off' },
] as const
const left = ref<NewCalibration['left']>('good')
interface Row {
  readonly key: number
  readonly unit: string
  at: number | undefined
  found: number | undefined
}
let next = 0
/** Ends and middle of each range: where a certificate has its points as a rule. */
const rows = ref<Row[]>(
  (props.piece.ranges ?? []).flatMap(({ unit, low, high }) =>
    [low, (low + high) / 2, high].map((at): Row => ({ key: next++, unit, at, found: undefined })),
  ),
)
const units = computed(() => [...new Set((props.piece.ranges ?? []).map((r) => r.unit))])
const addRow = (unit: string) => rows.value.push({ key: next++, unit, at: undefined, found: undefined })
const points = computed(() =>
  rows.value.flatMap(({ unit, at, found }) => (at === undefined || found === undefined ? [] : [{ unit, at, found }])),
)
const found = computed(() => ({ stated: stated.value, left: left.value, points: points.value }))
const outside = computed(() => judgedFound(points.value, props.piece.ranges ?? []).filter((p) => p.outside))
const verdict = computed(() => foundGood({ points: points.value, stated: stated.value }, props.piece.ranges ?? []))
const file = ref<File>()
const says = ref('')
const busy = ref(false)
const lacks = computed(() =>
  FIELDS.filter(([key]) => key !== 'note' && !typed.value[key].trim()).map(([, label]) => label.toLowerCase()),
)
const ready = computed(() => !lacks.value.length && isDay(typed.value.day) && isDay(typed.value.due))
function pick(picked: File): void {
  says.value = picked.size > CERTIFICATE_BYTES ? 'This file is larger than 5 MB: too large to be kept here.' : ''
  if (!says.value) file.value = picked
}
async function save(): Promise<void> {
  busy.value = true
  says.value = ''
  const params = { gearId: props.piece.id, calibrationId: id }
  try {
    await call('addCalibration', { params, body: { ...typed.value, ...found.value } })
    if (file.value) await keep(params, file.value)
    emit('saved')
  } catch (error) {
    says.value = problemWords(error as ApiProblem)
  } finally {
    busy.value = false
  }
}
const keep = (params: { gearId: string; calibrationId: string }, pdf: File): Promise<Calibration> =>
  call('keepCertificate', { params, query: { name: pdf.name.slice(0, 120) }, body: pdf as unknown as string })
</script>

<template>
  <form class="edit-grid" aria-label="New calibration" @submit.prevent="save">
    <WordsField
      v-for="[key, label, type, help] in FIELDS"
      :key="key"
      :label="label"
      :type="type"
      :value="typed[key]"
      :help="help"
      :needed="key !== 'note'"
      @typed="typed[key] = $event"
    />
    <ChoiceField
      label="As found, by its words"
      :options="STATED"
      :value="stated"
      @choose="stated = $event as NewCalibration['stated']"
    />
    <ChoiceField
      label="As it came back"
      :options="LEFT"
      :value="left"
      help="A piece that came back off is due at once: no round packs it."
      @choose="left = $event as NewCalibration['left']"
    />
    <fieldset class="wide">
      <legend>As found, point by point</legend>
      <p v-if="!rows.length" class="quiet small">Without figures by range its points are held against nothing.</p>
      <div v-for="row in rows" :key="row.key" class="point">
        <FigureCell
          label="Standard"
          :suffix="unitOf(row.unit).label"
          :value="row.at"
          :mark="preferences.decimalMark"
          @put="row.at = $event"
        />
        <FigureCell
          label="It showed"
          :suffix="unitOf(row.unit).label"
          :value="row.found"
          :mark="preferences.decimalMark"
          @put="row.found = $event"
        />
        <v-btn variant="text" aria-label="Take this point out" @click="rows = rows.filter((r) => r !== row)"
          >Take out</v-btn
        >
      </div>
      <v-btn v-for="unit in units" :key="unit" variant="text" @click="addRow(unit)"
        >Add a point in {{ unitOf(unit).label }}</v-btn
      >
    </fieldset>
    <div class="wide">
      <PickFile label="Its certificate as a PDF" accept="application/pdf,.pdf" @picked="pick" />
      <p v-if="verdict === false" class="bad" data-test="found-off">
        It was found off{{
          outside.length ? ` at ${outside.map((p) => `${number(p.at, 5)} ${unitOf(p.unit).label}`).join(', ')}` : ''
        }}: once this is saved, what it was used for is listed, with how each verdict would move.
      </p>
      <p v-if="says" class="bad" role="alert">{{ says }}</p>
    </div>
    <div class="do">
      <v-btn type="submit" color="primary" variant="flat" :disabled="!ready || busy">Save this calibration</v-btn>
      <v-btn variant="text" @click="emit('left')">Leave it</v-btn>
      <span v-if="lacks.length" class="small quiet">Still to be entered: {{ lacks.join(', ') }}.</span>
    </div>
  </form>
</template>

<style scoped>
.wide {
  grid-column: 1 / -1;
}
fieldset {
  border: 0;
  padding: 0;
}
legend {
  font-weight: 700;
}
.point {
  display: grid;
  grid-template-columns: repeat(2, minmax(0, 200px)) auto;
  justify-content: start;
  gap: 0 20px;
  align-items: end;
}
</style>
