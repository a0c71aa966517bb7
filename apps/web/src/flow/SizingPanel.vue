<script setup lang="ts">
// The plate either way: the flow that a differential pressure means, or the differential pressure that a wanted flow
// makes.
import { dpAt, flowAt, plateOf } from '@calm-loop/core/kinds'
import { entryIn, type Entry } from '@calm-loop/core/quantity'
import { attempt, Refusal } from '@calm-loop/core/refusal'
import { computed, ref } from 'vue'
import { useFolder } from '../stores/folder.ts'
import { usePreferences } from '../stores/preferences.ts'
import QuantityField from '../widgets/QuantityField.vue'
import { sure } from '@calm-loop/core/sure'

const folder = useFolder()
const preferences = usePreferences()
const plate = computed(() => plateOf(sure(folder.reader)).plate)
const dp = ref<Entry>({ typed: '' })
const flow = ref<Entry>({ typed: '' })
const found = (entry: Entry, unit: string, compute: (v: number) => number) => {
  const v = entryIn(entry, unit)
  return v === undefined || !plate.value ? undefined : attempt(() => compute(v))
}
const asFlow = computed(() => found(dp.value, 'mbar', (v) => flowAt(sure(plate.value), v)))
const asDp = computed(() => found(flow.value, 'kg/h', (v) => dpAt(sure(plate.value), v)))
</script>

<template>
  <section class="either" aria-label="The plate either way">
    <div>
      <QuantityField
        label="Flow at this differential pressure"
        quantity="pressure"
        unit="mbar"
        :entry="dp"
        @entry="dp = $event"
      />
      <p v-if="asFlow instanceof Refusal" class="bad small">{{ asFlow.message }}</p>
      <p v-else-if="asFlow !== undefined" data-test="as-flow">
        is <b class="figures">{{ preferences.quantity(asFlow, 'kg/h', { decimals: 1 }) }}</b>
      </p>
    </div>
    <div>
      <QuantityField
        label="Differential pressure for this flow"
        quantity="mass-flow"
        unit="kg/h"
        :entry="flow"
        @entry="flow = $event"
      />
      <p v-if="asDp instanceof Refusal" class="bad small">{{ asDp.message }}</p>
      <p v-else-if="asDp !== undefined" data-test="as-dp">
        is <b class="figures">{{ preferences.quantity(asDp, 'mbar', { decimals: 2 }) }}</b>
      </p>
    </div>
    <p class="quiet small">ISO 5167-2:2003, coefficient at the Reynolds number of each flow.</p>
  </section>
</template>

<style scoped>
.either {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(240px, 1fr));
  gap: 8px 32px;
  border-top: 1px solid var(--hairline);
  padding-top: 12px;
}
</style>
