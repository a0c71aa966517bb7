<script setup lang="ts">
// The figures of a piece of kit, range by range: what its data sheet or certificate states of a reading there.
import type { GearRange } from '@calm-loop/contract'
import { QUANTITIES, quantityName, unitOf, unitsOf, type QuantityName } from '@calm-loop/core/quantity'
import ChoiceField from '../../widgets/ChoiceField.vue'
import { usePreferences } from '../../stores/preferences.ts'
import FigureCell from './FigureCell.vue'

const props = defineProps<{ ranges: readonly GearRange[] }>()
const emit = defineEmits<{ change: [ranges: GearRange[]] }>()
const preferences = usePreferences()
const FIGURES = [
  ['low', 'From', 'unit'],
  ['high', 'To', 'unit'],
  ['pctOfReading', '± of reading', '%'],
  ['pctOfRange', '± of range', '%'],
  ['digits', '± last digits', ''],
  ['resolution', 'Last digit is worth', 'unit'],
  ['fixed', '± fixed', 'unit'],
  ['coverage', 'k, where it is expanded', ''],
  ['driftPctPerYear', 'Drift a year, of range', '%'],
  ['tempPctPerC', 'Per °C outside 18–28 °C, of reading', '%'],
] as const
const quantities = QUANTITIES.map((value) => ({ value, label: quantityName(value) }))
const units = (quantity: QuantityName) => unitsOf(quantity).map((u) => ({ value: u.symbol, label: u.label }))
function change(at: number, more: Partial<GearRange>): void {
  emit(
    'change',
    props.ranges.map((r, i) => (i === at ? { ...r, ...more } : r)),
  )
}
function put(at: number, key: (typeof FIGURES)[number][0], value: number | undefined): void {
  const { [key]: _, ...rest } = props.ranges[at]!
  const kept = value === undefined && (key === 'low' || key === 'high') ? { [key]: 0 } : {}
  emit(
    'change',
    props.ranges.map((r, i) =>
      i === at ? ({ ...rest, ...kept, ...(value === undefined ? {} : { [key]: value }) } as GearRange) : r,
    ),
  )
}
const add = () =>
  emit('change', [...props.ranges, { quantity: 'current', unit: 'mA', low: 0, high: 24, pctOfReading: 0.02 }])
</script>

<template>
  <div role="group" aria-label="Figures by range">
    <h3>Figures by range</h3>
    <p class="quiet small">
      With them each reading gets its uncertainty, and the page says before the work what the piece can prove. Without,
      the verdict is simple.
    </p>
    <div v-for="(r, i) in ranges" :key="i" class="range">
      <ChoiceField
        label="Measures"
        :options="quantities"
        :value="r.quantity"
        @choose="change(i, { quantity: $event as QuantityName, unit: unitsOf($event as QuantityName)[0]!.symbol })"
      />
      <ChoiceField label="Unit" :options="units(r.quantity)" :value="r.unit" @choose="change(i, { unit: $event })" />
      <FigureCell
        v-for="[key, label, suffix] in FIGURES"
        :key="key"
        :label="label"
        :suffix="suffix === 'unit' ? unitOf(r.unit).label : suffix"
        :value="r[key]"
        :mark="preferences.decimalMark"
        @put="put(i, key, $event)"
      />
      <v-btn
        variant="text"
        @click="
          emit(
            'change',
            ranges.filter((_, n) => n !== i),
          )
        "
        >Take this range out</v-btn
      >
    </div>
    <v-btn data-test="add-range" @click="add">Add a range</v-btn>
  </div>
</template>

<style scoped>
.range {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(min(100%, 170px), 1fr));
  gap: 0 20px;
  align-items: end;
  border-bottom: 1px solid var(--hairline);
  padding-bottom: 8px;
  margin-bottom: 8px;
}
</style>
