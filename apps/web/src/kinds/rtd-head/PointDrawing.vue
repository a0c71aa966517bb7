<script setup lang="ts">
// The thermometer in its pipe: head, leads, element at the tip, and the temperature range beside what the process can
// come to.
import { convertUnit } from '@calm-loop/core/quantity'
import { computed } from 'vue'
import { useFolder } from '../../stores/folder.ts'
import { usePreferences } from '../../stores/preferences.ts'
import { useThread } from '../../stores/thread.ts'
import { sure } from '@calm-loop/core/sure'
import { spreadLabels } from '../../places/folder/labels.ts'

const folder = useFolder()
const thread = useThread()
const preferences = usePreferences()
const TOP = 36
const BOTTOM = 286
const r = computed(() => sure(folder.reader))
const leads = computed(() => Number(r.value.text('leads')) || 0)
const unit = computed(() => thread.thread?.knots[0]?.unit ?? 'degC')
const show = (c: number) =>
  preferences.quantity(convertUnit(c, 'degC', unit.value), unit.value, { decimals: 1, trim: true })
const at = (key: string) => r.value.in(key, 'degC')
const span = computed(() => {
  const all = ['lrv', 'urv', 'lowest', 'highest'].map(at).filter((v): v is number => v !== undefined)
  if (!all.length) return undefined
  const low = Math.min(...all)
  const high = Math.max(...all)
  return high > low ? { low, high } : undefined
})
const y = (c: number) => {
  const s = sure(span.value)
  return BOTTOM - ((Math.min(s.high, Math.max(s.low, c)) - s.low) / (s.high - s.low)) * (BOTTOM - TOP)
}
const now = computed(() => {
  const k = thread.expected[0]
  return k?.known ? convertUnit(k.value, unit.value, 'degC') : undefined
})
const resistance = computed(() => {
  const k = thread.expected[1]
  return k?.known ? preferences.quantity(k.value, 'Ohm') : undefined
})
const immersion = computed(() => r.value.in('immersion', 'mm'))
const leadXs = computed(() => (leads.value === 4 ? [-9, -3, 3, 9] : leads.value === 3 ? [-7, 0, 7] : [-5, 5]))
const rangeKnown = computed(() => at('lrv') !== undefined && at('urv') !== undefined)
const processKnown = computed(() => at('lowest') !== undefined && at('highest') !== undefined)
const title = computed(
  () =>
    `${r.value.text('element')} with ${leads.value || 'unknown'} ` +
    `leads${immersion.value === undefined ? '' : `, ${immersion.value} mm in the flow`}; ` +
    `${now.value === undefined ? '' : show(now.value)} ${resistance.value ?? ''}`,
)
/** Heights of the two figures of the process: never on one another. */
const processYs = computed(() =>
  processKnown.value && span.value ? spreadLabels([y(sure(at('highest'))) + 5, y(sure(at('lowest'))) + 5], 20) : [0, 0],
)
</script>

<template>
  <figure class="probe">
    <svg class="worded" viewBox="0 0 760 312" role="img" :aria-label="title">
      <path d="M30 150H350M30 290H350" class="pipe" />
      <path d="M40 220H92M84 214l10 6l-10 6" class="flow" />
      <text x="40" y="204" class="small">flow</text>
      <rect x="196" y="130" width="48" height="20" class="metal" />
      <path d="M208 150V246a12 12 0 0 0 24 0V150" class="well" />
      <line v-for="dx in leadXs" :key="dx" :x1="220 + dx" :x2="220 + dx" y1="92" y2="236" class="lead" />
      <rect x="210" y="232" width="20" height="16" class="element" />
      <rect x="170" y="40" width="100" height="52" rx="4" class="head" />
      <text x="220" y="62" class="mid">transmitter</text>
      <text x="220" y="82" class="mid small figures">{{ r.text('element') }}</text>
      <text v-if="leads" x="250" y="122" class="small">{{ leads }} wires</text>
      <text v-else x="250" y="122" class="needs">needs sensor leads</text>
      <g v-if="immersion !== undefined">
        <path d="M272 150H292M272 258H292M282 150V258" class="dim" />
        <text x="296" y="210" class="small">{{ preferences.quantity(immersion, 'mm', { trim: true }) }}</text>
      </g>
      <text v-if="now !== undefined" x="196" y="276" class="end live">{{ show(now) }}</text>
      <text v-if="resistance" x="150" y="120" class="end figures small">{{ resistance }}</text>

      <template v-if="span">
        <line x1="520" x2="520" :y1="TOP" :y2="BOTTOM" class="scale" />
        <g v-if="rangeKnown">
          <rect
            x="512"
            :y="Math.min(y(at('lrv')!), y(at('urv')!))"
            width="16"
            :height="Math.abs(y(at('lrv')!) - y(at('urv')!))"
            class="range"
          />
          <text x="540" :y="y(at('urv')!) + 5" class="action">20 mA at {{ show(at('urv')!) }}</text>
          <text x="540" :y="y(at('lrv')!) + 5" class="action">4 mA at {{ show(at('lrv')!) }}</text>
        </g>
        <g v-if="processKnown">
          <path :d="`M498 ${y(at('lowest')!)}H504V${y(at('highest')!)}H498`" class="dim" />
          <text x="492" :y="processYs[0]" class="end">process to {{ show(at('highest')!) }}</text>
          <text x="492" :y="processYs[1]" class="end">from {{ show(at('lowest')!) }}</text>
        </g>
        <g v-if="now !== undefined">
          <circle cx="520" :cy="y(now)" r="7" class="ring" />
          <text x="540" :y="y(now) + 5">{{ show(now) }}</text>
        </g>
      </template>
      <text v-else x="520" y="150" class="needs">needs range and process temperatures</text>
    </svg>
  </figure>
</template>

<style scoped>
.probe {
  margin: 0;
  max-width: 800px;
}
.pipe,
.head,
.metal,
.well {
  fill: none;
  stroke: var(--ink);
  stroke-width: 2.2;
}
.head,
.metal {
  fill: var(--sheet);
}
.well {
  fill: var(--ground);
}
.lead {
  stroke: var(--second);
  stroke-width: 1.4;
}
.element {
  fill: var(--sheet);
  stroke: var(--ink);
  stroke-width: 2;
}
.flow,
.dim {
  fill: none;
  stroke: var(--second);
  stroke-width: 1.4;
}
.scale {
  stroke: var(--second);
}
.range {
  fill: var(--action);
  opacity: 0.25;
}
.ring {
  fill: var(--ground);
  stroke: var(--ink);
  stroke-width: 2;
}
</style>
