<script setup lang="ts">
// A clamp-on point: pipe and fluid, pair and spacing, its place, its doubts, the mounting, the start, zero and set-up,
// a survey.
import { clampOnOf, knownFluid, normalisedWords, spacingOf } from '@calm-loop/core/kinds'
import { computed } from 'vue'
import DoubtPanel from '../../flow/DoubtPanel.vue'
import MeterBench from '../../flow/MeterBench.vue'
import PairAdvice from '../../flow/PairAdvice.vue'
import ReadBack from '../../flow/ReadBack.vue'
import SheetRun from '../../flow/SheetRun.vue'
import SiteRows from '../../flow/SiteRows.vue'
import StartMeter from '../../flow/StartMeter.vue'
import StraightRunDrawing from '../../flow/StraightRunDrawing.vue'
import SurveyPanel from '../../flow/SurveyPanel.vue'
import ZeroPanel from '../../flow/ZeroPanel.vue'
import WorkCaution from '../../flow/WorkCaution.vue'
import StagePage from '../../places/folder/StagePage.vue'
import { useFolder } from '../../stores/folder.ts'
import { useSession } from '../../stores/session.ts'
import WorkTabs from '../../widgets/WorkTabs.vue'
import PointDrawing from './PointDrawing.vue'
import { sure } from '@calm-loop/core/sure'

const ZERO_SAME_SIDE =
  'Pair on the same side: the meter can cancel its own zero. Where the residual at no flow is within its ' +
  'specification it may be left; otherwise stop the flow and average.'
const ZERO_OPPOSITE =
  'Pair on opposite sides: nothing cancels by itself. Stop the flow by two closed valves, pipe full, and average ' +
  'for 30 s.'
const folder = useFolder()
const session = useSession()
const WORKS = [
  { id: 'pipe', name: 'Pipe and fluid' },
  { id: 'pair', name: 'Pair and spacing' },
  { id: 'place', name: 'Place' },
  { id: 'doubt', name: 'Doubt' },
  { id: 'mount', name: 'Mount' },
  { id: 'start', name: 'Start' },
  { id: 'zero', name: 'Zero' },
  { id: 'setup', name: 'Set up and read back' },
  { id: 'survey', name: 'Survey' },
]
const r = computed(() => sure(folder.reader))
const gas = computed(() => r.value.text('medium') === 'gas')
const model = computed(() => knownFluid(clampOnOf(r.value))?.model)
const normalised = computed(() => normalisedWords(r.value))
const spacing = computed(() => spacingOf(clampOnOf(r.value), r.value)?.spacing_mm)
const offers = computed((): Record<string, string> =>
  spacing.value === undefined ? {} : { spacing: `${spacing.value.toFixed(1)} mm` },
)
const sameSide = computed(() => Number(r.value.text('traverses') || 2) % 2 === 0)
</script>

<template>
  <WorkTabs v-slot="{ work }" :works="WORKS" label="Work at the clamp-on point">
    <StagePage
      v-if="work === 'pipe'"
      stage="point"
      title="Pipe and fluid"
      :groups="['Pipe', 'Fluid']"
      :only="[
        'spacing',
        'bore',
        'sound-speed',
        'density',
        'viscosity',
        'reynolds',
        'mid-actual',
        'mid-reference',
        'mid-mass',
      ]"
    >
      <template #drawing><PointDrawing /></template>
      <template #beside>
        <p v-if="normalised" class="look">
          The shares do not add up to 100 %. Brought to it they would be: {{ normalised }}.
          <v-btn
            v-if="session.has('technician')"
            variant="text"
            data-test="normalise"
            @click="folder.set('composition', { typed: normalised })"
            >Take these shares</v-btn
          >
        </p>
        <p v-if="model" class="quiet small">Fluid figures by {{ model }}.</p>
        <p v-if="gas" class="quiet small">
          Gas by AGA Report No. 8 Part 1, DETAIL equation: 0.1 % in density for pipeline gas from −8 to 62 °C up to 120
          bar; further off outside.
        </p>
      </template>
      <template #more><SiteRows :tables="['material', 'liner', 'liquid', 'gas']" /></template>
    </StagePage>
    <StagePage
      v-else-if="work === 'pair'"
      stage="point"
      title="Pair and spacing"
      :groups="['Pair']"
      :only="['spacing', 'spacing-in', 'holes', 'angle', 'transit']"
    >
      <template #drawing><PointDrawing /></template>
      <template #beside><PairAdvice /></template>
      <template #more><SiteRows :tables="['pair']" /></template>
    </StagePage>
    <StagePage
      v-else-if="work === 'place'"
      stage="point"
      title="Place"
      :groups="['Place']"
      :only="['run-need', 'run-error']"
    >
      <template #drawing><StraightRunDrawing /></template>
    </StagePage>
    <StagePage v-else-if="work === 'doubt'" stage="point" title="Doubt" :groups="['Doubt']" :only="[]">
      <template #beside><DoubtPanel /></template>
    </StagePage>
    <template v-else-if="work === 'mount'">
      <SheetRun sheet="mount" :offers="offers" />
      <WorkCaution />
    </template>
    <StartMeter v-else-if="work === 'start'" />
    <template v-else-if="work === 'zero'">
      <SheetRun sheet="zero" />
      <MeterBench>
        <ZeroPanel
          unit="ns"
          :times="1"
          :limit="r.in('timeDoubt', 'ns')"
          :says="sameSide ? ZERO_SAME_SIDE : ZERO_OPPOSITE"
        />
      </MeterBench>
    </template>
    <ReadBack v-else-if="work === 'setup'" />
    <MeterBench v-else startable><SurveyPanel /></MeterBench>
  </WorkTabs>
</template>
