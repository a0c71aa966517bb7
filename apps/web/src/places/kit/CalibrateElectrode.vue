<script setup lang="ts">
// An electrode calibrated at the bench: its buffers in any order, each known by its signal; what it gives is drawn as
// it is typed, and read back where the electrode keeps it itself.
import {
  BUFFER_SETS,
  bufferPh,
  buffersOf,
  idealSlope_mV,
  ownBuffersOf,
  recogniseBuffer,
} from '@calm-loop/core/analysis'
import { calibrated, type MemoryPoint } from '@calm-loop/core/electrode'
import { convertUnit, parseQuantity, type QuantityName } from '@calm-loop/core/quantity'
import { attempt, Refusal } from '@calm-loop/core/refusal'
import { v7 as uuid } from 'uuid'
import { computed, onMounted, reactive, ref } from 'vue'
import ElectrodeLine from '../../kinds/ph/ElectrodeLine.vue'
import { useElectrodes, type KnownElectrode } from '../../stores/electrodes.ts'
import { usePreferences } from '../../stores/preferences.ts'
import { useWork } from '../../stores/work.ts'
import PickNames from '../../widgets/PickNames.vue'
import QuantityField from '../../widgets/QuantityField.vue'
import WordsField from '../../widgets/WordsField.vue'

const props = defineProps<{ electrode: KnownElectrode }>()
const emit = defineEmits<{ done: [] }>()
const electrodes = useElectrodes()
const preferences = usePreferences()
const work = useWork()
onMounted(() => void work.loadRows())
const redox = computed(() => props.electrode.now.sort === 'orp')
const own = computed(() => ownBuffersOf(work.rows))
const known = computed(() => [...BUFFER_SETS.flatMap((s) => buffersOf(s)), ...own.value.map((b) => b.name)])
const chosen = ref<readonly string[]>(['4.00', '7.00'])
const toggle = (b: string) =>
  (chosen.value = chosen.value.includes(b) ? chosen.value.filter((x) => x !== b) : [...chosen.value, b])

interface Row {
  temp: string
  mV: string
  /** Of a redox solution: its potential. */
  is: string
}
const MOST = 5
const rows = reactive(Array.from({ length: MOST }, (): Row => ({ temp: '', mV: '', is: '' })))
const wanted = computed(() => (redox.value ? 1 : Math.min(MOST, chosen.value.length)))
const shown = computed(() => rows.slice(0, wanted.value))
function figure(text: string, quantity: QuantityName, unit: string): number | undefined {
  const read = parseQuantity(text, { quantity, unit, decimalMark: preferences.decimalMark })
  return read.ok ? convertUnit(read.value, read.unit, unit) : undefined
}
/** What each row is: a point, or why it is none yet. */
const read = computed((): (MemoryPoint | Refusal | undefined)[] =>
  shown.value.map((row) => {
    const [temp_C, mV] = [figure(row.temp, 'temperature', 'degC'), figure(row.mV, 'voltage', 'mV')]
    if (temp_C === undefined || mV === undefined) return undefined
    if (redox.value) {
      const is = figure(row.is, 'voltage', 'mV')
      return is === undefined ? undefined : { buffer: 'redox solution', temp_C, is, mV }
    }
    return attempt(() => {
      const { name } = recogniseBuffer({ mV, temp_C, names: chosen.value, own: own.value })
      return { buffer: name, temp_C, is: bufferPh(name, temp_C, own.value).ph, mV }
    })
  }),
)
const points = computed(() => read.value.filter((p): p is MemoryPoint => !!p && !(p instanceof Refusal)))
const fit = computed(() =>
  points.value.length
    ? attempt(() => calibrated(props.electrode.now.sort, points.value, props.electrode.now.last?.slopePercent))
    : undefined,
)
const found = computed(() => (fit.value instanceof Refusal ? undefined : fit.value))
const temp_C = computed(
  () => points.value.reduce((sum, p) => sum + (p.temp_C ?? 25), 0) / Math.max(1, points.value.length),
)
const line = computed(() => {
  const ideal = idealSlope_mV(temp_C.value || 25)
  const share = found.value?.slopePercent
  return {
    temp_C: temp_C.value || 25,
    ideal_mVperPh: ideal,
    slope_mVperPh: share === undefined ? undefined : (share / 100) * ideal,
    offset_mV: found.value?.offset_mV ?? 0,
    slopePercent: share ?? 100,
  }
})
const besides = reactive({ response: '', glass: '', bestBefore: '', slope: '', offset: '' })
const readBack = computed(() => {
  const [slopePercent, offset_mV] = [figure(besides.slope, 'ratio', '%'), figure(besides.offset, 'voltage', 'mV')]
  if (offset_mV === undefined || (!redox.value && slopePercent === undefined)) return undefined
  return { ...(redox.value || slopePercent === undefined ? {} : { slopePercent }), offset_mV }
})
const response_s = computed(() => figure(besides.response, 'time', 's'))
const glass_MOhm = computed(() => figure(besides.glass, 'resistance', 'MOhm'))
/** What is typed and cannot be read is never left out in silence. */
const unread = computed(
  () =>
    (besides.response.trim() !== '' && response_s.value === undefined) ||
    (besides.glass.trim() !== '' && glass_MOhm.value === undefined),
)
const ready = computed(
  () =>
    found.value !== undefined &&
    points.value.length === wanted.value &&
    !unread.value &&
    (!props.electrode.now.memory || readBack.value !== undefined),
)
/** One wish, one name: sent again after a lost answer it is the same. */
const entryId = ref(uuid())
async function keep(): Promise<void> {
  const done = await electrodes.add(props.electrode.id, entryId.value, {
    what: 'calibrated',
    points: [...points.value],
    ...(response_s.value === undefined ? {} : { response_s: response_s.value }),
    ...(glass_MOhm.value === undefined ? {} : { glass_MOhm: glass_MOhm.value }),
    ...(besides.bestBefore ? { bestBefore: besides.bestBefore } : {}),
    ...(props.electrode.now.memory && readBack.value ? { readBack: readBack.value } : {}),
  })
  entryId.value = uuid()
  if (done) emit('done')
}
const says = (p: MemoryPoint | Refusal | undefined): string =>
  p === undefined
    ? ''
    : p instanceof Refusal
      ? p.message
      : redox.value
        ? ''
        : `${p.buffer}: pH ${p.is.toFixed(2)} there`
</script>

<template>
  <form class="calibrate" aria-label="Calibrate at the bench" @submit.prevent="keep">
    <p class="caution small"><b>Caution.</b> Glass, acid and caustic: goggles and gloves; rinse before each buffer.</p>
    <PickNames v-if="!redox" label="Buffers at hand" :names="known" :chosen="chosen" @toggle="toggle" />
    <ElectrodeLine v-if="!redox" :line="line" :points="points.map((p) => ({ buffer: p.buffer, ph: p.is, mV: p.mV }))" />
    <fieldset v-for="(row, i) in shown" :key="i" class="row" :data-row="i">
      <legend class="small">{{ redox ? 'Redox solution' : `Buffer ${i + 1}, whichever it is` }}</legend>
      <QuantityField
        v-if="redox"
        label="Its potential, as on the bottle"
        quantity="voltage"
        unit="mV"
        :entry="{ typed: row.is }"
        @entry="row.is = $event.typed"
      />
      <QuantityField
        label="Temperature"
        quantity="temperature"
        unit="degC"
        :entry="{ typed: row.temp }"
        @entry="row.temp = $event.typed"
      />
      <QuantityField
        label="Electrode gives, once it stands still"
        quantity="voltage"
        unit="mV"
        :entry="{ typed: row.mV }"
        @entry="row.mV = $event.typed"
      />
      <p class="small" :class="{ bad: read[i] instanceof Refusal }" aria-live="polite">{{ says(read[i]) }}</p>
    </fieldset>
    <p v-if="fit instanceof Refusal" class="bad" role="alert">{{ fit.message }}</p>
    <p v-else-if="found" data-test="found">
      <b v-if="found.slopePercent !== undefined" class="figures">{{ found.slopePercent.toFixed(1) }} %</b>
      <template v-if="found.slopePercent !== undefined"> of the ideal slope, </template>
      <b class="figures">{{ found.offset_mV.toFixed(1).replace('-', '−') }} mV</b> off{{ redox ? '' : ' at pH 7' }}:
      {{ { good: 'good', worn: 'worn', replace: 'to be replaced' }[found.verdict] }}.
    </p>
    <div class="more">
      <QuantityField
        label="Answers within (95 % of a step), s"
        quantity="time"
        unit="s"
        help="May be left out."
        :entry="{ typed: besides.response }"
        @entry="besides.response = $event.typed"
      />
      <QuantityField
        v-if="!redox"
        label="Glass at 25 °C"
        quantity="resistance"
        unit="MOhm"
        help="Where it is given."
        :entry="{ typed: besides.glass }"
        @entry="besides.glass = $event.typed"
      />
      <WordsField
        label="Best before, on the shelf"
        type="date"
        :value="besides.bestBefore"
        @typed="besides.bestBefore = $event"
      />
    </div>
    <template v-if="electrode.now.memory">
      <p class="small">Write slope and offset into the electrode, with its passcode if it asks; then read them back.</p>
      <div class="more">
        <QuantityField
          v-if="!redox"
          label="Slope that stands in it now"
          quantity="ratio"
          unit="%"
          :entry="{ typed: besides.slope }"
          needed
          @entry="besides.slope = $event.typed"
        />
        <QuantityField
          label="Offset that stands in it now"
          quantity="voltage"
          unit="mV"
          :entry="{ typed: besides.offset }"
          needed
          @entry="besides.offset = $event.typed"
        />
      </div>
    </template>
    <p v-if="electrodes.problem" class="bad" role="alert">{{ electrodes.problem }}</p>
    <v-btn
      type="submit"
      color="primary"
      variant="flat"
      :disabled="!ready || electrodes.busy"
      data-test="keep-calibration"
      >Put the calibration on record</v-btn
    >
    <v-btn variant="text" @click="emit('done')">Leave it</v-btn>
  </form>
</template>

<style scoped>
.more,
.row {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 20px;
  align-items: center;
}
.row {
  border: 0;
  border-top: 1px solid var(--hairline);
  padding: 4px 0 0;
}
.row :deep(.entry),
.more :deep(.entry) {
  width: min(240px, 100%);
}
</style>
