<script setup lang="ts">
// A thermal insertion point: mounting, certificate and baseline, insertion, verification in its place, doubt, set-up.
import { insertionOf } from '@calm-loop/core/kinds'
import { computed } from 'vue'
import DoubtPanel from '../../flow/DoubtPanel.vue'
import MeterBench from '../../flow/MeterBench.vue'
import ReadBack from '../../flow/ReadBack.vue'
import SheetRun from '../../flow/SheetRun.vue'
import VerifyPanel from '../../flow/VerifyPanel.vue'
import WorkCaution from '../../flow/WorkCaution.vue'
import StagePage from '../../places/folder/StagePage.vue'
import { useFolder } from '../../stores/folder.ts'
import { useLive } from '../../stores/live.ts'
import WorkTabs from '../../widgets/WorkTabs.vue'
import PointDrawing from './PointDrawing.vue'
import { sure } from '@calm-loop/core/sure'

const folder = useFolder()
const live = useLive()
const WORKS = [
  { id: 'mounting', name: 'Mounting and gas' },
  { id: 'certificate', name: 'Certificate and baseline' },
  { id: 'insert', name: 'Insert' },
  { id: 'verify', name: 'Verify in its place' },
  { id: 'doubt', name: 'Doubt' },
  { id: 'setup', name: 'Set up and read back' },
]
const insertion = computed(() => insertionOf(sure(folder.reader)))
const offers = computed(() => {
  const found: Record<string, string> = insertion.value ? { in: `${insertion.value.insert_mm.toFixed(0)} mm` } : {}
  const reading = live.reading?.meter
  if (reading?.gas && reading.digital !== null)
    for (const n of [1, 2, 3, 4]) found[`point-${n}`] = `${reading.digital.toFixed(1)} ${live.limits?.unit ?? 'kg/h'}`
  return found
})
</script>

<template>
  <WorkTabs v-slot="{ work }" :works="WORKS" label="Work at the thermal meter">
    <StagePage
      v-if="work === 'mounting'"
      stage="point"
      title="Mounting and gas"
      :groups="['Mounting', 'Gas']"
      :only="['insert', 'clear', 'travel', 'gas-density', 'velocity-full']"
    >
      <template #drawing><PointDrawing /></template>
      <template #beside><p class="quiet small">Gas figures by AGA Report No. 8 Part 1, DETAIL.</p></template>
    </StagePage>
    <StagePage
      v-else-if="work === 'certificate'"
      stage="point"
      title="Certificate and baseline"
      :groups="['Certificate', 'Baseline']"
      :only="['nozzle']"
    />
    <template v-else-if="work === 'insert'">
      <PointDrawing />
      <SheetRun sheet="insert" :offers="offers" />
    </template>
    <template v-else-if="work === 'verify'">
      <VerifyPanel />
      <SheetRun sheet="verify" :offers="offers" />
      <MeterBench />
    </template>
    <StagePage v-else-if="work === 'doubt'" stage="point" title="Doubt" :groups="[]" :only="[]">
      <template #beside><DoubtPanel /></template>
    </StagePage>
    <ReadBack v-else />
    <WorkCaution />
  </WorkTabs>
</template>
