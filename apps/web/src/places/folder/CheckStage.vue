<script setup lang="ts">
// Check: begun behind its gate, then one point after the other, with what is live standing on the thread or the run.
import { computed, onBeforeUnmount, watch } from 'vue'
import { useFolder } from '../../stores/folder.ts'
import { useLive } from '../../stores/live.ts'
import { useSession } from '../../stores/session.ts'
import { useSwitching } from '../../stores/switching.ts'
import { useThread } from '../../stores/thread.ts'
import BeginCheck from './BeginCheck.vue'
import TakeReadings from './TakeReadings.vue'
import TakeStates from './TakeStates.vue'
import { sure } from '@calm-loop/core/sure'

const folder = useFolder()
const live = useLive()
const thread = useThread()
const switching = useSwitching()
const session = useSession()
const loopId = computed(() => sure(folder.view).loop.id)
const check = computed(() => folder.openCheck)
const discrete = computed(() => folder.kind?.family === 'switch')

watch(
  () => check.value?.id,
  (id) => {
    if (!id) return live.close()
    thread.release()
    void live.open(loopId.value)
  },
  { immediate: true },
)
watch(
  () => live.reading,
  (reading) => {
    const process = thread.thread?.knots[0]?.id
    thread.live = reading && process ? { [process]: reading.reference, ...reading.knots } : undefined
    switching.live =
      reading && discrete.value
        ? {
            shown: reading.knots,
            target: live.limits && reading.reference < live.limits.highest / 3,
            caption: 'Simulated at the bench.',
          }
        : undefined
  },
)
onBeforeUnmount(() => {
  live.close()
  thread.live = switching.live = undefined
})
</script>

<template>
  <template v-if="check && session.has('technician')">
    <TakeStates v-if="discrete" :key="check.id" :check="check" />
    <TakeReadings v-else :key="check.id" :check="check" />
  </template>
  <BeginCheck v-else-if="session.has('technician')" />
  <p v-else class="quiet">
    {{
      check
        ? 'A technician is taking readings; they appear under Hand over as they come.'
        : 'A technician begins a check here.'
    }}
  </p>
</template>
