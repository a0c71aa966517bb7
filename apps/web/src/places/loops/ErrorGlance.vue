<script setup lang="ts">
// The worst error of the last check on a small scale from − to + tolerance.
import { placeOnScale } from '@calm-loop/drawing'
import { computed } from 'vue'
import { usePreferences } from '../../stores/preferences.ts'

const props = defineProps<{ error: number | null; tolerance: number | null; discrete?: boolean }>()
const of = computed(() => (props.discrete ? 'of the distance' : 'of span'))
const preferences = usePreferences()
const place = computed(() =>
  props.error === null || props.tolerance === null
    ? undefined
    : placeOnScale(props.error, -props.tolerance, props.tolerance),
)
</script>

<template>
  <span v-if="place && error !== null && tolerance !== null" class="glance">
    <svg
      width="112"
      height="24"
      role="img"
      :aria-label="`error ${preferences.number(error, { decimals: 2, sign: true })} % ${of}, tolerance ${tolerance} %`"
    >
      <line x1="10" x2="102" y1="12" y2="12" class="line" />
      <line
        v-for="x in [10, 56, 102]"
        :key="x"
        :x1="x"
        :x2="x"
        :y1="x === 56 ? 8 : 4"
        :y2="x === 56 ? 16 : 20"
        class="line"
      />
      <rect :x="10 + place.at * 92 - 4" y="8" width="8" height="8" class="mark" />
    </svg>
    <span class="figures">{{ preferences.number(error, { decimals: 2, sign: true }) }}</span>
    <span class="small quiet">{{ of }}</span>
  </span>
  <span v-else-if="tolerance !== null" class="quiet small">witnesses only</span>
  <span v-else class="quiet small">not checked yet</span>
</template>

<style scoped>
.glance {
  vertical-align: middle;
  display: inline-flex;
  align-items: center;
  gap: 8px;
}
.line {
  stroke: var(--second);
}
.mark {
  fill: var(--signal);
}
</style>
