<script setup lang="ts">
// The live current and how steady it is: a short trend, a word, seconds to go.
import { computed } from 'vue'
import { useLive } from '../../stores/live.ts'
import { usePreferences } from '../../stores/preferences.ts'
import { trendPath } from '../../widgets/trendPath.ts'

const live = useLive()
const preferences = usePreferences()
const W = 90
const H = 30
const path = computed(() => trendPath(live.samples, { width: W, height: H, seconds: 12, least: 0.02 }))
const words = computed(() => {
  if (!live.connected) return live.problem || 'no live reading; type the figures'
  const s = live.steadiness
  if (s.state === 'stable') return 'steady'
  if (s.state === 'waiting') return `watching, ${Math.ceil(s.wait_s)} s to go`
  if (s.state === 'moving') return `moving, ${preferences.number(s.drift, { decimals: 3, sign: true })} mA in 4 s`
  return `noisy, ±${preferences.number(s.noise, { decimals: 3 })} mA`
})
</script>

<template>
  <div
    class="line"
    data-test="steady"
    :data-state="live.connected ? live.steadiness.state : 'none'"
    :data-wanted="live.reading?.wanted"
  >
    <svg width="18" height="18" aria-hidden="true">
      <circle cx="9" cy="9" r="5" class="dot" :class="{ off: !live.connected }" />
    </svg>
    <span v-if="live.reading && live.connected" class="figures live" data-test="live">{{
      preferences.quantity(live.reading.knots['current'] ?? live.reading.signal_mA ?? 0, 'mA')
    }}</span>
    <svg :viewBox="`0 0 ${W} ${H}`" :width="W" :height="H" aria-hidden="true"><path :d="path" class="trend" /></svg>
    <span class="words" :class="live.steadiness.state">{{ words }}</span>
  </div>
</template>

<style scoped>
.line {
  display: flex;
  align-items: center;
  gap: 10px;
  min-height: 44px;
  flex-wrap: wrap;
}
.dot {
  fill: var(--signal);
}
.dot.off {
  fill: none;
  stroke: var(--second);
}
.live {
  color: var(--signal);
  font-size: 22px;
  font-weight: 600;
  min-width: 6.4em;
}
.trend {
  fill: none;
  stroke: var(--signal);
  stroke-width: 1.5;
}
.words {
  color: var(--second);
}
.words.stable {
  color: var(--action);
  font-weight: 650;
}
</style>
