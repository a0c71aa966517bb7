<script setup lang="ts">
// A level by probe, in the order of the work: probe and liquid, vessel, quick set-up, read-back.
import { probeGeometry } from '@calm-loop/core/kinds'
import { computed } from 'vue'
import ReadBack from '../../flow/ReadBack.vue'
import SheetRun from '../../flow/SheetRun.vue'
import SiteRows from '../../flow/SiteRows.vue'
import WorkCaution from '../../flow/WorkCaution.vue'
import StagePage from '../../places/folder/StagePage.vue'
import { useFolder } from '../../stores/folder.ts'
import WorkTabs from '../../widgets/WorkTabs.vue'
import PointDrawing from './PointDrawing.vue'
import { sure } from '@calm-loop/core/sure'

const folder = useFolder()
const isProbe = computed(() => probeGeometry(sure(folder.reader)).make !== undefined)
const works = computed(() => [
  { id: 'probe', name: isProbe.value ? 'Probe and liquid' : 'Sensor' },
  { id: 'vessel', name: 'Vessel' },
  ...(isProbe.value
    ? [
        { id: 'quick', name: 'Quick set-up' },
        { id: 'setup', name: 'Set up and read back' },
      ]
    : []),
])
const ON_PROBE = ['probe-4', 'probe-20', 'probe-span', 'dielectric', 'usual-top', 'usual-bottom']
</script>

<template>
  <WorkTabs v-slot="{ work }" :works="works" label="Work at the probe">
    <StagePage
      v-if="work === 'probe'"
      stage="point"
      title="Probe and liquid"
      :groups="['Probe', 'Liquid', 'Sensor']"
      :only="ON_PROBE"
    >
      <template #drawing><PointDrawing /></template>
      <template #more><SiteRows :tables="['dielectric']" /></template>
    </StagePage>
    <StagePage
      v-else-if="work === 'vessel'"
      stage="point"
      title="Vessel"
      :groups="['Vessel']"
      :only="['below-end', 'empty-above', 'volume-dead', 'volume-full', 'volume-overflow']"
    >
      <template #drawing><PointDrawing /></template>
    </StagePage>
    <template v-else-if="work === 'quick'">
      <PointDrawing />
      <SheetRun sheet="quick-set-up" />
    </template>
    <ReadBack v-else />
    <WorkCaution />
  </WorkTabs>
</template>
