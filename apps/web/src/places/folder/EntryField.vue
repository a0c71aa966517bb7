<script setup lang="ts">
// One entry of the point: the field of its type. It is drawn anew only when its own entry changes, not with every key
// typed elsewhere.
import { namedFor, type Field } from '@calm-loop/core/kinds'
import type { Entry } from '@calm-loop/core/quantity'
import { computed, defineAsyncComponent } from 'vue'
import { useFolder } from '../../stores/folder.ts'
import { useReEnter } from '../../stores/re-enter.ts'
import { useSite } from '../../stores/site.ts'
import ChoiceField from '../../widgets/ChoiceField.vue'
import QuantityField from '../../widgets/QuantityField.vue'
import WordsField from '../../widgets/WordsField.vue'

/** What reads files is fetched where a table is wanted. */
const StrappingField = defineAsyncComponent(() => import('../../vessel/StrappingField.vue'))

const props = defineProps<{ field: Field }>()
const folder = useFolder()
/** By the name that it has, given the other entries. */
const named = computed(() => namedFor(props.field, folder.kind?.fields ?? [], folder.entries))
const site = useSite()
/** Where schools of practice differ: what this site has settled, where the entry is another. */
const otherwise = computed(() => {
  const { field } = props
  const settled = site.practice.schools[field.key]
  if (!field.practice || field.type !== 'choice' || settled === undefined) return ''
  if ((typed.value || field.default || '') === settled) return ''
  return ` This site settled on: ${field.options.find((o) => o.value === settled)?.label ?? settled}.`
})
const entry = computed(() => folder.entries[props.field.key])
const typed = computed(() => entry.value?.typed ?? '')
const suggestions = computed(() =>
  props.field.type === 'text' ? props.field.suggest?.(folder.entries).join('\n') : undefined,
)
const offered = computed(() => (suggestions.value ? suggestions.value.split('\n') : undefined))
const reEnter = useReEnter()
const set = (to: Entry) => {
  folder.set(props.field.key, to)
  reEnter.touched(props.field.key)
}
function say(text: string): void {
  const before = typed.value || props.field.default || ''
  set({ typed: text })
  if (!props.field.resets || !before || text === before) return
  if (props.field.forgets) for (const key of props.field.resets) folder.set(key, { typed: '' })
  void reEnter.changed(props.field, before, text)
}
</script>

<template>
  <QuantityField
    v-if="field.type === 'quantity'"
    :label="named.label"
    :quantity="field.quantity"
    :unit="field.unit"
    :reference="field.reference"
    :help="named.help"
    :standard="field.default"
    :needed="field.required ?? false"
    :entry="entry"
    @entry="set"
  />
  <ChoiceField
    v-else-if="field.type === 'choice'"
    :label="named.label"
    :options="field.options"
    :value="typed"
    :standard="field.default"
    :help="named.help + otherwise"
    :needed="field.required ?? false"
    @choose="say"
  />
  <StrappingField v-else-if="field.type === 'table'" :field="field" :typed="typed" @set="set" />
  <WordsField
    v-else
    :label="named.label"
    :value="typed"
    :help="named.help"
    :needed="field.required ?? false"
    :suggestions="offered"
    @typed="say"
  />
</template>
