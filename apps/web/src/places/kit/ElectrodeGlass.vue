<script setup lang="ts">
// An electrode on the shelf, or hung at its point: how much of its slope is left stands in it as a liquid does.
import { computed } from 'vue'
import type { KnownElectrode } from '../../stores/electrodes.ts'

const props = defineProps<{
  electrode: KnownElectrode
  chosen: boolean
  grade: 'ready' | 'look' | 'stop'
  says: string
}>()
const emit = defineEmits<{ choose: [] }>()
const now = computed(() => props.electrode.now)
const [TOP, BOTTOM] = [40, 128]
/** Of a slope what is left above 90 %; of a redox electrode what its offset leaves of 30 mV. */
const left = computed(() => {
  const { last } = now.value
  if (!last) return 0
  const share =
    last.slopePercent === undefined ? 1 - Math.abs(last.offset_mV) / 30 : (last.slopePercent - 90) / (100 - 90)
  return Math.min(1, Math.max(0.04, share))
})
const place = computed(() => {
  const { place: p } = now.value
  return p.at === 'point' ? p.tag : p.at === 'retired' ? 'out of use' : ''
})
const figures = computed(() => {
  const { last } = now.value
  if (!last) return 'not calibrated'
  return last.slopePercent === undefined
    ? `${last.offset_mV.toFixed(1).replace('-', '−')} mV`
    : `${last.slopePercent.toFixed(1)} %`
})
</script>

<template>
  <button
    type="button"
    class="glass"
    :class="grade"
    :aria-pressed="chosen"
    :data-electrode="now.serial"
    @click="emit('choose')"
  >
    <svg viewBox="0 0 76 168" width="76" height="168" aria-hidden="true">
      <path v-if="place" d="M38 0V18" class="cable" />
      <rect x="27" y="18" width="22" height="20" rx="3" class="head" />
      <path :d="`M31 38V${BOTTOM}a7 7 0 0 0 14 0V38`" class="body" />
      <path
        :d="`M31 ${BOTTOM - left * (BOTTOM - TOP)}V${BOTTOM}a7 7 0 0 0 14 0V${BOTTOM - left * (BOTTOM - TOP)}Z`"
        class="left"
      />
      <path v-if="!place" d="M27 120V146H49V120" class="cap" />
    </svg>
    <b class="figures">{{ now.serial }}</b>
    <span class="small figures">{{ figures }}</span>
    <span class="small place">{{ place || says }}</span>
  </button>
</template>

<style scoped>
.glass {
  display: grid;
  justify-items: center;
  align-content: start;
  width: 132px;
  padding: 4px 4px 10px;
  align-self: stretch;
  background: none;
  border: 0;
  border-bottom: 3px solid transparent;
  font: inherit;
  color: var(--ink);
  cursor: pointer;
}
.glass[aria-pressed='true'] {
  border-bottom-color: var(--action);
}
.place {
  color: var(--second);
  text-align: center;
}
.cable,
.body,
.cap,
.head {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1.8;
}
.cap {
  stroke: var(--second);
}
.head {
  fill: var(--sheet);
}
.left {
  fill: var(--action);
  opacity: 0.55;
}
.look .left {
  fill: var(--look);
}
.stop .left {
  fill: var(--stop);
}
.stop .place {
  color: var(--stop);
}
</style>
