<script setup lang="ts">
// The density that the meter shows against that of clean water or dry air at the tube's temperature.
import { workOf } from '@calm-loop/contract'
import { DENSITY_LIMIT_kgm3, referenceDensity } from '@calm-loop/core/kinds'
import { entryIn, type Entry } from '@calm-loop/core/quantity'
import { attempt, Refusal } from '@calm-loop/core/refusal'
import { computed, ref } from 'vue'
import { usePreferences } from '../stores/preferences.ts'
import { useWork } from '../stores/work.ts'
import ChoiceField from '../widgets/ChoiceField.vue'
import QuantityField from '../widgets/QuantityField.vue'
import { sure } from '@calm-loop/core/sure'

const work = useWork()
const preferences = usePreferences()
const of = ref<'water' | 'air'>('water')
const typedTemp = ref<Entry>({ typed: '' })
const typedDensity = ref<Entry>({ typed: '' })
const steps = computed(() => {
  const log = workOf(work.log, 'step').filter((e) => e.sheet === 'density')
  const run = log.at(-1)?.run
  return new Map(log.filter((e) => e.run === run).map((e) => [e.step, e.value]))
})
const temp = computed(
  () =>
    entryIn(typedTemp.value, 'degC') ??
    (steps.value.get('temperature') ? entryIn(sure(steps.value.get('temperature')), 'degC') : undefined),
)
const shown = computed(
  () =>
    entryIn(typedDensity.value, 'kg/m3') ??
    (steps.value.get('density') ? entryIn(sure(steps.value.get('density')), 'kg/m3') : undefined),
)
const due = computed(() =>
  temp.value === undefined ? undefined : attempt(() => referenceDensity(of.value, sure(temp.value))),
)
const reference = computed(() => (due.value instanceof Refusal ? undefined : due.value))
const off = computed(() =>
  reference.value && shown.value !== undefined ? shown.value - reference.value.density_kgm3 : undefined,
)
const kg = (v: number, sign = false) => preferences.quantity(v, 'kg/m3', { decimals: 2, sign })
</script>

<template>
  <section class="density" aria-label="Density against a reference">
    <ChoiceField
      label="The tube holds"
      :options="[
        { value: 'water', label: 'clean water' },
        { value: 'air', label: 'dry air' },
      ]"
      :value="of"
      @choose="of = $event === 'air' ? 'air' : 'water'"
    />
    <QuantityField
      label="Tube temperature"
      quantity="temperature"
      unit="degC"
      :entry="typedTemp"
      help="Typed, or taken from the sheet above."
      @entry="typedTemp = $event"
    />
    <QuantityField
      label="Density that the meter shows"
      quantity="density"
      unit="kg/m3"
      :entry="typedDensity"
      help="Typed, or taken from the sheet above."
      @entry="typedDensity = $event"
    />
    <p v-if="due instanceof Refusal" class="bad">{{ due.message }}</p>
    <p v-if="reference" role="status" data-test="density-verdict">
      {{ of === 'water' ? 'Clean water' : 'Dry air' }} at {{ preferences.quantity(temp!, 'degC', { decimals: 1 }) }} has
      <b class="figures">{{ kg(reference.density_kgm3) }}</b> (by {{ reference.model }}, at atmospheric pressure).
      <template v-if="off !== undefined"
        >The meter shows <b class="figures">{{ kg(off, true) }}</b> from it:
        <b :class="Math.abs(off) <= DENSITY_LIMIT_kgm3 ? 'ok' : 'bad'">{{
          Math.abs(off) <= DENSITY_LIMIT_kgm3
            ? 'its density constants can be believed'
            : 'its density constants, gas in the tube or a coating are to be looked at'
        }}</b>
        (limit ± {{ kg(DENSITY_LIMIT_kgm3) }}).</template
      >
    </p>
  </section>
</template>

<style scoped>
.density {
  border-top: 1px solid var(--hairline);
  margin-top: 16px;
  padding-top: 12px;
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(220px, 1fr));
  gap: 8px 24px;
}
p {
  grid-column: 1 / -1;
}
.ok {
  color: var(--action);
}
</style>
