<script setup lang="ts">
// Taking the readings of a discrete check: one state of the target fills the page, its three witnesses in order, the
// meter, and the distance.
import type { Check } from '@calm-loop/contract'
import { targetWords } from '@calm-loop/core/check'
import { FAULT_PLACES, firstToDisagree, WITNESSES } from '@calm-loop/core/discrete'
import { onKeyStroke } from '@vueuse/core'
import { computed } from 'vue'
import { useFolder } from '../../stores/folder.ts'
import { useLive } from '../../stores/live.ts'
import { usePreferences } from '../../stores/preferences.ts'
import MeterWords from '../../switching/MeterWords.vue'
import QuantityField from '../../widgets/QuantityField.vue'
import StateList from './StateList.vue'
import TakingFrame from './TakingFrame.vue'
import { useTakingStates } from './takingStates.ts'
import WitnessRow from './WitnessRow.vue'
import { inSentence } from '@calm-loop/core/words'

const props = defineProps<{ check: Check }>()
const folder = useFolder()
const live = useLive()
const preferences = usePreferences()
const t = useTakingStates(() => props.check)
const { run, at, point, there, earlier, expected, hasDistance, waiting, looks, distance, signal, reason, says } = t
const { liveState, liveDistance, liveSignal, seen, acted, take, go, back, bring } = t
const disagrees = computed(() => {
  if (!expected.value || !acted.value) return undefined
  const all = Object.fromEntries(WITNESSES.flatMap(({ id }) => (seen(id) === undefined ? [] : [[id, seen(id)]])))
  return firstToDisagree(expected.value, all)
})
const judged = computed(() => folder.judgedStates(props.check))
const mm = (v: number) => preferences.quantity(v, 'mm', { decimals: 2 })
// A number pad is enough: 1 and 0 answer for one witness after the other.
onKeyStroke(['1', '0'], (event) => {
  if ((event.target as HTMLElement).matches('input, textarea')) return
  const next = WITNESSES.find((w) => looks.value[w.id] === '')
  if (next) looks.value = { ...looks.value, [next.id]: event.key === '1' ? 'lit' : 'dark' }
})
</script>

<template>
  <TakingFrame
    v-model:reason="reason"
    :check="check"
    :at="at"
    :where="point && targetWords(point)"
    moving="target moving"
    :asks="earlier ? 'Why it is read again' : ''"
    help="The earlier reading stays on record."
    :says="says"
    :pass="judged?.pass"
    @take="take"
    @bring="bring"
  >
    <template #point>{{ there ? 'Bring the target up slowly' : 'Take the target away slowly' }}</template>
    <div v-if="live.connected" class="do">
      <v-btn data-test="bring" @click="bring"
        >{{ there ? 'Bring it up' : 'Take it away' }} <span class="figures quiet key">B</span></v-btn
      >
      <span class="figures where" data-test="target">{{
        live.reading?.reference === undefined ? '' : mm(live.reading.reference)
      }}</span>
      <span class="quiet small">from the face</span>
    </div>
    <WitnessRow
      v-for="w in WITNESSES"
      :key="w.id"
      :witness="w"
      :expected="expected?.[w.id]"
      :live="liveState(w.id)"
      :look="looks[w.id]"
      :off="disagrees === w.id"
      @look="looks[w.id] = $event"
    />
    <p v-if="disagrees" class="bad" role="alert">
      The first witness to disagree is {{ inSentence(WITNESSES.find((w) => w.id === disagrees)!.name) }}: look
      {{ FAULT_PLACES[disagrees].where }}. {{ FAULT_PLACES[disagrees].causes.join('; ') }}.
    </p>
    <div class="pair">
      <div v-if="hasDistance" data-entry="distance">
        <QuantityField
          :label="folder.kind!.check.trueInput"
          quantity="length"
          unit="mm"
          :entry="distance"
          :help="liveDistance ? `Empty takes ${liveDistance.typed}.` : 'Read on the scale or feeler gauge.'"
          @entry="distance = $event"
          @enter="take"
          @back="back"
        />
      </div>
      <div data-entry="signal">
        <QuantityField
          label="Signal wire to negative (optional)"
          quantity="voltage"
          unit="V"
          :entry="signal"
          :help="
            liveSignal ? `Empty takes ${liveSignal.typed}.` : 'Red on the signal wire, black on the negative pole.'
          "
          @entry="signal = $event"
          @enter="take"
          @back="back"
        />
      </div>
    </div>
    <template v-if="judged" #verdict>{{ judged.pass ? 'Every witness agrees.' : judged.faults.join(' ') }}</template>
    <template #beside>
      <MeterWords
        v-if="point && run.plan"
        :plan="run.plan"
        :target="there"
        :read="signal.value ?? (acted ? liveSignal?.value : undefined)"
      />
      <StateList :check="check" :at="at" :waiting="waiting" @go="go" />
    </template>
  </TakingFrame>
</template>

<style scoped>
.do {
  align-items: center;
  margin-bottom: 8px;
}
.where {
  font-size: 22px;
  font-weight: 600;
  color: var(--signal);
}
.key {
  margin-left: 10px;
  border: 1px solid var(--hairline);
  padding: 0 6px;
}
.pair {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  gap: 0 24px;
  border-top: 1px solid var(--hairline);
  padding-top: 8px;
}
</style>
