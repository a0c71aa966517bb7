<script setup lang="ts">
// Check of a discrete point: begun behind its gate, then the target brought up and taken away, witness by witness.
import { computed, onBeforeUnmount, watch } from 'vue'
import { useFolder } from '../../stores/folder.ts'
import { useLive } from '../../stores/live.ts'
import { useSession } from '../../stores/session.ts'
import { useSwitching } from '../../stores/switching.ts'
import BeginCheck from './BeginCheck.vue'
import TakeStates from './TakeStates.vue'

const folder = useFolder()
const live = useLive()
const session = useSession()
const switching = useSwitching()
const loopId = computed(() => folder.view!.loop.id)
const check = computed(() => folder.openCheck)
watch(
  () => check.value?.id,
  (id) => void (id ? live.open(loopId.value) : live.close()),
  { immediate: true },
)
watch(
  () => live.reading,
  (reading) =>
    (switching.live = reading && {
      shown: reading.knots,
      target: live.limits && reading.reference < live.limits.highest / 3,
      caption: 'Live from the stand-in.',
    }),
)
onBeforeUnmount(() => {
  live.close()
  switching.live = undefined
})
</script>

<template>
  <TakeStates v-if="check && session.has('technician')" :key="check.id" :check="check" />
  <BeginCheck v-else-if="session.has('technician')" />
  <p v-else class="quiet">
    {{
      check
        ? 'A technician is taking readings; they appear under Hand over as they come.'
        : 'A technician begins a check here.'
    }}
  </p>
</template>
