<script setup lang="ts">
// The bench's meter: start it, move its flow, see what it tells; practice cases hide something to be found.
import { entryIn, unitOf, type Entry } from '@calm-loop/core/quantity'
import { computed, ref } from 'vue'
import { useFolder } from '../stores/folder.ts'
import { usePreferences } from '../stores/preferences.ts'
import { useSession } from '../stores/session.ts'
import ChoiceField from '../widgets/ChoiceField.vue'
import QuantityField from '../widgets/QuantityField.vue'
import NoBench from '../widgets/NoBench.vue'
import { useReveal } from '../widgets/useReveal.ts'
import { useMeter } from './useMeter.ts'

defineProps<{ startable?: boolean }>()
const folder = useFolder()
const session = useSession()
const preferences = usePreferences()
const { meter, command, loopId, live } = useMeter()
const unit = computed(() => live.limits?.unit ?? 'm3/h')
const wanted = ref<Entry>({ typed: '' })
const { revealed, reveal } = useReveal(
  () => loopId.value,
  () => meter.value?.practice,
)
const PHASES = {
  off: 'not started',
  searching: 'searching for its signal',
  running: 'measuring',
  'no-signal': 'no signal',
  zeroing: 'averaging its zero',
  health: 'checking itself',
} as const
const phase = computed(() => (meter.value ? PHASES[meter.value.phase] : live.problem || 'connecting'))
const share = computed(() =>
  meter.value?.lasts_s ? Math.min(1, meter.value.phase_s / meter.value.lasts_s) : undefined,
)
const practice = computed(() => [
  { value: 'none', label: 'none' },
  ...(live.held?.cases ?? []).map((id) => ({ value: id, label: `case ${id}` })),
])
function move(): void {
  const value = entryIn(wanted.value, unit.value)
  if (value !== undefined) void live.move(loopId.value, value)
}
const stop = () => void live.move(loopId.value, 0)
const shown = (v: number | null | undefined) =>
  v === null || v === undefined ? 'none' : preferences.quantity(v, unit.value, { decimals: 1 })
</script>

<template>
  <section class="bench" aria-label="Simulated meter">
    <NoBench v-if="!folder.practising" />
    <div v-else class="head">
      <h3>Simulated meter</h3>
      <p class="phase" :class="meter?.phase" data-test="phase">{{ phase }}</p>
      <p class="figures reading" data-test="reported">{{ shown(meter?.digital) }}</p>
    </div>
    <v-progress-linear v-if="share !== undefined" :model-value="100 * share" :aria-label="phase" />
    <dl v-if="meter?.tells.length" class="tells">
      <div v-for="t in meter.tells" :key="t.id" :data-tell="t.id">
        <dt>{{ t.label }}</dt>
        <dd class="figures">{{ preferences.quantity(t.value, t.unit, { decimals: t.decimals }) }}</dd>
      </div>
    </dl>
    <div v-if="session.has('technician') && live.connected" class="do">
      <v-btn
        v-if="startable"
        color="primary"
        variant="flat"
        data-test="start-meter"
        @click="command({ do: 'start' })"
        >{{
          meter?.phase === 'off' || meter?.phase === 'no-signal' ? 'Start the signal search' : 'Search again'
        }}</v-btn
      >
      <QuantityField
        label="True flow on the bench"
        :quantity="unitOf(unit).quantity"
        :unit="unit"
        :entry="wanted"
        :help="live.reading ? `Now ${shown(live.reading.reference)}. Enter moves it.` : ''"
        @entry="wanted = $event"
        @enter="move"
      />
      <v-btn data-test="stop-flow" @click="stop">Stop the flow</v-btn>
      <ChoiceField
        v-if="live.held?.cases.length"
        label="Practice: something is hidden"
        :options="practice"
        :value="meter?.practice || 'none'"
        @choose="command({ do: 'practice', case: $event === 'none' ? '' : $event })"
      />
      <v-btn v-if="meter?.practice" variant="text" data-test="reveal" @click="reveal">Show what was hidden</v-btn>
    </div>
    <p v-if="revealed" role="status" class="look">{{ revealed }}</p>
    <p v-if="live.problem && meter" class="bad" role="alert">{{ live.problem }}</p>
    <p v-else-if="live.problem" class="look">
      {{ live.problem }} {{ folder.study?.missing.range.length ? 'The range is still to be entered.' : '' }}
    </p>
    <slot />
  </section>
</template>

<style scoped>
.bench {
  border-top: 1px solid var(--hairline);
  padding-top: 12px;
  margin-top: 12px;
}
.bench:first-child {
  border: 0;
  padding: 0;
  margin: 0;
}
.head {
  display: flex;
  align-items: baseline;
  gap: 24px;
  flex-wrap: wrap;
}
.head p {
  margin: 0;
}
.reading {
  font-size: 28px;
  color: var(--signal);
  margin-left: auto !important;
}
.phase.running {
  color: var(--action);
}
.phase.no-signal {
  color: var(--stop);
}
.tells {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(190px, 1fr));
  gap: 0 24px;
  margin: 8px 0;
}
.tells div {
  border-bottom: 1px solid var(--hairline);
  padding: 6px 0;
}
dt {
  color: var(--second);
  font-size: 14px;
}
dd {
  margin: 0;
}
.do {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 24px;
  align-items: center;
}
.do > :deep(.entry) {
  width: min(260px, 100%);
}
</style>
