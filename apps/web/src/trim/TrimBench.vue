<script setup lang="ts">
// The bench: the device drawn with what feeds it and what reads it; a practice case hides something to be found.
import { entryIn, unitOf, type Entry } from '@calm-loop/core/quantity'
import { computed, ref } from 'vue'
import { useFolder } from '../stores/folder.ts'
import { useLive } from '../stores/live.ts'
import { usePreferences } from '../stores/preferences.ts'
import { useSession } from '../stores/session.ts'
import { useTrim } from '../stores/trim.ts'
import ChoiceField from '../widgets/ChoiceField.vue'
import QuantityField from '../widgets/QuantityField.vue'
import NoBench from '../widgets/NoBench.vue'
import { useReveal } from '../widgets/useReveal.ts'
import HeldByDevice from './HeldByDevice.vue'
import LinkedDevice from './LinkedDevice.vue'
import ManifoldDrawing from './ManifoldDrawing.vue'
import { manifoldOf } from '@calm-loop/core/loop'
import { inSentence } from '@calm-loop/core/words'
import { sure } from '@calm-loop/core/sure'

const folder = useFolder()
const live = useLive()
const trim = useTrim()
const session = useSession()
const preferences = usePreferences()
const c = computed(() => trim.known)
const bench = computed(() => live.reading?.transmitter)
const type = computed(() => (folder.current ? manifoldOf(folder.current) : 'none'))
const wanted = ref<Entry>({ typed: '' })
const onBench = computed(() => !!bench.value?.bench)
const unit = computed(() => (onBench.value ? sure(c.value).digital : sure(c.value).process))
function move(): void {
  const v = entryIn(wanted.value, unit.value.unit)
  if (v === undefined) return
  if (onBench.value) void trim.bench({ do: 'apply', value: v })
  else void live.move(sure(folder.view).loop.id, v)
}
const { revealed, reveal } = useReveal(
  () => sure(folder.view).loop.id,
  () => trim.device?.practice,
)
const cases = computed(() =>
  (trim.device?.cases ?? []).map((value, i) => ({ value, label: i === 0 ? 'as it is' : `case ${i}` })),
)
const now = (knot: string, u: string, decimals: number) => {
  const v = live.reading?.knots[knot]
  return v === undefined ? 'no value' : preferences.quantity(v, u, { decimals })
}
const witnesses = computed(() => {
  const k = c.value
  if (!k) return []
  return [
    {
      id: 'input',
      name: onBench.value ? 'Applied at the bench' : k.process.name,
      text:
        live.reading?.reference !== undefined
          ? preferences.quantity(live.reading.reference, unit.value.unit, { decimals: unit.value.decimals + 1 })
          : 'no value',
    },
    ...(bench.value?.electrode_mV === undefined
      ? []
      : [
          {
            id: 'electrode',
            name: 'Electrode',
            text: preferences.quantity(bench.value.electrode_mV, 'mV', { decimals: 1 }),
          },
        ]),
    { id: 'digital', name: k.digital.name, text: now('digital', k.digital.unit, k.digital.decimals + 1) },
    ...(k.hasCurrent ? [{ id: 'current', name: 'Meter', text: now('current', 'mA', 3) }] : []),
    { id: 'controller', name: 'Receiver', text: now('controller', k.controller.unit, k.controller.decimals + 1) },
  ]
})
const X = computed(() => witnesses.value.map((_, i) => 70 + (i * 620) / Math.max(1, witnesses.value.length - 1)))
const NOUN = computed(() =>
  type.value !== 'none' || c.value?.digital.quantity === 'pressure'
    ? 'hand pump'
    : c.value?.digital.quantity === 'temperature'
      ? 'simulator'
      : c.value?.digital.quantity === 'acidity'
        ? 'beaker'
        : 'source',
)
</script>

<template>
  <section aria-label="Bench">
    <LinkedDevice v-if="folder.answers === 'device'" />
    <NoBench v-else-if="!folder.practising" />
    <template v-else-if="c">
      <figure class="row">
        <svg
          class="worded"
          viewBox="0 0 760 150"
          role="img"
          :aria-label="witnesses.map((w) => `${w.name} ${w.text}`).join('; ')"
        >
          <line x1="70" x2="690" y1="66" y2="66" class="wire" />
          <g v-for="(w, i) in witnesses" :key="w.id" :data-bench-reads="w.id">
            <circle v-if="i === 0" :cx="X[i]" cy="66" r="22" class="thing" />
            <rect v-else-if="w.id === 'digital'" :x="X[i]! - 26" y="42" width="52" height="48" rx="4" class="thing" />
            <circle v-else-if="w.id === 'current'" :cx="X[i]" cy="66" r="22" class="thing" />
            <rect v-else :x="X[i]! - 30" y="46" width="60" height="40" class="thing" />
            <text v-if="w.id === 'current'" :x="X[i]" y="72" class="mid">A</text>
            <text v-else-if="w.id === 'electrode'" :x="X[i]" y="72" class="mid">V</text>
            <text :x="X[i]" y="24" class="mid small">{{ w.name }}</text>
            <text :x="X[i]" y="118" class="mid figures live">{{ w.text }}</text>
          </g>
          <text v-if="bench?.fixed_mA !== null && bench?.fixed_mA !== undefined" x="380" y="144" class="mid needs">
            told to drive {{ preferences.quantity(bench.fixed_mA, 'mA', { trim: true }) }}, whatever it measures
          </text>
          <text v-else x="380" y="144" class="mid small">
            {{
              bench?.manifold['equalize'] === 'open'
                ? 'both sides of the cell joined'
                : onBench
                  ? `the ${NOUN} feeds the sensor`
                  : 'the process feeds the sensor'
            }}
          </text>
        </svg>
      </figure>
      <div v-if="session.has('technician')" class="do">
        <QuantityField
          :label="onBench ? `Set the ${NOUN} to` : `Move the ${inSentence(c.process.name)} to`"
          :quantity="unitOf(unit.unit).quantity"
          :unit="unit.unit"
          :entry="wanted"
          help="Enter moves it."
          @entry="wanted = $event"
          @enter="move"
        />
        <ChoiceField
          v-if="cases.length"
          label="Practice: something is hidden"
          :options="cases"
          :value="trim.device?.practice ?? 'as-it-is'"
          help="Begins with a device as new, but for what is hidden."
          @choose="trim.bench({ do: 'practice', case: $event })"
        />
        <v-btn data-test="reveal" @click="reveal">Show what is hidden</v-btn>
        <v-btn data-test="power" @click="trim.bench({ do: 'power-cycle' })">Cut the power for a moment</v-btn>
        <v-btn data-test="protect" @click="trim.bench({ do: 'protect', on: !bench?.protected })">{{
          bench?.protected ? 'Move the protection switch to off' : 'Move the protection switch to on'
        }}</v-btn>
      </div>
      <p v-if="revealed" role="status" class="look" data-test="revealed">{{ revealed }}</p>
      <p v-if="trim.problem || live.problem" class="bad" role="alert">{{ trim.problem || live.problem }}</p>
      <ManifoldDrawing v-if="type !== 'none' && bench" :type="type" :state="bench.manifold" still />
      <HeldByDevice />
    </template>
    <p v-else class="look">The bench needs the whole loop: finish Point and Range first.</p>
  </section>
</template>

<style scoped>
.row {
  margin: 0 0 8px;
}
.wire {
  stroke: var(--ink);
  stroke-width: 2;
}
.thing {
  fill: var(--sheet);
  stroke: var(--ink);
  stroke-width: 1.8;
}
.live {
  fill: var(--signal) !important;
  font-size: 19px !important;
}
.do {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 16px;
  align-items: center;
}
.do > :deep(.entry) {
  width: min(260px, 100%);
}
.look {
  color: var(--look);
}
</style>
