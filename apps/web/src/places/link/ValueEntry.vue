<script setup lang="ts">
// One value of the device: shown, or typed anew. What was typed stands until it is written, or taken back.
import { refusedValue, type Parameter, type Value, type Values } from '@calm-loop/core/description'
import { parseNumber } from '@calm-loop/core/quantity'
import { UNIT_SYMBOLS } from '@calm-loop/core/hart'
import { sameQuantity } from '@calm-loop/core/quantity'
import { computed, ref, useId, watch } from 'vue'
import { usePreferences } from '../../stores/preferences.ts'
import { shown, unitOf } from './words.ts'

const props = defineProps<{
  parameter: Parameter
  values: Values
  /** The same with all that is to be written. */
  written: Values
  edit: Value | undefined
  may: boolean
}>()
const emit = defineEmits<{ put: [value: Value | undefined] }>()
const preferences = usePreferences()
const id = useId()
const now = computed(() => props.values[props.parameter.id])
const heldUnit = computed(() => unitOf(props.parameter, props.values))
/** A figure that is written together with a new unit is written in that. */
const unit = computed(() => (props.edit === undefined ? heldUnit.value : unitOf(props.parameter, props.written)))
const mark = (text: string) => (props.parameter.type === 'float' ? text.replace('.', preferences.decimalMark) : text)
const text = ref('')
const standing = computed(() => (now.value === undefined ? '' : mark(shown(props.parameter, now.value))))
watch(
  () => [props.edit, standing.value],
  () => {
    if (props.edit === undefined) text.value = now.value === null || now.value === '' ? '' : standing.value
    else if (typeof props.edit !== 'number' || parsed(text.value) !== props.edit)
      text.value = mark(shown(props.parameter, props.edit))
  },
  { immediate: true },
)
function parsed(typed: string): Value | undefined {
  const { type } = props.parameter
  if (type === 'text') return typed
  if (type === 'date') return typed || null
  const read = parseNumber(typed, { decimalMark: preferences.decimalMark })
  return 'value' in read ? (type === 'float' ? Math.fround(read.value) : read.value) : undefined
}
const odd = ref('')
function typed(value: string): void {
  text.value = value
  const read = parsed(value)
  if (read === undefined) {
    odd.value = value.trim() ? 'Not a number.' : ''
    if (!value.trim()) emit('put', undefined)
    return
  }
  odd.value = refusedValue(props.parameter, read)
  emit('put', odd.value ? undefined : read)
}
const choices = computed(() => {
  const { parameter } = props
  if (parameter.choices) return parameter.choices.map((c) => ({ title: c.label, value: c.value }))
  if (parameter.type !== 'unit') return undefined
  const held = String(now.value ?? '')
  const fits = (u: string) => {
    try {
      return sameQuantity(u, held)
    } catch {
      return false
    }
  }
  return UNIT_SYMBOLS.filter(fits).map((u) => ({ title: u, value: u }))
})
const changed = computed(() => props.edit !== undefined)
const readOnly = computed(() => !props.parameter.write || !props.may || now.value === undefined)
</script>

<template>
  <div class="entry" :class="{ refused: odd, changed }" :data-parameter="parameter.id">
    <label :for="id">
      {{ parameter.label }}<span v-if="parameter.characterization" class="small"> , constant of this meter</span>
    </label>
    <div v-if="readOnly" :id="id" class="standing figures">
      {{ standing || 'not read yet' }} <span v-if="standing" class="quiet">{{ unit }}</span>
    </div>
    <v-select
      v-else-if="choices"
      :id="id"
      :items="choices"
      :model-value="edit ?? now ?? null"
      :aria-label="parameter.label"
      @update:model-value="emit('put', $event as Value)"
    />
    <v-text-field
      v-else
      :id="id"
      class="figures"
      :model-value="text"
      :suffix="unit"
      :type="parameter.type === 'date' ? 'date' : 'text'"
      :inputmode="parameter.type === 'float' || parameter.type === 'integer' ? 'decimal' : 'text'"
      :maxlength="parameter.characters"
      autocomplete="off"
      :aria-invalid="Boolean(odd)"
      @update:model-value="typed"
    />
    <div class="says" :class="{ bad: odd }" aria-live="polite">
      <template v-if="odd">{{ odd }}</template>
      <template v-else-if="changed"
        >device holds {{ standing }} {{ heldUnit }}
        <button type="button" class="link" @click="emit('put', undefined)">take back</button></template
      >
      <template v-else>{{ parameter.help }}</template>
    </div>
  </div>
</template>

<style scoped>
.standing {
  min-height: 44px;
  display: flex;
  align-items: center;
  gap: 8px;
  border-bottom: 1px solid var(--hairline);
  overflow-wrap: anywhere;
}
.changed :deep(.v-field) {
  border-bottom: 2px solid var(--action);
}
</style>
