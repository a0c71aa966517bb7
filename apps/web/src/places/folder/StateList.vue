<script setup lang="ts">
// The planned points of a discrete check, with where it changed and whether every witness agrees.
import type { Check } from '@calm-loop/contract'
import { standingByPoint } from '@calm-loop/contract/judging'
import { targetWords } from '@calm-loop/core/check'
import { computed } from 'vue'
import { useFolder } from '../../stores/folder.ts'
import type { Pending } from '../../stores/outbox.ts'
import { usePreferences } from '../../stores/preferences.ts'
import PointLines from './PointLines.vue'

const props = defineProps<{ check: Check; at: number; waiting: Map<number, Pending> }>()
const emit = defineEmits<{ go: [index: number] }>()
const folder = useFolder()
const preferences = usePreferences()
const judged = computed(() => new Map(folder.judgedStates(props.check)?.readings.map((j) => [j.reading.pointIndex, j])))
const where = (index: number) => {
  const applied = standingByPoint(props.check).get(index)?.applied
  return applied && applied.unit !== 'state' ? preferences.quantity(applied.value, applied.unit, { decimals: 2 }) : ''
}
</script>

<template>
  <PointLines
    v-slot="{ index }"
    :check="check"
    :at="at"
    :waiting="waiting"
    :words="targetWords"
    :judged="new Set(judged.keys())"
    @go="emit('go', $event)"
  >
    <span class="figures read">{{ where(index) }}</span>
    <span :class="judged.get(index)!.disagrees ? 'bad' : 'saved'">{{
      judged.get(index)!.disagrees ? 'a witness disagrees' : 'as expected, saved'
    }}</span>
  </PointLines>
</template>
