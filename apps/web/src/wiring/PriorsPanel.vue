<script setup lang="ts">
// How often each kind of fault is met, as this site has it: where every explanation begins, before anything is read.
import { FAULT_KINDS, FAULT_WORDS, PRIORS, type FaultKind } from '@calm-loop/core/wiring'
import { computed, reactive, watch } from 'vue'
import { useSession } from '../stores/session.ts'
import { useSite } from '../stores/site.ts'
import { useDoing } from '../widgets/doing.ts'

const site = useSite()
const session = useSession()
const may = computed(() => session.hasDuty('limits'))
const typed = reactive<Record<string, string>>({})
const fill = () => {
  for (const kind of FAULT_KINDS) typed[kind] = String(site.priors[kind])
}
watch(() => site.priors, fill, { immediate: true })
const read = (kind: FaultKind) => Number((typed[kind] ?? '').replace(',', '.'))
const wrong = computed(() => FAULT_KINDS.filter((k) => !(read(k) >= 0.01 && read(k) <= 100)))
const changed = computed(() => FAULT_KINDS.some((k) => read(k) !== site.priors[k]))
const most = computed(() => Math.max(...FAULT_KINDS.map((k) => site.priors[k])))
const order = computed(() => [...FAULT_KINDS].sort((a, b) => site.priors[b] - site.priors[a]))
const { busy, says, run } = useDoing()
const save = () =>
  run(() => site.savePriors(Object.fromEntries(FAULT_KINDS.map((k) => [k, read(k)])) as Record<FaultKind, number>))
const usual = () => {
  for (const kind of FAULT_KINDS) typed[kind] = String(PRIORS[kind])
}
</script>

<template>
  <details class="fold plain">
    <summary>How often each fault is met here</summary>
    <p class="quiet small">
      Weights, 1 is usual: of two faults that fit alike the more usual one stands first. These are a start; your own
      record is better.
    </p>
    <div class="list">
      <label v-for="kind in order" :key="kind" :data-prior="kind">
        <span>{{ FAULT_WORDS[kind] }}</span>
        <i aria-hidden="true" :style="{ width: `${(100 * site.priors[kind]) / most}px` }"></i>
        <input v-model="typed[kind]" class="figures" inputmode="decimal" :disabled="!may" />
      </label>
    </div>
    <p v-if="wrong.length" class="bad" role="alert">
      A weight lies between 0.01 and 100: {{ wrong.map((k) => FAULT_WORDS[k]).join(', ') }}.
    </p>
    <p v-if="says" class="bad" role="alert">{{ says }}</p>
    <div v-if="may" class="do">
      <v-btn variant="outlined" :disabled="!changed || wrong.length > 0 || busy" @click="save">Keep for the site</v-btn>
      <v-btn variant="text" @click="usual">Back to the usual ones</v-btn>
    </div>
    <p v-else class="quiet small">They are set by whoever may set the site’s limits.</p>
  </details>
</template>

<style scoped>
.list {
  columns: 2 300px;
  column-gap: 40px;
}
label {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 100px 64px;
  gap: 12px;
  align-items: center;
  break-inside: avoid;
  border-bottom: 1px solid var(--hairline);
}
i {
  height: 8px;
  background: var(--hairline);
  border-radius: 4px;
}
label input {
  text-align: right;
  border-bottom: 0;
}
</style>
