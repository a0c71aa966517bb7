<script setup lang="ts">
// A level by pressure, in the order of the work: what presses on the cell, what the calibrator must show, the vessel.
import SiteRows from '../../flow/SiteRows.vue'
import WorkCaution from '../../flow/WorkCaution.vue'
import StagePage from '../../places/folder/StagePage.vue'
import WorkTabs from '../../widgets/WorkTabs.vue'
import PointDrawing from './PointDrawing.vue'

const WORKS = [
  { id: 'arrangement', name: 'Arrangement and fills' },
  { id: 'cell', name: 'Cell and calibrator' },
  { id: 'vessel', name: 'Vessel' },
]
const GAUGE = [0, 25, 50, 75, 100].map((p) => `gauge-${p}`)
</script>

<template>
  <WorkTabs v-slot="{ work }" :works="WORKS" label="Work at the level by pressure">
    <StagePage
      v-if="work === 'arrangement'"
      stage="point"
      title="Arrangement and fills"
      :groups="['Arrangement', 'Liquid', 'Fill']"
      :only="['sg', 'fill-sg', 'dp-empty', 'dp-full', 'dp-span']"
    >
      <template #drawing><PointDrawing /></template>
      <template #more><SiteRows :tables="['fill']" /></template>
    </StagePage>
    <StagePage
      v-else-if="work === 'cell'"
      stage="point"
      title="Cell and calibrator"
      :groups="['Mounting', 'Sensor']"
      :only="GAUGE"
    >
      <template #drawing><PointDrawing /></template>
    </StagePage>
    <StagePage
      v-else
      stage="point"
      title="Vessel"
      :groups="['Vessel']"
      :only="['volume-dead', 'volume-full', 'volume-overflow']"
    >
      <template #drawing><PointDrawing /></template>
    </StagePage>
    <WorkCaution />
  </WorkTabs>
</template>
