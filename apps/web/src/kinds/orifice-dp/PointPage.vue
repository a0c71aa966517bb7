<script setup lang="ts">
// An orifice point: plate and fluid, the zero through its manifold, doubt, set-up.
import { plateOf } from '@calm-loop/core/kinds'
import { Refusal } from '@calm-loop/core/refusal'
import { computed } from 'vue'
import DoubtPanel from '../../flow/DoubtPanel.vue'
import MeterBench from '../../flow/MeterBench.vue'
import ReadBack from '../../flow/ReadBack.vue'
import SheetRun from '../../flow/SheetRun.vue'
import SizingPanel from '../../flow/SizingPanel.vue'
import ZeroPanel from '../../flow/ZeroPanel.vue'
import WorkCaution from '../../flow/WorkCaution.vue'
import StagePage from '../../places/folder/StagePage.vue'
import { useFolder } from '../../stores/folder.ts'
import WorkTabs from '../../widgets/WorkTabs.vue'
import PointDrawing from './PointDrawing.vue'
import { sure } from '@calm-loop/core/sure'

const BEFORE_ZERO =
  'Low side closed, equalized, high side closed: both sides of the cell see the same. What it shows then is its zero.'
const folder = useFolder()
const model = computed(() => {
  const { fluid } = plateOf(sure(folder.reader))
  return fluid && !(fluid instanceof Refusal) ? fluid.model : undefined
})
const WORKS = [
  { id: 'plate', name: 'Plate and fluid' },
  { id: 'zero', name: 'Zero' },
  { id: 'doubt', name: 'Doubt' },
  { id: 'setup', name: 'Set up and read back' },
]
</script>

<template>
  <WorkTabs v-slot="{ work }" :works="WORKS" label="Work at the orifice">
    <StagePage
      v-if="work === 'plate'"
      stage="point"
      title="Plate and fluid"
      :groups="['Plate', 'Fluid', 'Transmitter']"
    >
      <template #drawing><PointDrawing /></template>
      <template #beside
        ><p v-if="model" class="quiet small">Fluid figures by {{ model }}; flow by ISO 5167-2:2003.</p></template
      >
      <template #more><SizingPanel /></template>
    </StagePage>
    <template v-else-if="work === 'zero'">
      <SheetRun sheet="zero" />
      <MeterBench>
        <ZeroPanel unit="mbar" :times="1" :says="BEFORE_ZERO" />
      </MeterBench>
    </template>
    <StagePage v-else-if="work === 'doubt'" stage="point" title="Doubt" :groups="['Doubt']" :only="[]">
      <template #beside><DoubtPanel /></template>
    </StagePage>
    <ReadBack v-else />
    <WorkCaution />
  </WorkTabs>
</template>
