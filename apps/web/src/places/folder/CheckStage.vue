<script setup lang="ts">
// Check: begun behind its gate, then one point after the other.
import { computed, onBeforeUnmount, watch } from 'vue'
import { useFolder } from '../../stores/folder.ts'
import { useLive } from '../../stores/live.ts'
import { useSession } from '../../stores/session.ts'
import { useThread } from '../../stores/thread.ts'
import BeginCheck from './BeginCheck.vue'
import TakeReadings from './TakeReadings.vue'

const folder = useFolder()
const live = useLive()
const thread = useThread()
const session = useSession()
const loopId = computed(() => folder.view!.loop.id)
const check = computed(() => folder.openCheck)

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
  },
)
onBeforeUnmount(() => {
  live.close()
  thread.live = undefined
})
</script>

<template>
  <TakeReadings v-if="check && session.has('technician')" :key="check.id" :check="check" />
  <BeginCheck v-else-if="session.has('technician')" />
  <p v-else class="quiet">
    {{
      check
        ? 'A technician is taking readings; they appear under Hand over as they come.'
        : 'A technician begins a check here.'
    }}
  </p>
</template>
