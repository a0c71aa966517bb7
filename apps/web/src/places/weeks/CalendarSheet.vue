<script setup lang="ts">
// The weeks in another program: as a file, or under an address that is followed there and can be taken back.
import type { FeedState } from '@calm-loop/contract/weeks'
import { ref, watch } from 'vue'
import { addressOf, call, problemWords, type ApiProblem } from '../../api/client.ts'
import ChoiceField from '../../widgets/ChoiceField.vue'
import { moment } from '../../widgets/dates.ts'

const open = defineModel<boolean>({ required: true })
const OF = [
  { value: 'mine', label: 'my visits' },
  { value: 'all', label: 'everybody’s' },
] as const
const of = ref<'mine' | 'all'>('mine')
const feed = ref<FeedState>(null)
/** Shown once: it is not kept anywhere. */
const address = ref('')
const says = ref('')
async function act(work: () => Promise<void>): Promise<void> {
  says.value = ''
  try {
    await work()
    feed.value = await call('feedState')
  } catch (error) {
    says.value = problemWords(error as ApiProblem)
  }
}
watch(
  open,
  (now) => {
    address.value = ''
    if (now) void act(() => Promise.resolve())
  },
  { immediate: true },
)
const make = () =>
  act(async () => {
    const { path } = await call('makeFeed', { body: { of: of.value } })
    address.value = new URL(path, location.origin).href
  })
const end = () =>
  act(async () => {
    await call('endFeed')
    address.value = ''
  })
</script>

<template>
  <v-dialog v-model="open" aria-label="Calendar">
    <v-card class="pa-6">
      <h2>In another calendar</h2>
      <p class="quiet">Each visit is a day-long event; when the plan moves it, it is moved there.</p>
      <ChoiceField label="Which visits" :options="OF" :value="of" @choose="of = $event as 'mine' | 'all'" />
      <div class="do">
        <v-btn :href="addressOf('calendarFile', {}, { of })" download>As a file</v-btn>
        <v-btn color="primary" variant="flat" @click="make">{{
          feed ? 'Make another address' : 'Make an address'
        }}</v-btn>
        <v-btn v-if="feed" variant="text" @click="end">Take the address back</v-btn>
      </div>
      <p v-if="address" class="address" role="status">
        <span class="figures">{{ address }}</span>
        <span class="small quiet"
          >Whoever has it reads tags, areas and days without signing in. It is shown once; copy it now.</span
        >
      </p>
      <p v-else-if="feed" class="small quiet">
        An address for {{ feed.of === 'mine' ? 'your visits' : 'everybody’s visits' }} is open since
        {{ moment(feed.since) }}.
      </p>
      <p v-if="says" class="bad" role="alert">{{ says }}</p>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.address {
  margin-top: 12px;
  overflow-wrap: anywhere;
}
.address span {
  display: block;
}
</style>
