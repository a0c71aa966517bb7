<script setup lang="ts">
// One point of the chain: what is applied, and every witness read at the same moment, live from the bench or typed.
import { trimSet } from '@calm-loop/contract'
import { plainText, type Entry } from '@calm-loop/core/quantity'
import { Refusal } from '@calm-loop/core/refusal'
import { knotScales } from '@calm-loop/core/thread'
import { v7 as uuid } from 'uuid'
import { computed, reactive, ref, watch } from 'vue'
import { useFolder } from '../stores/folder.ts'
import { useLive } from '../stores/live.ts'
import { usePreferences } from '../stores/preferences.ts'
import { useTrim } from '../stores/trim.ts'
import { useWork } from '../stores/work.ts'
import QuantityField from '../widgets/QuantityField.vue'
import WordsField from '../widgets/WordsField.vue'
import { sure } from '@calm-loop/core/sure'
import { pointFrom, witnessRows, witnessSays, type WitnessKey, type WitnessRow } from './pointEntry.ts'

const props = defineProps<{ phase: 'as-found' | 'as-left' }>()
const folder = useFolder()
const live = useLive()
const trim = useTrim()
const work = useWork()
const preferences = usePreferences()
const chain = computed(() => trim.known)
const typed = reactive({ applied: '', digital: '', current: '', receiver: '' })
const says = ref('')
/** A set begun anew on purpose; otherwise the newest goes on, unless it was closed by what was left. */
const anew = ref<string>()
const standing = computed(() => trimSet(folder.here.workLog, props.phase))
const set = computed(() => {
  if (anew.value) return anew.value
  const open = props.phase === 'as-found' ? trim.foundStands : !trim.foundStands
  return (open ? standing.value.at(-1)?.set : undefined) ?? uuid()
})
watch(
  () => props.phase,
  () => (anew.value = undefined),
)

const quantity = (v: number, unit: string, decimals: number) => preferences.quantity(v, unit, { decimals })
const rows = computed(() => (chain.value ? witnessRows(chain.value, live.reading, quantity) : []))
function takeLive(): void {
  for (const row of rows.value) typed[row.key] = plainText(row.live)
}
const scale = computed(() => (chain.value ? knotScales(chain.value.thread)[0] : undefined))
const targets = computed(() => {
  const { low, high } = scale.value ?? {}
  return low === undefined || high === undefined
    ? []
    : [0, 25, 50, 75, 100].map((p) => ({ percent: p, value: low + (p / 100) * (high - low) }))
})
const move = (value: number) => void live.move(sure(folder.view).loop.id, value)

const entryOf = (key: WitnessKey): Entry => ({ typed: typed[key] })
async function take(): Promise<void> {
  says.value = ''
  if (!typed.applied.trim()) takeLive()
  const made = pointFrom(sure(chain.value), rows.value, typed)
  if (made instanceof Refusal) return void (says.value = made.message)
  const mine = set.value
  const fromBench = rows.value.every((row) => plainText(row.live) === typed[row.key])
  // Cleared at once, for the next point may be typed while this one is on its way; what was refused comes back.
  const before = { ...typed }
  for (const row of rows.value) typed[row.key] = ''
  const saved = await work.add({
    what: 'trim-point',
    set: mine,
    phase: props.phase,
    source: fromBench ? 'bench' : 'typed',
    ...made,
  })
  if (!saved && rows.value.every((row) => !typed[row.key].trim())) Object.assign(typed, before)
}
const fieldSays = (row: WitnessRow) => (chain.value ? witnessSays(chain.value, row, typed[row.key], quantity) : '')
</script>

<template>
  <form
    v-if="chain"
    class="take"
    :aria-label="`Take a point ${phase === 'as-found' ? 'as found' : 'as left'}`"
    @submit.prevent="take"
  >
    <div v-if="folder.answers !== 'device'" class="targets" role="group" aria-label="Move the bench">
      <span class="small quiet">Move the bench to</span>
      <v-btn
        v-for="t in targets"
        :key="t.percent"
        :data-target="t.percent"
        :data-value="t.value"
        :disabled="!live.connected || !!live.reading?.transmitter?.bench"
        @click="move(t.value)"
        >{{ t.percent }} %</v-btn
      >
      <span v-if="live.reading" class="small quiet" data-test="bench-state" :data-wanted="live.reading.wanted">{{
        live.reading.moving ? 'moving' : live.steadiness.state === 'stable' ? 'steady' : 'settling'
      }}</span>
    </div>
    <div class="rows">
      <div v-for="row in rows" :key="row.key" class="row" :data-witness="row.key">
        <WordsField
          v-if="row.key === 'current'"
          :label="row.label"
          :value="typed.current"
          :help="fieldSays(row) || row.help"
          @typed="typed.current = $event"
        />
        <QuantityField
          v-else
          :label="row.label"
          :quantity="row.quantity"
          :unit="row.unit"
          :entry="entryOf(row.key)"
          :help="row.help"
          @entry="typed[row.key] = $event.typed"
          @enter="take"
        />
        <p class="live figures" :class="{ none: !row.live }">{{ row.live || 'no live value' }}</p>
      </div>
    </div>
    <p v-if="says" class="bad" role="alert">{{ says }}</p>
    <p v-if="work.problem" class="bad" role="alert">{{ work.problem }}</p>
    <div class="do">
      <v-btn color="primary" variant="flat" type="submit" :disabled="work.busy" data-test="take-point">{{
        !folder.answers || rows.some((r) => typed[r.key].trim())
          ? 'Put this point on record'
          : 'Take all from the bench'
      }}</v-btn>
      <v-btn :disabled="!live.connected" data-test="fill-live" @click="takeLive">Fill in the live values</v-btn>
      <v-btn v-if="standing.length" variant="text" data-test="new-set" @click="anew = uuid()"
        >Begin {{ phase === 'as-found' ? 'as found' : 'as left' }} anew</v-btn
      >
      <span v-if="anew" class="small quiet">The next point begins a new set; the old one stays on record.</span>
    </div>
  </form>
</template>

<style scoped>
.take {
  margin-bottom: 16px;
}
.targets {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  align-items: center;
  margin-bottom: 8px;
}
.rows {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(190px, 1fr));
  gap: 0 24px;
}
.live {
  color: var(--signal);
  font-size: 20px;
  margin: 0 0 8px;
}
.live.none {
  color: var(--second);
  font-size: 14px;
}
.do {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  align-items: center;
}
</style>
