<script setup lang="ts">
// Takes this loop along: its folder stays on this device until it is put back, and opens without the server.
import { computed, ref, watch } from 'vue'
import type { ApiProblem } from '../../api/client.ts'
import { fetchLoop } from '../../stores/along.ts'
import { useFolder } from '../../stores/folder.ts'
import { keptLoops, takeAlong } from '../../stores/kept.ts'
import { useSession } from '../../stores/session.ts'

const folder = useFolder()
const session = useSession()
const loopId = computed(() => folder.view?.loop.id ?? '')
const along = ref(false)
const busy = ref(false)
const problem = ref('')
const person = () => session.person?.id ?? ''
async function look(): Promise<void> {
  const kept = await keptLoops(person()).catch(() => [])
  along.value = kept.some((k) => k.id === loopId.value && k.along)
}
watch(loopId, look, { immediate: true })
async function change(): Promise<void> {
  busy.value = true
  problem.value = ''
  try {
    if (!along.value) await fetchLoop(loopId.value, folder.kind?.family === 'switch')
    await takeAlong(person(), loopId.value, !along.value)
    await look()
  } catch (error) {
    problem.value = (error as ApiProblem).message
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <button
    type="button"
    class="link along"
    :disabled="busy"
    :aria-pressed="along"
    data-test="take-along"
    :title="problem"
    @click="change"
  >
    {{ problem ? 'not taken: no server' : along ? 'taken along' : 'take along' }}
  </button>
</template>

<style scoped>
.along {
  min-height: 44px;
  padding: 0 4px;
  background: none;
  border: 0;
  font: inherit;
  cursor: pointer;
}
.along[aria-pressed='true'] {
  color: var(--action);
}
</style>
