<script setup lang="ts">
// What the device said that it holds when it was read back.
import type { Held, Terms } from '@calm-loop/core/procedure'
import { computed } from 'vue'
import { usePreferences } from '../stores/preferences.ts'
import { sure } from '@calm-loop/core/sure'

const props = defineProps<{
  held: Held
  terms: Pick<Terms, 'unit' | 'decimals' | 'receiverUnit' | 'receiverDecimals'>
}>()
const preferences = usePreferences()
const rows = computed(() => {
  const { held: h, terms: t } = props
  const q = (v: number) => preferences.quantity(v, t.unit, { trim: true })
  const at = (v: number) => preferences.quantity(v, t.receiverUnit ?? t.unit, { trim: true })
  return [
    ['Range in the device', `${q(h.lrv)} to ${q(h.urv)}`],
    ['Scale at the receiver', `${at(h.receiverLow)} to ${at(h.receiverHigh)}`],
    [
      'Output',
      h.fixed_mA === null
        ? 'follows the measurement'
        : `fixed at ${preferences.quantity(h.fixed_mA, 'mA', { trim: true })}`,
    ],
    ...(h.slope_mVperPh === undefined
      ? []
      : [['Electrode', `${h.slope_mVperPh.toFixed(2)} mV per pH, ${sure(h.offset_mV).toFixed(1)} mV at pH 7`]]),
    ...(h.damping_s === undefined ? [] : [['Damping', preferences.quantity(h.damping_s, 's', { trim: true })]]),
    ...(h.health === undefined ? [] : [['What it found in itself', h.health || 'nothing']]),
    ['Kept through a power failure', h.stored ? 'yes, stored' : 'no, not stored'],
    ['Adjustments taken so far', String(h.changes)],
  ]
})
</script>

<template>
  <dl class="held">
    <div v-for="[name, words] in rows" :key="name">
      <dt>{{ name }}</dt>
      <dd class="figures">{{ words }}</dd>
    </div>
  </dl>
</template>

<style scoped>
.held {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(240px, 1fr));
  gap: 0 24px;
  margin: 0;
  flex-basis: 100%;
}
.held div {
  border-bottom: 1px solid var(--hairline);
  padding: 6px 0;
}
dt {
  font-size: 14px;
  color: var(--second);
}
dd {
  margin: 0;
}
</style>
