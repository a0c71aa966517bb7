<script setup lang="ts">
// Check: begun behind its gate, then one point after the other, with what is live standing on the thread or the run.
import { computed, onBeforeUnmount, ref, watch } from 'vue'
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

/** The version that the check was begun by, when what it is judged by has changed since. */
const older = computed(() => {
  const { view, kind } = folder
  const begunBy = view?.versions.find((v) => v.id === check.value?.versionId)
  if (!begunBy || !kind) return undefined
  const judged = kind.fields.filter((f) => f.stage === 'range' || f.stage === 'point')
  const differs = judged.some((f) => (begunBy.entries[f.key]?.typed ?? '') !== (folder.entries[f.key]?.typed ?? ''))
  return differs ? begunBy : undefined
})
const anew = ref(false)
watch(
  () => check.value?.id,
  (id) => {
    anew.value = false
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
    const at = reading?.reference
    thread.live = reading && process ? { ...(at === undefined ? {} : { [process]: at }), ...reading.knots } : undefined
    switching.live =
      reading && discrete.value
        ? {
            shown: reading.knots,
            target: live.limits && (reading.reference ?? NaN) < live.limits.highest / 3,
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
  <template v-if="check && older && session.has('technician')">
    <p class="look" role="status" data-test="older-version">
      Range or point were changed since this check was begun. It keeps version {{ older.number }}, and is judged by it.
      <button type="button" class="link" @click="anew = !anew">
        {{ anew ? 'Go on with it' : 'Begin anew with what is entered now' }}
      </button>
    </p>
  </template>
  <template v-if="check && !anew && session.has('technician')">
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

<style scoped>
.look {
  color: var(--look);
}
</style>
