<script setup lang="ts">
// The site's limits for trims: when to adjust, what correction is still plausible, what counts as stable.
import { TrimLimits } from '@calm-loop/contract'
import { computed, reactive, ref, watch } from 'vue'
import { useSession } from '../../stores/session.ts'
import { useSite } from '../../stores/site.ts'
import { useDoing } from '../../widgets/doing.ts'
import QuantityField from '../../widgets/QuantityField.vue'
import { parseQuantity } from '@calm-loop/core/quantity'
import { sure } from '@calm-loop/core/sure'

const site = useSite()
const { busy, says, run } = useDoing()
const session = useSession()
const editing = ref(false)
const FIELDS = [
  { key: 'adjustAbovePct', label: 'Adjust above, of the tolerance', quantity: 'ratio', unit: '%' },
  { key: 'plausiblePct', label: 'Largest plausible correction, of span', quantity: 'ratio', unit: '%' },
  { key: 'window_s', label: 'Stable: window', quantity: 'time', unit: 's' },
  { key: 'driftPct', label: 'Stable: slope over the window, of span', quantity: 'ratio', unit: '%' },
  { key: 'noisePct', label: 'Stable: noise, of span', quantity: 'ratio', unit: '%' },
] as const
const typed = reactive<Record<string, string>>({})
watch(
  () => site.limits,
  (l) => FIELDS.forEach((f) => (typed[f.key] = `${l[f.key]} ${f.unit}`)),
  { immediate: true },
)
const wanted = computed(() => {
  const values = Object.fromEntries(
    FIELDS.map((f) => {
      const p = parseQuantity(typed[f.key] ?? '', { quantity: f.quantity, unit: f.unit })
      return [f.key, p.ok ? p.si * (f.unit === '%' ? 100 : 1) : NaN]
    }),
  )
  return TrimLimits.safeParse(values)
})
async function save(): Promise<void> {
  if (wanted.value.success && (await run(() => site.saveLimits(sure(wanted.value.data))))) editing.value = false
}
</script>

<template>
  <details class="limits">
    <summary>
      Site’s limits: adjust above {{ site.limits.adjustAbovePct }} % of tolerance; stop at a correction above
      {{ site.limits.plausiblePct }} % of span; stable within {{ site.limits.driftPct }} % slope and
      {{ site.limits.noisePct }} % noise over {{ site.limits.window_s }} s
    </summary>
    <p class="small quiet">
      Slope is the change of the least-squares line over the window; noise the standard deviation about that line.
      <template v-if="!session.hasDuty('limits')"
        >A {{ session.session?.duties.limits ?? 'reviewer' }} may change them.</template
      >
    </p>
    <form v-if="session.hasDuty('limits')" class="fields" @submit.prevent="save">
      <QuantityField
        v-for="f in FIELDS"
        :key="f.key"
        :label="f.label"
        :quantity="f.quantity"
        :unit="f.unit"
        :entry="{ typed: typed[f.key] ?? '' }"
        @entry="typed[f.key] = $event.typed"
      />
      <v-btn type="submit" :disabled="!wanted.success || busy">Set for the site</v-btn>
      <p v-if="says" class="bad" role="alert">{{ says }}</p>
    </form>
  </details>
</template>

<style scoped>
.limits {
  border-top: 1px solid var(--hairline);
  margin-top: 16px;
  padding-top: 8px;
}
summary {
  cursor: pointer;
  min-height: 44px;
  color: var(--second);
}
.fields {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(240px, 1fr));
  gap: 0 24px;
  align-items: center;
}
</style>
