<script setup lang="ts">
// Where someone is signed in, each session with an end to it.
import type { OpenSession } from '@calm-loop/contract'
import { onMounted, ref } from 'vue'
import { call, type ApiProblem } from '../../api/client.ts'
import { moment } from '../../widgets/dates.ts'
import { deviceName } from './deviceName.ts'

const props = defineProps<{ personId: string }>()
const sessions = ref<OpenSession[]>([])
const says = ref('')
async function ask(what: () => Promise<OpenSession[]>): Promise<void> {
  says.value = ''
  try {
    sessions.value = await what()
  } catch (error) {
    says.value = (error as ApiProblem).message
  }
}
const params = (sessionId: string) => ({ personId: props.personId, sessionId })
const end = (id: string) => ask(() => call('endSession', { params: params(id) }))
onMounted(() => ask(() => call('sessions', { params: { personId: props.personId } })))
</script>

<template>
  <section aria-label="Open sessions">
    <h3>Open sessions</h3>
    <p v-if="says" class="bad" role="alert">{{ says }}</p>
    <p v-if="!sessions.length && !says" class="quiet">Signed in nowhere.</p>
    <ul class="list">
      <li v-for="s in sessions" :key="s.id" data-test="session">
        <span>
          {{ deviceName(s.browser) }}, from {{ s.address || 'unknown address' }}
          <span class="quiet small"
            >{{ s.since ? `since ${moment(s.since)}` : '' }}{{ s.here ? ', this one' : '' }}</span
          >
        </span>
        <v-btn v-if="!s.here" variant="text" @click="end(s.id)">End it</v-btn>
      </li>
    </ul>
    <v-btn v-if="sessions.filter((s) => !s.here).length > 1" variant="text" @click="end('all')"
      >End all {{ sessions.some((s) => s.here) ? 'others' : '' }}</v-btn
    >
  </section>
</template>

<style scoped>
.list {
  list-style: none;
  padding: 0;
}
.list li {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 16px;
  min-height: 48px;
  border-top: 1px solid var(--hairline);
}
</style>
