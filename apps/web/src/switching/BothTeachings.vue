<script setup lang="ts">
// Both teachings about “on by nature”, side by side, with the current that they speak of drawn between them.
import { bothTeach, teachingsOf } from '@calm-loop/core/kinds'
import { computed } from 'vue'
import { useFolder } from '../stores/folder.ts'
import { usePreferences } from '../stores/preferences.ts'
import { sure } from '@calm-loop/core/sure'

const folder = useFolder()
const preferences = usePreferences()
const r = computed(() => sure(folder.reader))
const output = computed(() => r.value.text('output') as 'PNP' | 'NPN')
const supply = computed(() => r.value.in('supply', 'V'))
const low = computed(() => r.value.text('common') === 'negative')
const teachings = computed(() => (folder.run ? teachingsOf(folder.run, output.value, supply.value) : undefined))
const V = (v: number) => preferences.quantity(Math.abs(v) < 0.05 ? 0 : v, 'V', { decimals: 1 })
/** The stage stands between the wire and its pole, the input between the wire and its common. */
const stageAt = computed(() => (output.value === 'NPN' ? 'low' : 'high'))
</script>

<template>
  <details v-if="teachings" class="teach fold">
    <summary>Is an {{ output }} “on by nature”? Both teachings, side by side</summary>
    <div class="grid" role="table" aria-label="Both teachings">
      <div role="row" class="heads">
        <b role="columnheader">Looking at the wire</b>
        <b role="columnheader">What flows</b>
        <b role="columnheader">Looking at the output</b>
      </div>
      <div v-for="t in teachings" :key="String(t.target)" role="row" :data-target="t.target ? 'there' : 'away'">
        <p role="cell">{{ t.atTheWire }}</p>
        <div role="cell">
          <svg class="worded" viewBox="0 0 240 150" role="img" :aria-label="t.current">
            <text x="4" y="16" class="small">+</text>
            <line x1="20" x2="232" y1="12" y2="12" class="rail" />
            <line x1="20" x2="232" y1="138" y2="138" class="rail" />
            <text x="4" y="142" class="small">−</text>
            <line x1="60" x2="180" y1="75" y2="75" class="rail" :class="{ flows: t.conducting && t.inputOn }" />
            <text x="120" y="68" class="mid figures">{{ V(t.signalV) }}</text>
            <g :transform="stageAt === 'high' ? 'translate(0 12)' : 'translate(0 75)'">
              <line x1="60" x2="60" y1="0" y2="20" class="rail" :class="{ flows: t.conducting }" />
              <line
                x1="60"
                :x2="t.conducting ? 60 : 76"
                y1="20"
                y2="44"
                class="rail"
                :class="{ flows: t.conducting }"
              />
              <line x1="60" x2="60" y1="44" y2="63" class="rail" :class="{ flows: t.conducting }" />
              <text x="50" y="36" class="end small">output</text>
            </g>
            <g :transform="low ? 'translate(0 75)' : 'translate(0 12)'">
              <line x1="180" x2="180" y1="0" y2="63" class="rail" :class="{ flows: t.inputOn }" />
              <rect x="172" y="16" width="16" height="30" class="box" />
              <text x="194" y="36" class="small">input</text>
            </g>
          </svg>
          <p class="small">Target {{ t.target ? 'there' : 'away' }}. {{ t.current }}</p>
        </div>
        <p role="cell">{{ t.atTheStage }}</p>
      </div>
    </div>
    <p>{{ bothTeach(output) }}</p>
  </details>
</template>

<style scoped>
.grid > div {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 260px minmax(0, 1fr);
  gap: 24px;
  align-items: center;
}
.heads b:last-child,
.grid > div > p:last-child {
  text-align: left;
}
.rail {
  stroke: var(--ink);
  stroke-width: 1.4;
}
.rail.flows {
  stroke: var(--signal);
  stroke-width: 3.5;
}
.box {
  fill: var(--sheet);
  stroke: var(--ink);
}
@media (max-width: 740px) {
  .heads {
    display: none !important;
  }
  .grid > div {
    grid-template-columns: minmax(0, 1fr);
    gap: 4px;
  }
}
</style>
