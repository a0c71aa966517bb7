<script setup lang="ts">
// The error plot of a check, drawn for the width it has, so that its letters keep their size.
import { useFolder } from '../stores/folder.ts'
import type { Check } from '@calm-loop/contract'
import { errorPlot, plottedOf } from '@calm-loop/drawing'
import { useElementSize } from '@vueuse/core'
import { computed, ref } from 'vue'
import SceneSvg from './SceneSvg.vue'

const folder = useFolder()
const props = defineProps<{ check: Check; height: number }>()
const box = ref<HTMLElement>()
const { width } = useElementSize(box)
const scene = computed(() =>
  errorPlot({
    ...plottedOf(folder.judged(props.check), props.check.tolerancePct),
    filled: props.check.phase === 'as-left',
    planned: props.check.points.map((p) => p.percent),
    width: Math.max(320, Math.round(width.value)),
    height: props.height,
  }),
)
</script>

<template>
  <div ref="box"><SceneSvg v-if="width > 0" :scene="scene" /></div>
</template>
