<script setup lang="ts">
// Taking readings: one point fills the page. Enter takes what is typed, else what is live, and moves on; Backspace on
// an empty entry goes back.
import type { Check } from '@calm-loop/contract'
import { departureWords, verdictOf } from '@calm-loop/contract/judging'
import { pointWords } from '@calm-loop/core/check'
import { computed, onMounted } from 'vue'
import { useFolder } from '../../stores/folder.ts'
import { usePreferences } from '../../stores/preferences.ts'
import ErrorPlot from '../../widgets/ErrorPlot.vue'
import QuantityField from '../../widgets/QuantityField.vue'
import BenchControl from './BenchControl.vue'
import PointList from './PointList.vue'
import SteadyLine from './SteadyLine.vue'
import { useTaking, type AskedFigure } from './taking.ts'
import TakingFrame from './TakingFrame.vue'

const props = defineProps<{ check: Check }>()
const folder = useFolder()
const preferences = usePreferences()
const taking = useTaking(() => props.check)
const { at, point, earlier, nominal, nominalAtStandard, process, figures, waiting, reason, says, doubts } = taking
const judged = computed(() => folder.judged(props.check))
/** Why a word is wanted: the point was read before, or its figures can hardly be. */
const asks = computed(() =>
  earlier.value ? 'Why it is read again' : doubts.value.length ? 'Why it is so; then it is kept as typed' : '',
)
const expected = (figure: AskedFigure) => {
  const value = taking.expectedAt(figure)
  if (value === undefined) return 'needs the true input'
  const { place, unit } = figure
  return preferences.quantity(
    value,
    unit,
    unit === place?.unit ? { decimals: place.decimals + (unit === 'mA' ? 0 : 1) } : { decimals: 3 },
  )
}
// At once, not when the field has come into sight: by then somebody may be typing in the next one.
onMounted(taking.begin)
const stopped = computed(() => !props.check.practice && folder.practising)
</script>

<template>
  <p v-if="stopped" class="look" role="status" data-test="bench-stands">
    This check is a record, and the bench is connected. Disconnect the bench to go on with it; nothing simulated can get
    into it.
  </p>
  <TakingFrame
    v-model:reason="reason"
    :check="check"
    :at="at"
    moving="moving"
    :asks="asks"
    :help="earlier ? 'The earlier reading stays on record.' : 'The word stands on the record beside the figure.'"
    :says="says"
    :pass="judged?.result.pass"
    @take="taking.take"
    @bring="taking.bring"
  >
    <template v-if="point" #point>
      {{ pointWords(point) }}
      <span class="quiet nominal figures">{{
        preferences.quantity(nominal, process.unit, { decimals: process.decimals, trim: true })
      }}</span>
    </template>
    <BenchControl
      v-if="check.practice && folder.answers === 'bench'"
      :nominal="nominal"
      :unit="process.unit"
      :process="folder.kind!.check.process"
      @bring="taking.bring"
    />
    <div class="asked">
      <div v-for="(figure, i) in figures" :key="figure.key" :data-entry="figure.key">
        <QuantityField
          :label="figure.name"
          :quantity="figure.quantity"
          :unit="figure.unit"
          :entry="taking.entryOf(figure.key)"
          :help="
            i
              ? ''
              : nominalAtStandard === undefined || figure.unit === process.unit
                ? folder.kind!.check.reference
                : `Planned: ${preferences.quantity(nominalAtStandard, figure.unit, { decimals: 3, trim: true })}.`
          "
          large
          @entry="taking.put(figure.key, $event)"
          @enter="taking.enter(figure.key)"
          @back="taking.back"
        />
        <p v-if="i" class="expected">
          <svg width="18" height="18" aria-hidden="true"><circle cx="9" cy="9" r="6" class="ring" /></svg>
          expected
          <span
            :class="{ 'figures big': taking.expectedAt(figure) !== undefined }"
            :data-test="i === 1 ? 'expected' : `expected-${figure.key}`"
            >{{ expected(figure) }}</span
          >
        </p>
        <p v-if="taking.liveEntry(figure.key)" class="expected">
          <svg width="18" height="18" aria-hidden="true"><circle cx="9" cy="9" r="5" class="dot" /></svg>
          <span class="figures live">{{ taking.liveEntry(figure.key)!.typed }}</span>
          <span class="quiet small">{{ folder.practising ? 'simulated' : 'over its line' }}</span>
        </p>
      </div>
    </div>
    <SteadyLine v-if="check.practice || folder.answers === 'device'" />
    <template v-if="judged" #verdict>
      {{ verdictOf(judged) }}. Largest error
      <span class="figures">{{ preferences.number(judged.result.maxErrorPct, { decimals: 3, sign: true }) }} %</span>
      of span. {{ departureWords(judged.loop?.first) }}
    </template>
    <template #beside>
      <ErrorPlot :check="check" :height="280" />
      <PointList :check="check" :at="at" :waiting="waiting" @go="taking.go" />
    </template>
  </TakingFrame>
</template>

<style scoped>
.nominal {
  font-weight: 400;
  font-size: 20px;
  margin-left: 8px;
}
.asked {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(100%, 140px), 1fr));
  gap: 0 20px;
}
.expected {
  display: flex;
  align-items: center;
  flex-wrap: wrap;
  gap: 0 8px;
  margin: 0 0 8px;
}
.expected svg {
  flex: none;
}
.ring {
  fill: none;
  stroke: var(--ink);
  stroke-width: 2;
}
.dot {
  fill: var(--signal);
}
.live {
  color: var(--signal);
  font-size: 20px;
  font-weight: 600;
  white-space: nowrap;
}
.big {
  font-size: 20px;
  white-space: nowrap;
}
.asked :deep(.large input) {
  font-size: 24px;
}
.look {
  color: var(--look);
}
</style>
