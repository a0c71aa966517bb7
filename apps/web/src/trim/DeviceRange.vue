<script setup lang="ts">
// Without a link: the range that the device itself shows, typed. The diagnosis counts with it: a current that follows
// another range is no current to trim.
import { entryIn, unitOf, type Entry } from '@calm-loop/core/quantity'
import { workOf } from '@calm-loop/contract'
import { computed, reactive } from 'vue'
import { useFolder } from '../stores/folder.ts'
import { useSession } from '../stores/session.ts'
import { useTrim } from '../stores/trim.ts'
import { useWork } from '../stores/work.ts'
import { moment } from '../widgets/dates.ts'
import QuantityField from '../widgets/QuantityField.vue'

const folder = useFolder()
const trim = useTrim()
const work = useWork()
const session = useSession()
const ENDS = [
  { key: 'lrv', name: 'Device shows, for 4 mA' },
  { key: 'urv', name: 'Device shows, for 20 mA' },
] as const
const typed = reactive<Record<'lrv' | 'urv', Entry>>({ lrv: { typed: '' }, urv: { typed: '' } })
const digital = computed(() => trim.known?.digital)
const last = computed(() => workOf(work.log, 'device-range').at(-1))
const read = (e: Entry) =>
  e.value !== undefined && e.unit !== undefined ? { typed: e.typed, value: e.value, unit: e.unit } : undefined
const ready = computed(() => {
  const [lrv, urv] = [read(typed.lrv), read(typed.urv)]
  return lrv && urv && digital.value && entryIn(lrv, digital.value.unit) !== entryIn(urv, digital.value.unit)
    ? { lrv, urv }
    : undefined
})
async function keep(): Promise<void> {
  if (!ready.value || !(await work.add({ what: 'device-range', ...ready.value }))) return
  typed.lrv = { typed: '' }
  typed.urv = { typed: '' }
}
</script>

<template>
  <section v-if="!folder.practising && digital" class="range" aria-label="Range of the device" data-test="device-range">
    <h3>Range that the device itself shows</h3>
    <p v-if="last" class="small">
      <span class="figures">{{ last.lrv.typed }}</span> to <span class="figures">{{ last.urv.typed }}</span> for 4 to 20
      mA, read by {{ last.by.name }}, {{ moment(last.at) }}. The diagnosis counts with it.
    </p>
    <p v-else class="small quiet">
      Not read yet. Without it a range that was set otherwise looks like a current to trim.
    </p>
    <router-link :to="{ path: '/link', query: { tag: folder.view?.loop.tag } }" class="link to-link">
      Read it from the device itself, over a link
    </router-link>
    <form v-if="session.has('technician')" class="do" @submit.prevent="keep">
      <QuantityField
        v-for="end in ENDS"
        :key="end.key"
        :label="end.name"
        :quantity="unitOf(digital.unit).quantity"
        :unit="digital.unit"
        :entry="typed[end.key]"
        needed
        @entry="typed[end.key] = $event"
      />
      <v-btn type="submit" :disabled="!ready" :loading="work.busy" data-test="keep-range">Put it on record</v-btn>
    </form>
  </section>
</template>

<style scoped>
.to-link {
  display: inline-flex;
  align-items: center;
}
.range {
  border-top: 1px solid var(--hairline);
  margin-top: 16px;
  padding-top: 8px;
}
.do {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 24px;
  align-items: center;
}
</style>
