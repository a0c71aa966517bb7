<script setup lang="ts">
// The planned points of a check of a current, with current and error read at each.
import { useFolder } from '../../stores/folder.ts'
import type { Check } from '@calm-loop/contract'
import { pointWords } from '@calm-loop/core/check'
import { computed } from 'vue'
import type { Pending } from '../../stores/outbox.ts'
import { usePreferences } from '../../stores/preferences.ts'
import PointLines from './PointLines.vue'

const folder = useFolder()
const props = defineProps<{ check: Check; at: number; waiting: Map<number, Pending> }>()
const emit = defineEmits<{ go: [index: number] }>()
const preferences = usePreferences()
const judged = computed(() => new Map(folder.judged(props.check)?.judged.map((j) => [j.reading.pointIndex, j])))
</script>

<template>
  <PointLines
    v-slot="{ index }"
    :check="check"
    :at="at"
    :waiting="waiting"
    :words="pointWords"
    :judged="new Set(judged.keys())"
    @go="emit('go', $event)"
  >
    <span class="figures read">{{
      preferences.quantity(judged.get(index)!.main.read, judged.get(index)!.main.unit)
    }}</span>
    <span class="figures"
      >{{ preferences.number(judged.get(index)!.worst.errorPct, { decimals: 3, sign: true }) }} %</span
    >
    <span class="saved">saved</span>
  </PointLines>
</template>
