<script setup lang="ts">
import { probeGeometry } from '@calm-loop/core/kinds'
import { computed } from 'vue'
import RangeInLimits from '../direct/RangeInLimits.vue'
import { useFolder } from '../../stores/folder.ts'
import ProbeDrawing from './ProbeDrawing.vue'
import { sure } from '@calm-loop/core/sure'

const folder = useFolder()
const isProbe = computed(() => probeGeometry(sure(folder.reader)).make !== undefined)
</script>

<template>
  <ProbeDrawing v-if="isProbe" />
  <RangeInLimits v-else />
</template>
