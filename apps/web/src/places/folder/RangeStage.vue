<script setup lang="ts">
// Range: what 4 and 20 mA mean at both ends of the wire; the same converted, as a table, and set anew.
import RangeConvert from '../../range/RangeConvert.vue'
import RangeTable from '../../range/RangeTable.vue'
import ReRange from '../../range/ReRange.vue'
import WorkTabs from '../../widgets/WorkTabs.vue'
import RangeEnds from './RangeEnds.vue'
import StagePage from './StagePage.vue'

const WORKS = [
  { id: 'ends', name: 'Both ends' },
  { id: 'convert', name: 'Convert' },
  { id: 'table', name: 'Table' },
  { id: 're-range', name: 'Re-range' },
]
const CAUTION =
  'Changing a range moves the signal at once: operations told, loop in manual, trips by-passed with permission.'
</script>

<template>
  <WorkTabs v-slot="{ work }" :works="WORKS" label="Range work">
    <StagePage v-if="work === 'ends'" stage="range" title="Range" :caution="CAUTION">
      <template #drawing><RangeEnds /></template>
    </StagePage>
    <RangeConvert v-else-if="work === 'convert'" />
    <RangeTable v-else-if="work === 'table'" />
    <ReRange v-else />
  </WorkTabs>
</template>
