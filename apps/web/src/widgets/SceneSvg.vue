<script setup lang="ts">
// A drawing given as data, in the theme's colours.
import { attributes, elementName, type Scene, type Tone } from '@calm-loop/drawing'

defineProps<{ scene: Scene }>()
const tone = (t: Tone) => (t === 'none' ? 'none' : `rgb(var(--v-theme-${t}))`)
</script>

<template>
  <svg :viewBox="`0 0 ${scene.width} ${scene.height}`" role="img" :aria-label="scene.title" class="scene">
    <component
      :is="elementName(shape)"
      v-for="(shape, i) in scene.shapes"
      :key="i"
      v-bind="attributes(shape, tone)"
      :class="{ figures: shape.kind === 'text' && shape.mono }"
    >
      {{ shape.kind === 'text' ? shape.text : '' }}
    </component>
  </svg>
</template>

<style scoped>
.scene {
  display: block;
  width: 100%;
  height: auto;
  font-family: var(--words);
}
</style>
