<script setup lang="ts">
// Range: what 4 and 20 mA mean at both ends of the wire.
import RangeEnds from './RangeEnds.vue'
import StagePage from './StagePage.vue'
</script>

<template>
  <StagePage
    stage="range"
    title="Range"
    caution="Changing a range moves the signal at once: operations told, loop in manual, trips by-passed with permission."
  >
    <template #drawing><RangeEnds /></template>
  </StagePage>
</template>
