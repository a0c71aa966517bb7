<script setup lang="ts">
// The vibrating tube and what its two ends tell: the same swing, one a little later than the other, by the mass that
// flows.
import { CONSTANTS, coriolisOf, tagKey } from '@calm-loop/core/kinds'
import { computed } from 'vue'
import { useFolder } from '../../stores/folder.ts'
import { usePreferences } from '../../stores/preferences.ts'
import { useThread } from '../../stores/thread.ts'
import { sure } from '@calm-loop/core/sure'

const folder = useFolder()
const thread = useThread()
const preferences = usePreferences()
const r = computed(() => sure(folder.reader))
const c = computed(() => coriolisOf(r.value))
const delay = computed(() => {
  const k = thread.valueAt('delay')
  return k?.known ? k.value : undefined
})
const flow = computed(() => {
  const k = thread.expected[0]
  return k?.known ? preferences.quantity(k.value, sure(sure(thread.thread).knots[0]).unit, { decimals: 1 }) : ''
})
const against = computed(() => r.value.text('direction') === 'against the arrow')
const full = computed(() => thread.scales[1]?.high)
/** The later end is drawn shifted so that it can be seen: an eighth of a swing at the upper range value. */
const shift = computed(() =>
  delay.value === undefined || !full.value ? 0 : Math.max(-1.4, Math.min(1.4, delay.value / full.value)) * 24,
)
const wave = (dx: number) =>
  Array.from(
    { length: 91 },
    (_, i) =>
      `${i ? 'L' : 'M'}${(452 + i * 3).toFixed(1)} ` +
      `${(150 - 58 * Math.sin(((i * 3 - dx) / 270) * 4 * Math.PI)).toFixed(1)}`,
  ).join('')
const period = computed(() =>
  [c.value.constants['lowPeriod'], c.value.constants['highPeriod']].every((v) => typeof v === 'number')
    ? `${r.value.text(tagKey('lowPeriod'))} … ${r.value.text(tagKey('highPeriod'))} µs`
    : '',
)
const missing = computed(() => r.value.missing(...CONSTANTS.filter((k) => !k.optional).map((k) => tagKey(k.key))))
const title = computed(() =>
  delay.value === undefined
    ? 'Vibrating tube; constants still to be entered'
    : `Vibrating tube: the outlet swings ${delay.value.toFixed(3)} µs after the inlet at ${flow.value}`,
)
</script>

<template>
  <figure class="tube">
    <svg class="worded" viewBox="0 0 760 290" role="img" :aria-label="title">
      <path
        d="M40 214H96C120 214 128 200 128 176V108C128 62 150 44 196 44H244C290 44 312 62 312 108V176C312 200 320 214 344 214H400"
        class="wall"
      />
      <path
        d="M40 214H96C120 214 128 200 128 176V108C128 62 150 44 196 44H244C290 44 312 62 312 108V176C312 200 320 214 344 214H400"
        class="bore"
      />
      <path
        d="M40 214H96C120 214 118 200 120 172V104C124 56 150 36 196 42H244C292 52 320 70 320 112V180C320 204 324 214 344 214H400"
        class="twist"
      />
      <path :d="against ? 'M92 240H52m10 -6l-10 6l10 6' : 'M52 240h40m-10 -6l10 6l-10 6'" class="flow" />
      <text x="52" y="264" class="small">{{ against ? 'flow against the arrow' : 'flow with the arrow' }}</text>
      <rect x="204" y="22" width="32" height="14" class="part" />
      <text x="220" y="14" class="mid small">drive</text>
      <g class="pick">
        <circle cx="128" cy="130" r="8" />
        <text x="106" y="135" class="end small">inlet</text>
      </g>
      <g class="pick late">
        <circle cx="312" cy="130" r="8" />
        <text x="330" y="135" class="small">outlet</text>
      </g>
      <text x="220" y="150" class="mid figures">{{ r.text('size') }}</text>
      <text x="220" y="172" class="mid small">{{ r.text('sensorSerial') || 'sensor' }}</text>
      <path d="M446 150H728" class="axis" />
      <path :d="wave(0)" class="first" />
      <path :d="wave(shift)" class="second" />
      <text x="452" y="70" class="small">inlet</text>
      <text x="500" y="70" class="small late-words">outlet, later by</text>
      <text x="612" y="70" class="fig strong" data-test="delay">
        {{ delay === undefined ? '' : preferences.quantity(delay, 'us', { decimals: 3 }) }}
      </text>
      <text x="452" y="236" class="small">time; the delay drawn larger{{ flow ? `, at ${flow}` : '' }}</text>
      <text v-if="period" x="452" y="258" class="small">period by density: {{ period }}</text>
      <text v-if="missing.length" x="0" y="284" class="needs">
        needs {{ missing.length > 3 ? `${missing.length} constants of the tag` : missing.join(', ') }}
      </text>
    </svg>
  </figure>
</template>

<style scoped>
.tube {
  margin: 0;
  max-width: 860px;
}
.wall {
  fill: none;
  stroke: var(--ink);
  stroke-width: 20;
}
.bore {
  fill: none;
  stroke: var(--sheet);
  stroke-width: 16;
}
.twist {
  fill: none;
  stroke: var(--action);
  stroke-width: 2;
  stroke-dasharray: 5 5;
}
.flow,
.axis {
  fill: none;
  stroke: var(--second);
  stroke-width: 1.4;
}
.part {
  fill: var(--sheet);
  stroke: var(--ink);
  stroke-width: 1.8;
}
.pick circle {
  fill: var(--ink);
}
.pick.late circle {
  fill: var(--action);
}
.first,
.second {
  fill: none;
  stroke: var(--ink);
  stroke-width: 2.2;
}
.second {
  stroke: var(--action);
}
.late-words {
  fill: var(--action);
}
.fig {
  font-family: var(--figures);
}
.strong {
  font-weight: 650;
}
</style>
