<script setup lang="ts">
// Switch point of a discrete sensor: where it must see its target, for its metal and size.
import PointDrawing from '../../kinds/discrete-sensor/PointDrawing.vue'
import MetalTable from '../../switching/MetalTable.vue'
import StagePage from './StagePage.vue'
</script>

<template>
  <StagePage
    stage="switch-point"
    title="Switch point"
    caution="Moving machinery: isolate and lock it off before reaching in; keep hands out while it can move."
  >
    <template #drawing><PointDrawing /></template>
    <template #more><MetalTable /></template>
  </StagePage>
</template>
