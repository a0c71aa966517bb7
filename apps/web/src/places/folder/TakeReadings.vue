<script setup lang="ts">
// Taking readings: one point fills the page. Enter takes what is typed, else what is live, and moves on; Backspace on
// an empty entry goes back.
import type { Check } from '@calm-loop/contract'
import { pointWords } from '@calm-loop/core/check'
import { computed } from 'vue'
import { useFolder } from '../../stores/folder.ts'
import { usePreferences } from '../../stores/preferences.ts'
import ErrorPlot from '../../widgets/ErrorPlot.vue'
import QuantityField from '../../widgets/QuantityField.vue'
import BenchControl from './BenchControl.vue'
import PointList from './PointList.vue'
import SteadyLine from './SteadyLine.vue'
import { useTaking } from './taking.ts'
import TakingFrame from './TakingFrame.vue'

const props = defineProps<{ check: Check }>()
const folder = useFolder()
const preferences = usePreferences()
const {
  at,
  point,
  earlier,
  nominal,
  process,
  controller,
  witness,
  waiting,
  applied,
  current,
  shown,
  reason,
  says,
  liveApplied,
  expected,
  take,
  go,
  back,
  bring,
} = useTaking(() => props.check)
const judged = computed(() => folder.judged(props.check))
</script>

<template>
  <TakingFrame
    v-model:reason="reason"
    :check="check"
    :at="at"
    moving="moving"
    :again="!!earlier"
    :says="says"
    :pass="judged?.result.pass"
    @take="take"
    @bring="bring"
  >
    <template v-if="point" #point>
      {{ pointWords(point) }}
      <span class="quiet nominal figures">{{
        preferences.quantity(nominal, process.unit, { decimals: process.decimals, trim: true })
      }}</span>
    </template>
    <BenchControl :nominal="nominal" :unit="process.unit" :process="folder.kind!.check.process" @bring="bring" />
    <div class="pair">
      <div data-entry="applied">
        <QuantityField
          :label="folder.kind!.check.trueInput"
          :quantity="process.quantity"
          :unit="process.unit"
          :entry="applied"
          :help="liveApplied ? 'Empty takes the live figure.' : 'Where the process really stands.'"
          large
          @entry="applied = $event"
          @enter="take"
          @back="back"
        />
        <p class="witness">
          <svg width="18" height="18" aria-hidden="true">
            <circle cx="9" cy="9" r="5" class="dot" :class="{ off: !liveApplied }" />
          </svg>
          <span v-if="liveApplied" class="figures live">{{ liveApplied.typed }}</span>
          <span class="quiet small">{{ folder.kind!.check.reference }}{{ liveApplied ? '' : ': no live figure' }}</span>
        </p>
      </div>
      <div data-entry="current">
        <QuantityField
          :label="witness.role === 'current' ? 'Loop current read' : 'Controller shows'"
          :quantity="witness.quantity"
          :unit="witness.unit"
          :entry="current"
          help="Empty takes the live figure."
          large
          autofocus
          @entry="current = $event"
          @enter="take"
          @back="back"
        />
        <SteadyLine />
      </div>
    </div>
    <p class="expected">
      <svg width="18" height="18" aria-hidden="true"><circle cx="9" cy="9" r="6" class="ring" /></svg>
      expected for that
      <span class="figures big" data-test="expected">{{
        expected === undefined
          ? 'needs the true input'
          : preferences.quantity(
              expected,
              witness.unit,
              witness.role === 'current' ? {} : { decimals: witness.decimals + 1 },
            )
      }}</span>
    </p>
    <template v-if="witness !== controller" #also>
      <div data-entry="controller" class="also">
        <QuantityField
          label="Controller shows (optional)"
          :quantity="controller.quantity"
          :unit="controller.unit"
          :entry="shown"
          help="As the operator reads it out. Empty takes the live figure."
          @entry="shown = $event"
          @enter="take"
        />
      </div>
    </template>
    <template v-if="judged" #verdict>
      {{ judged.result.pass ? 'Within tolerance.' : 'Out of tolerance.' }} Largest error
      <span class="figures">{{ preferences.number(judged.result.maxErrorPct, { decimals: 3, sign: true }) }} %</span>
      of span.
    </template>
    <template #beside>
      <ErrorPlot :check="check" :height="280" />
      <PointList :check="check" :at="at" :waiting="waiting" @go="go" />
    </template>
  </TakingFrame>
</template>

<style scoped>
.nominal {
  font-weight: 400;
  font-size: 20px;
  margin-left: 8px;
}
.pair {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  gap: 0 24px;
}
.witness {
  display: flex;
  align-items: center;
  gap: 10px;
  min-height: 44px;
  margin: 0;
}
.witness svg,
.expected svg {
  flex: none;
}
.dot {
  fill: var(--signal);
}
.dot.off {
  fill: none;
  stroke: var(--second);
}
.live {
  color: var(--signal);
  font-size: 22px;
  font-weight: 600;
  white-space: nowrap;
}
.also {
  margin-top: 12px;
}
.expected {
  display: flex;
  align-items: center;
  gap: 10px;
  margin: 0 0 8px;
}
.ring {
  fill: none;
  stroke: var(--ink);
  stroke-width: 2;
}
.big {
  font-size: 28px;
}
</style>
