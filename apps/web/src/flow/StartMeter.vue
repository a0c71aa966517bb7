<script setup lang="ts">
// Starting the meter: the pair as mounted, the signal search, the sound speed challenged.
import { clampOnOf, spacingOf } from '@calm-loop/core/kinds'
import { entryIn, type Entry } from '@calm-loop/core/quantity'
import { computed, ref } from 'vue'
import { useFolder } from '../stores/folder.ts'
import { useLive } from '../stores/live.ts'
import { usePreferences } from '../stores/preferences.ts'
import { useSession } from '../stores/session.ts'
import ChoiceField from '../widgets/ChoiceField.vue'
import QuantityField from '../widgets/QuantityField.vue'
import MeterBench from './MeterBench.vue'
import SoundSpeedCheck from './SoundSpeedCheck.vue'
import { sure } from '@calm-loop/core/sure'

const folder = useFolder()
const live = useLive()
const session = useSession()
const preferences = usePreferences()
const r = computed(() => sure(folder.reader))
const AS_SET = { decimals: 1 }
const best = computed(() => spacingOf(clampOnOf(r.value), r.value)?.spacing_mm)
const meter = computed(() => live.reading?.meter)
const tell = (id: string) => meter.value?.tells.find((t) => t.id === id)?.value
const typed = ref<Entry>({ typed: '' })
const swapped = ref('as marked')
const mounted = computed(() => entryIn(typed.value, 'mm') ?? meter.value?.mount.spacing_mm ?? best.value)
const signal = computed(() => tell('signal'))
function mount(): void {
  if (mounted.value !== undefined && mounted.value > 0)
    void live.command(sure(folder.view).loop.id, {
      do: 'mount',
      spacing_mm: mounted.value,
      swapped: swapped.value === 'swapped',
    })
}
const backwards = computed(() => (tell('velocity') ?? 0) < -0.02 && (live.reading?.reference ?? 0) > 0)
</script>

<template>
  <MeterBench startable>
    <form v-if="session.has('technician') && best !== undefined" class="mount" @submit.prevent="mount">
      <QuantityField
        label="Spacing as mounted"
        quantity="length"
        unit="mm"
        :entry="typed"
        :help="`Called for: ${preferences.quantity(best, 'mm', AS_SET)}. Move by small steps to the best signal.`"
        @entry="typed = $event"
        @enter="mount"
      />
      <ChoiceField
        label="Leads"
        :options="[
          { value: 'as marked', label: 'as marked' },
          { value: 'swapped', label: 'swapped' },
        ]"
        :value="swapped"
        @choose="swapped = $event || 'as marked'"
      />
      <v-btn type="submit" data-test="mount">Mount the pair so</v-btn>
    </form>
    <p v-if="meter?.phase === 'no-signal'" class="bad" role="status">
      No signal. Check couplant and spacing, then the entered wall and liner; then another place, one traverse, or a
      larger pair.
    </p>
    <p v-else-if="signal !== undefined && signal < 50" class="look" role="status">
      Signal quality {{ preferences.quantity(signal, '%', { decimals: 0 }) }}, below 50 %: move the pair by small steps,
      renew the couplant.
    </p>
    <p v-if="backwards" class="bad" role="status">
      It reads backwards: the leads are swapped, or the pair is mounted the wrong way round.
    </p>
    <SoundSpeedCheck :live="meter?.phase === 'running' ? tell('sound-speed') : undefined" />
  </MeterBench>
</template>

<style scoped>
.mount {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 24px;
  align-items: center;
}
.mount > :deep(.entry) {
  width: min(320px, 100%);
}
</style>
