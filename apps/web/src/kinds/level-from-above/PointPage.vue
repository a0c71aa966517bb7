<script setup lang="ts">
// A level from above, in the order of the work: vessel and head, then what its beam meets on the way.
import { computed } from 'vue'
import WorkCaution from '../../flow/WorkCaution.vue'
import StagePage from '../../places/folder/StagePage.vue'
import { useFolder } from '../../stores/folder.ts'
import WorkTabs from '../../widgets/WorkTabs.vue'
import PointDrawing from './PointDrawing.vue'

const folder = useFolder()
const first = computed(() => (folder.reader?.text('watches') === 'target' ? 'Target and head' : 'Vessel and head'))
const WORKS = computed(() => [
  { id: 'vessel', name: first.value },
  { id: 'mounting', name: 'Mounting and path' },
])
const OF_PATH = ['beam-radius', 'sticks-at', 'vapour-error', 'sound-speed', 'echo-empty', 'warm-air']
const ofVessel = computed(() =>
  (folder.study?.figures ?? []).flatMap((f) => (f.stage === 'point' && !OF_PATH.includes(f.id) ? [f.id] : [])),
)
</script>

<template>
  <WorkTabs v-slot="{ work }" :works="WORKS" label="Work at the level from above">
    <StagePage v-if="work === 'vessel'" stage="point" :title="first" :groups="['Vessel', 'Device']" :only="ofVessel">
      <template #drawing><PointDrawing /></template>
    </StagePage>
    <StagePage v-else stage="point" title="Mounting and path" :groups="['Mounting', 'Path']" :only="OF_PATH">
      <template #drawing><PointDrawing /></template>
    </StagePage>
    <WorkCaution />
  </WorkTabs>
</template>
