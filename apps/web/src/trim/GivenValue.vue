<script setup lang="ts">
// What is given to the sensor at a gate: a value that is applied, or a buffer with its temperature; at the bench it is
// given by a press.
import { pressureFor, type RunState, type Step } from '@calm-loop/core/procedure'
import { plainText, unitOf } from '@calm-loop/core/quantity'
import { computed } from 'vue'
import { useLive } from '../stores/live.ts'
import { usePreferences } from '../stores/preferences.ts'
import { useTrim } from '../stores/trim.ts'
import QuantityField from '../widgets/QuantityField.vue'
import { benchValue, electrode_C, openBuffers } from './gate.ts'

const props = defineProps<{ state: RunState; step: Step; atBench: boolean }>()
const typed = defineModel<string>({ required: true })
const emit = defineEmits<{ enter: [] }>()
const trim = useTrim()
const live = useLive()
const preferences = usePreferences()
const t = computed(() => props.state.terms)
const isBuffer = computed(() => props.step.kind === 'buffer')
/** A flow by the root is applied as the differential pressure that stands for it. */
const byRoot = computed(() => t.value.rootOf_mbar !== undefined && !isBuffer.value)
const buffers = computed(() => (isBuffer.value ? openBuffers(props.state, props.step) : []))
const quantity = (v: number, unit: string, decimals: number) => preferences.quantity(v, unit, { decimals })
const pump = (buffer = '') => void trim.bench({ do: 'apply', value: benchValue(props.state, props.step, buffer) })
/** A value of the device as the standard shows it. */
const shown = (v: number, decimals: number) =>
  t.value.rootOf_mbar === undefined
    ? preferences.quantity(v, t.value.unit, { decimals })
    : preferences.quantity(pressureFor(v, t.value.urv, t.value.rootOf_mbar), 'mbar', { decimals: 2 })
const target = computed(() =>
  props.step.target === undefined
    ? ''
    : byRoot.value
      ? shown(props.step.target, 2)
      : `${Number(props.step.target.toFixed(t.value.decimals + 2))} ${unitOf(t.value.unit).label}`,
)
const temp_C = computed(() => (isBuffer.value ? electrode_C(live.reading) : undefined))
/** What the bench has reached; of a buffer its pH is told by the electrode alone. */
const reached = computed(() => {
  const bench = live.reading?.transmitter?.bench
  return bench && !isBuffer.value ? shown(bench.value, t.value.decimals + 1) : ''
})
</script>

<template>
  <template v-if="atBench">
    <v-btn v-if="!isBuffer" data-test="pump" :disabled="trim.busy" @click="pump()"
      >Pump the bench to {{ target }}</v-btn
    >
    <v-btn v-for="b in buffers" :key="b" data-test="pump" :disabled="trim.busy" @click="pump(b)"
      >Put the bench’s electrode in {{ b }}</v-btn
    >
  </template>
  <p v-if="reached" class="figures bench">{{ reached }}</p>
  <QuantityField
    :label="isBuffer ? 'Temperature of the buffer' : 'Applied, as the standard shows it'"
    :quantity="isBuffer ? 'temperature' : byRoot ? 'pressure' : t.quantity"
    :unit="isBuffer ? 'degC' : byRoot ? 'mbar' : t.unit"
    :entry="{ typed }"
    needed
    @entry="typed = $event.typed"
    @enter="emit('enter')"
  />
  <v-btn
    v-if="temp_C !== undefined"
    data-test="take-temperature"
    @click="typed = plainText(quantity(temp_C, 'degC', 1))"
    >Take {{ quantity(temp_C, 'degC', 1) }}</v-btn
  >
</template>

<style scoped>
.bench {
  color: var(--signal);
  font-size: 22px;
  margin: 0;
}
</style>
