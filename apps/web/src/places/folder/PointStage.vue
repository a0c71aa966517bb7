<script setup lang="ts">
// Point: what the measurement needs to know, around the drawing of its kind.
import { computed, defineAsyncComponent, type Component } from 'vue'
import { useFolder } from '../../stores/folder.ts'
import StagePage from './StagePage.vue'

/** Each kind's drawing, found by its folder's name. */
const DRAWINGS = import.meta.glob<{ default: Component }>('../../kinds/*/PointDrawing.vue')
/** A kind whose point is more than entries has a page of its own. */
const PAGES = import.meta.glob<{ default: Component }>('../../kinds/*/PointPage.vue')
const folder = useFolder()
const own = computed(() => {
  const load = PAGES[`../../kinds/${folder.kind?.id}/PointPage.vue`]
  return load ? defineAsyncComponent(load) : undefined
})
const drawing = computed(() => {
  const load = DRAWINGS[`../../kinds/${folder.kind?.id}/PointDrawing.vue`]
  return load ? defineAsyncComponent(load) : undefined
})
</script>

<template>
  <component :is="own" v-if="own" />
  <StagePage v-else stage="point" title="Point" :caution="folder.kind?.check.cautions[1]">
    <template v-if="drawing" #drawing><component :is="drawing" /></template>
  </StagePage>
</template>
