<script setup lang="ts">
// Labels of the loops that the register shows, or of one: on what they are printed, and where on the first sheet.
import { LABEL_SHEETS, LABELS_A_SHEET } from '@calm-loop/contract'
import { parseNumber } from '@calm-loop/core/quantity'
import { computed, ref } from 'vue'
import { addressOf } from '../../api/client.ts'
import ChoiceField from '../../widgets/ChoiceField.vue'
import WordsField from '../../widgets/WordsField.vue'

const props = defineProps<{
  /** Which loops, in words. */
  of: string
  query: { readonly loopId?: string; readonly q?: string; readonly area?: string; readonly state?: string }
}>()
const open = defineModel<boolean>({ required: true })
type Sheet = (typeof LABEL_SHEETS)[number]
const SHEETS: Record<Sheet, string> = { single: 'one by one, 70 × 37 mm', '24': 'A4 sheets of 24' }
const sheet = ref<Sheet>(props.query.loopId ? 'single' : '24')
const typed = ref('1')
const from = computed(() => {
  const read = parseNumber(typed.value)
  const place = 'value' in read ? read.value : NaN
  return Number.isInteger(place) && place >= 1 && place <= LABELS_A_SHEET ? place : undefined
})
const says = computed(() => (from.value === undefined ? `A place from 1 to ${LABELS_A_SHEET}.` : ''))
const address = computed(() =>
  addressOf(
    'labelsPdf',
    {},
    { ...props.query, sheet: sheet.value, from: sheet.value === '24' ? (from.value ?? 1) : 1 },
  ),
)
</script>

<template>
  <v-dialog v-model="open" aria-label="Labels">
    <v-card class="pa-6">
      <h2>Labels</h2>
      <p class="quiet">
        {{ of }}. Each has a code that opens its folder at the stage that is next when it is scanned here, and its tag
        in letters.
      </p>
      <ChoiceField
        label="Printed on"
        :options="LABEL_SHEETS.map((value) => ({ value, label: SHEETS[value] }))"
        :value="sheet"
        @choose="sheet = $event as Sheet"
      />
      <WordsField
        v-if="sheet === '24'"
        label="Begin at place"
        help="Of a sheet that is used in part: 1 is top left, 4 the first of the second row."
        :value="typed"
        :says="says"
        @typed="typed = $event"
      />
      <div class="do">
        <v-btn variant="text" @click="open = false">Close</v-btn>
        <v-btn color="primary" variant="flat" :href="address" target="_blank" :disabled="from === undefined">
          Open the PDF
        </v-btn>
      </div>
    </v-card>
  </v-dialog>
</template>
