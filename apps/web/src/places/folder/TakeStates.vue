<script setup lang="ts">
// Taking the readings of a discrete check: one state of the target fills the page, its three witnesses in order, the
// meter, and the distance.
import type { Check } from '@calm-loop/contract'
import { judgeSwitchCheck, entriesOfCheck } from '@calm-loop/contract/judging'
import { targetWords } from '@calm-loop/core/check'
import { FAULT_PLACES, firstToDisagree, WITNESSES } from '@calm-loop/core/discrete'
import { onKeyStroke } from '@vueuse/core'
import { computed, onMounted } from 'vue'
import { useFolder } from '../../stores/folder.ts'
import { useLive } from '../../stores/live.ts'
import { usePreferences } from '../../stores/preferences.ts'
import MeterWords from '../../switching/MeterWords.vue'
import QuantityField from '../../widgets/QuantityField.vue'
import WordsField from '../../widgets/WordsField.vue'
import StateList from './StateList.vue'
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
const judged = computed(() =>
  judgeSwitchCheck(folder.kind!.id, entriesOfCheck(folder.kind!.id, folder.view!.versions, props.check), props.check),
)
const mm = (v: number) => preferences.quantity(v, 'mm', { decimals: 2 })
onMounted(() => window.scrollTo({ top: 0 }))
onKeyStroke(['b', 'B'], (event) => {
  if (!(event.target as HTMLElement).matches('input, textarea')) bring()
})
// A number pad is enough: 1 and 0 answer for one witness after the other.
onKeyStroke(['1', '0'], (event) => {
  if ((event.target as HTMLElement).matches('input, textarea')) return
  const next = WITNESSES.find((w) => looks.value[w.id] === '')
  if (next) looks.value = { ...looks.value, [next.id]: event.key === '1' ? 'lit' : 'dark' }
})
onKeyStroke('Enter', (event) => {
  if (!(event.target as HTMLElement).matches('input, textarea, button, a, summary')) take()
})
</script>

<template>
  <section class="taking" aria-label="Take readings">
    <div>
      <template v-if="point">
        <p class="quiet">
          Point {{ at + 1 }} of {{ check.points.length }}, {{ check.phase === 'as-found' ? 'as found' : 'as left' }},
          {{ targetWords(point)
          }}<template v-if="live.connected"
            >; bench stand-in{{ live.reading?.moving ? ', target moving' : '' }}</template
          >
        </p>
        <h2 class="point" data-test="point">
          {{ there ? 'Bring the target up slowly' : 'Take the target away slowly' }}
        </h2>
        <div v-if="live.connected" class="do">
          <v-btn data-test="bring" @click="bring"
            >{{ there ? 'Bring it up' : 'Take it away' }} <span class="figures quiet key">B</span></v-btn
          >
          <span class="figures where" data-test="target">{{ live.reading ? mm(live.reading.reference) : '' }}</span>
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
        <WordsField
          v-if="earlier"
          label="Why it is read again"
          :value="reason"
          needed
          help="The earlier reading stays on record."
          @typed="reason = $event"
          @enter="take"
        />
        <p v-if="says" class="says" role="alert">{{ says }}</p>
        <v-btn class="take" color="primary" variant="flat" block size="x-large" data-test="take" @click="take"
          >Take reading</v-btn
        >
      </template>
      <template v-else>
        <h2>All {{ check.points.length }} points are read</h2>
        <p v-if="judged" class="verdict" :class="{ fail: !judged.pass }" data-test="verdict">
          {{ judged.pass ? 'Every witness agrees.' : judged.faults.join(' ') }}
        </p>
        <v-btn color="primary" variant="flat" size="large" :to="`/loops/${folder.view!.loop.id}/hand-over`"
          >Go to hand over</v-btn
        >
      </template>
    </div>
    <div class="beside">
      <MeterWords
        v-if="point && run.plan"
        :plan="run.plan"
        :target="there"
        :read="signal.value ?? (acted ? liveSignal?.value : undefined)"
      />
      <StateList :check="check" :at="at" :waiting="waiting" @go="go" />
    </div>
  </section>
</template>

<style scoped>
.taking {
  display: grid;
  grid-template-columns: minmax(0, 1.15fr) minmax(0, 1fr);
  gap: 40px;
}
.point {
  font-size: 28px;
}
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
.says {
  color: var(--look);
  font-weight: 600;
}
.take {
  position: sticky;
  bottom: 12px;
  z-index: 2;
  min-height: 64px !important;
  font-size: 20px !important;
}
.verdict {
  font-size: 20px;
  color: var(--action);
}
.verdict.fail {
  color: var(--stop);
}
@media (max-width: 1000px) {
  /* Above the bar of places. */
  .take {
    bottom: 76px;
  }
}
@media (max-width: 740px) {
  .taking {
    grid-template-columns: minmax(0, 1fr);
    gap: 16px;
  }
}
</style>
