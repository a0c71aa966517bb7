<script setup lang="ts">
// Columns of a list beside what they are here: each with the first of its cells, and the unit of its figures.
import { PLAIN, type Column, type Mapping } from '@calm-loop/core/intake'
import { KINDS, type Field } from '@calm-loop/core/kinds'
import { unitsOf } from '@calm-loop/core/quantity'
import { computed } from 'vue'
import type { SheetLook } from '../../workers/intake.worker.ts'
import ChoiceField from '../../widgets/ChoiceField.vue'

const props = defineProps<{ mapping: Mapping; look: SheetLook }>()
const emit = defineEmits<{ column: [i: number, to: Partial<Column>] }>()
const PLAIN_WORDS: Record<(typeof PLAIN)[number], string> = {
  ...{ tag: 'Tag', service: 'Service', area: 'Area', kind: 'Kind', range: 'Range, both ends in one cell' },
  rangeUnit: 'Unit of the range',
}
const NOT_TAKEN = new Set(['wiring', 'table'])
/** Entries of the kinds that the list has; of all where none is settled yet. */
const fields = computed(() => {
  const settled = new Set(Object.values(props.mapping.kinds))
  const found = new Map<string, Field>()
  for (const kind of KINDS.filter((k) => !settled.size || settled.has(k.id)))
    for (const field of kind.fields) if (!NOT_TAKEN.has(field.type)) found.set(field.key, found.get(field.key) ?? field)
  // What a head was guessed to be stays one of the choices.
  for (const { to } of props.mapping.columns)
    if (to && !found.has(to))
      for (const field of KINDS.flatMap((k) => k.fields)) if (field.key === to) found.set(to, field)
  return found
})
const targets = computed(() => [
  { value: '', label: 'left out' },
  ...PLAIN.map((value) => ({ value, label: PLAIN_WORDS[value] })),
  ...[...fields.value].map(([value, f]) => ({ value, label: f.label })),
])
const fieldOf = (to: string) => fields.value.get(to === 'range' ? 'lrv' : to)
function units(to: string): { value: string; label: string }[] {
  const field = fieldOf(to)
  if (field?.type !== 'quantity') return []
  return unitsOf(field.quantity).map((u) => ({ value: u.symbol, label: u.label }))
}
/** In which its figures are: as settled, else as the entry has them. */
const unitOf = ({ to, unit }: Column) => {
  const field = fieldOf(to)
  return unit || (field?.type === 'quantity' ? field.unit : '')
}
</script>

<template>
  <section aria-labelledby="intake-columns">
    <h2 id="intake-columns">Its columns</h2>
    <ul class="columns">
      <li v-for="(head, i) in look.heads" :key="i" :data-column="head">
        <div class="of">
          <b>{{ head || `column ${i + 1}` }}</b>
          <span v-for="(row, n) in look.samples" :key="n" class="small figures sample">{{ row[i] || '—' }}</span>
        </div>
        <ChoiceField
          label="Is"
          :options="targets"
          :value="mapping.columns[i]?.to ?? ''"
          @choose="emit('column', i, { to: $event, unit: '' })"
        />
        <ChoiceField
          v-if="units(mapping.columns[i]?.to ?? '').length"
          label="Without a unit of its own, in"
          :options="units(mapping.columns[i]?.to ?? '')"
          :value="unitOf(mapping.columns[i]!)"
          @choose="emit('column', i, { unit: $event })"
        />
      </li>
    </ul>
  </section>
</template>

<style scoped>
section {
  margin-top: 24px;
}
.columns {
  list-style: none;
  margin: 0;
  padding: 0;
}
li {
  display: grid;
  grid-template-columns: minmax(0, 1.2fr) minmax(0, 1fr) minmax(0, 0.8fr);
  gap: 4px 24px;
  border-top: 1px solid var(--hairline);
  padding: 8px 0;
}
.of {
  display: flex;
  flex-direction: column;
}
.sample {
  color: var(--second);
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
@media (max-width: 740px) {
  li {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
