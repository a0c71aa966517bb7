<script setup lang="ts">
// One instant in every measure: value, per cent, milliamps, volts, counts, what the controller shows. Typed in any,
// known in all.
import { entryIn, type Entry, type QuantityName } from '@calm-loop/core/quantity'
import { knotScales } from '@calm-loop/core/thread'
import { computed, ref } from 'vue'
import { usePreferences } from '../stores/preferences.ts'
import { useThread } from '../stores/thread.ts'
import QuantityField from '../widgets/QuantityField.vue'
import { sure } from '@calm-loop/core/sure'

const thread = useThread()
const preferences = usePreferences()
interface Row {
  readonly id: string
  readonly name: string
  readonly explains: string
  readonly quantity: QuantityName
  readonly unit: string
  readonly value: number | undefined
  readonly says: string
  readonly text: string
}
const digital = computed(() => thread.thread?.knots.findIndex((k) => k.role === 'digital') ?? -1)
const scale = computed(() =>
  thread.thread && digital.value >= 0 ? knotScales(thread.thread)[digital.value] : undefined,
)
const rows = computed<Row[]>(() => {
  const t = thread.thread
  if (!t) return []
  const list = t.knots.map((k, i): Row => {
    const v = thread.expected[i]
    return {
      id: k.id,
      name: k.name,
      explains: k.explains,
      quantity: k.quantity,
      unit: k.unit,
      value: v?.known ? v.value : undefined,
      says: v && !v.known ? v.says : '',
      text: v?.known
        ? preferences.quantity(v.value, k.unit, { decimals: Math.max(k.decimals, 2) + 1, trim: true })
        : '',
    }
  })
  const d = thread.expected[digital.value]
  const { low, high } = scale.value ?? {}
  const percent =
    d?.known && low !== undefined && high !== undefined && high !== low
      ? (100 * (d.value - low)) / (high - low)
      : undefined
  list.splice(digital.value + 1, 0, {
    id: 'percent',
    name: 'Per cent of range',
    explains: '0 % at 4 mA, 100 % at 20 mA.',
    quantity: 'ratio',
    unit: '%',
    value: percent,
    says: percent === undefined ? 'needs the range' : '',
    text: percent === undefined ? '' : preferences.quantity(percent, '%', { decimals: 3, trim: true }),
  })
  return list
})
const typedAt = ref<string>()
const typed = ref<Entry>({ typed: '' })
function type(row: Row, entry: Entry): void {
  typedAt.value = row.id
  typed.value = entry
  const value = entryIn(entry, row.unit)
  if (value === undefined) return
  if (row.id !== 'percent') return thread.hold(row.id, value)
  const { low, high } = scale.value ?? {}
  if (low !== undefined && high !== undefined)
    thread.hold(sure(thread.thread).knots[digital.value]!.id, low + (value / 100) * (high - low))
}
</script>

<template>
  <section aria-label="Convert">
    <h2 class="visually-hidden">Convert</h2>
    <p class="quiet">Type any one of them; the others follow. The thread above holds the same moment.</p>
    <div class="rows">
      <div v-for="row in rows" :key="row.id" class="row" :data-convert="row.id">
        <QuantityField
          :label="row.name"
          :quantity="row.quantity"
          :unit="row.unit"
          :entry="typedAt === row.id ? typed : { typed: '' }"
          :help="row.explains"
          @entry="type(row, $event)"
        />
        <p class="value figures" :class="{ needs: !row.text }">{{ row.text || row.says }}</p>
      </div>
    </div>
  </section>
</template>

<style scoped>
.row {
  display: grid;
  grid-template-columns: minmax(0, 320px) 1fr;
  gap: 0 32px;
  align-items: center;
  border-top: 1px solid var(--hairline);
  padding-top: 8px;
}
.value {
  font-size: 26px;
  margin: 0;
}
.needs {
  font-size: 16px;
  color: var(--look);
}
</style>
