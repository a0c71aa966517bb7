<script setup lang="ts">
// The one field in which a number is typed: any unit of its quantity, decimal comma or point; says what it understood;
// never loses the text.
// What stands under it changes with the text only, never with the focus: a page that moves under the finger makes it
// miss.
import {
  entryFrom,
  fromSi,
  parseQuantity,
  toSi,
  unitOf,
  type Entry,
  type PressureReference,
  type QuantityName,
} from '@calm-loop/core/quantity'
import { computed, ref, useId, watch } from 'vue'
import { sure } from '@calm-loop/core/sure'
import { usePreferences } from '../stores/preferences.ts'

const props = defineProps<{
  label: string
  quantity: QuantityName
  /** Unit taken when none is typed and none was before. */
  unit: string
  /** Of a pressure: what it is counted from. */
  reference?: PressureReference | undefined
  entry?: Entry | undefined
  help?: string | undefined
  /** Taken while nothing is entered. */
  standard?: string | undefined
  needed?: boolean
  large?: boolean
  hideLabel?: boolean
}>()
const emit = defineEmits<{ entry: [entry: Entry]; enter: []; back: [] }>()

const preferences = usePreferences()
/** As the open loop is spoken of. */
const own = computed(() => preferences.unitFor(props.unit))
const id = useId()
const text = ref(props.entry?.typed ?? '')
/** The unit that stands beside the field, and that a bare number takes: the one typed last, else the field’s own. */
const beside = ref(props.entry?.unit ?? own.value)
/** What went out last: a bare number is kept with its unit, and stays bare under the hand. */
let kept = text.value
watch(
  () => props.entry,
  (entry) => {
    const typed = entry?.typed ?? ''
    if (typed === kept) return
    kept = text.value = typed
    beside.value = entry?.unit ?? own.value
  },
)
watch(own, (unit) => (beside.value = props.entry?.unit ?? unit))

const options = computed(() => ({
  quantity: props.quantity,
  unit: beside.value,
  reference: props.reference,
  decimalMark: preferences.decimalMark,
}))
const parsed = computed(() => parseQuantity(text.value, options.value))
/** What could have been meant, each a target of its own. */
const choices = computed(() => (parsed.value.ok ? [] : (parsed.value.choices ?? [])))
const refused = computed(() => !parsed.value.ok && parsed.value.code !== 'empty')
const says = computed(() => {
  const p = parsed.value
  if (!p.ok) {
    if (p.code !== 'empty') return p.says
    return [props.help, props.standard ? `${shownStandard(props.standard)} unless entered.` : '']
      .filter(Boolean)
      .join(' ')
  }
  const shown = preferences.quantity(p.value, p.unit, { decimals: 9, trim: true, asGiven: true })
  const other =
    p.unit === own.value
      ? ''
      : ` = ${preferences.quantity(fromSi(toSi(p.value, p.unit), own.value), own.value, { decimals: 4, trim: true })}`
  const plain = text.value.trim().replace('-', '−')
  if (!other && (plain === shown || `${plain} ${suffix.value}`.trim() === shown)) return ''
  return `${shown}${other}`
})
/** The unit at the entry's end; not again when it was typed. */
const suffix = computed(() =>
  /[a-zµΩ°%"'′″]\S*\s*$/i.test(text.value) ? '' : unitOf(parsed.value.ok ? parsed.value.unit : beside.value).label,
)
const shownStandard = (standard: string) => {
  const p = parseQuantity(standard, options.value)
  return p.ok ? preferences.quantity(p.value, p.unit, { trim: true }) : standard
}

function typed(value: string): void {
  text.value = value
  const entry = entryFrom(value, options.value)
  // By itself the text would be read in the field’s own unit: what is kept names the one that was meant.
  const bare = entryFrom(value, { ...options.value, unit: props.unit })
  if (entry.value !== undefined && entry.unit !== bare.unit)
    emit('entry', entryFrom((kept = `${value.trim()} ${unitOf(sure(entry.unit)).label}`), options.value))
  else emit('entry', entryFrom((kept = value), options.value))
  if (entry.unit !== undefined) beside.value = entry.unit
}
function key(event: KeyboardEvent): void {
  if (event.key === 'Enter') emit('enter')
  if (event.key === 'Backspace' && text.value === '') emit('back')
}
</script>

<template>
  <div class="entry" :class="{ refused, large }">
    <label :for="id" :class="{ 'visually-hidden': hideLabel }">
      <span :class="{ needed: needed && text.trim() === '' }">{{ props.label }}</span>
      <span v-if="needed && text.trim() === ''" class="need-word"> to be entered</span>
    </label>
    <v-text-field
      :id="id"
      class="figures"
      :model-value="text"
      :suffix="suffix"
      :aria-describedby="`${id}-says`"
      :aria-invalid="refused"
      inputmode="decimal"
      autocomplete="off"
      spellcheck="false"
      @update:model-value="typed"
      @keydown="key"
    />
    <div :id="`${id}-says`" class="says" :class="{ bad: refused, figures: parsed.ok }" aria-live="polite">
      {{ says }}
    </div>
    <div v-if="choices.length" class="choices">
      <v-btn v-for="choice in choices" :key="choice" variant="outlined" @click="typed(choice)">{{ choice }}</v-btn>
    </div>
  </div>
</template>

<style scoped>
.need-word {
  color: var(--look);
  font-size: 14px;
}
.choices {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  margin-top: 8px;
}
.choices .v-btn {
  min-height: 44px;
}
.large :deep(input) {
  font-size: 28px;
  font-weight: 600;
}
</style>
