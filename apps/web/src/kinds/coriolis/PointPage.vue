<script setup lang="ts">
// A Coriolis point: sensor and constants, units, pulses and display, totals, lost memory, zero, health, density,
// doubt, set-up.
import { computed } from 'vue'
import ConstantsTable from '../../flow/ConstantsTable.vue'
import DensityCheck from '../../flow/DensityCheck.vue'
import DoubtPanel from '../../flow/DoubtPanel.vue'
import HealthPanel from '../../flow/HealthPanel.vue'
import MeterBench from '../../flow/MeterBench.vue'
import ReadBack from '../../flow/ReadBack.vue'
import SheetRun from '../../flow/SheetRun.vue'
import ZeroPanel from '../../flow/ZeroPanel.vue'
import WorkCaution from '../../flow/WorkCaution.vue'
import StagePage from '../../places/folder/StagePage.vue'
import { useFolder } from '../../stores/folder.ts'
import WorkTabs from '../../widgets/WorkTabs.vue'
import PointDrawing from './PointDrawing.vue'
import { sure } from '@calm-loop/core/sure'

const BEFORE_ZERO =
  'Full, at temperature, blocked in on both sides. The scatter while it averages decides whether the new zero is ' +
  'worth having.'
const folder = useFolder()
const WORKS = [
  { id: 'constants', name: 'Sensor and constants' },
  { id: 'units', name: 'Units, pulses, display' },
  { id: 'totals', name: 'Totals' },
  { id: 'setup', name: 'Set up and read back' },
  { id: 'memory', name: 'Lost memory' },
  { id: 'zero', name: 'Zero' },
  { id: 'health', name: 'Health' },
  { id: 'density', name: 'Density' },
  { id: 'doubt', name: 'Doubt' },
]
const r = computed(() => sure(folder.reader))
</script>

<template>
  <WorkTabs v-slot="{ work }" :works="WORKS" label="Work at the Coriolis point">
    <StagePage
      v-if="work === 'constants'"
      stage="point"
      title="Sensor and constants"
      :groups="['Sensor', 'Fluid']"
      :only="['slope', 'delay-full', 'cutoff-delay']"
    >
      <template #drawing><PointDrawing /></template>
      <template #more><ConstantsTable /></template>
    </StagePage>
    <StagePage
      v-else-if="work === 'units'"
      stage="point"
      title="Units, pulses, display"
      :groups="['Units', 'Pulse output', 'Display']"
      :only="['pulse-frequency', 'kg-per-pulse', 'flow-at-limit']"
    />
    <template v-else-if="work === 'totals'">
      <StagePage stage="point" title="Totals" :groups="['Totals']" :only="[]" />
      <SheetRun sheet="totals" />
    </template>
    <ReadBack v-else-if="work === 'setup'" />
    <template v-else-if="work === 'memory'">
      <SheetRun sheet="memory" />
      <MeterBench><ReadBack /></MeterBench>
    </template>
    <template v-else-if="work === 'zero'">
      <SheetRun sheet="zero" />
      <MeterBench>
        <ZeroPanel unit="ns" :times="1000" :limit="r.in('zeroLimit', 'ns')" :says="BEFORE_ZERO" />
      </MeterBench>
    </template>
    <template v-else-if="work === 'health'">
      <SheetRun sheet="health" />
      <MeterBench><HealthPanel /></MeterBench>
      <StagePage stage="point" title="Health check entries" :groups="['Health check']" :only="[]" />
    </template>
    <template v-else-if="work === 'density'">
      <SheetRun sheet="density" />
      <DensityCheck />
    </template>
    <StagePage v-else stage="point" title="Doubt" :groups="[]" :only="[]">
      <template #beside><DoubtPanel /></template>
    </StagePage>
    <WorkCaution v-if="work !== 'constants' && work !== 'units' && work !== 'totals'" />
  </WorkTabs>
</template>
