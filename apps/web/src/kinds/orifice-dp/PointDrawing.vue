<script setup lang="ts">
// The plate in its pipe, bore to scale, the pressure falling across it; and the flow over the differential pressure,
// with the one root that makes it straight.
import { flowAt, plateOf } from '@calm-loop/core/kinds'
import { attempt, Refusal } from '@calm-loop/core/refusal'
import { computed } from 'vue'
import { useFolder } from '../../stores/folder.ts'
import { usePreferences } from '../../stores/preferences.ts'
import { useThread } from '../../stores/thread.ts'
import { sure } from '@calm-loop/core/sure'

const folder = useFolder()
const thread = useThread()
const preferences = usePreferences()
const MID = 132
const HALF = 70
const X = 190
const r = computed(() => sure(folder.reader))
const p = computed(() => plateOf(r.value))
const full = computed(() => (p.value.full && !(p.value.full instanceof Refusal) ? p.value.full : undefined))
const beta = computed(() => {
  const [bore, pipe] = [r.value.in('bore', 'mm'), r.value.in('pipeBore', 'mm')]
  return bore !== undefined && pipe !== undefined && pipe > 0 && bore > 0 && bore < pipe ? bore / pipe : undefined
})
const gap = computed(() => HALF * (beta.value ?? 0.6))
const jet = computed(() => gap.value * 0.8)
const tap = computed(
  () => ({ corner: [6, 6], flange: [22, 22], 'D-D/2': [120, 66] })[r.value.text('taps') || 'flange'] ?? [22, 22],
)
const at = (id: string) => {
  const k = thread.valueAt(id)
  return k?.known ? k.value : undefined
}
const dp = computed(() => at('dp'))
const flow = computed(() => at('flow'))
const unit = computed(() => thread.thread?.knots[0]?.unit ?? 'kg/h')
const fullDp = computed(() => (full.value ? full.value.dp_kPa * 10 : undefined))
const fullFlow = computed(() => r.value.in('urv', 'kg/h'))
const GX = 470
const GW = 240
const GY = 226
const GH = 170
/** Exact flow over differential pressure, a few points: the standard's coefficient at each. */
const curve = computed(() => {
  const plate = p.value.plate
  if (!plate || !fullDp.value || !fullFlow.value) return ''
  return Array.from({ length: 25 }, (_, i) => {
    const share = (i / 24) ** 2
    const q = attempt(() => flowAt(plate, share * sure(fullDp.value)))
    return q instanceof Refusal
      ? ''
      : `${i ? 'L' : 'M'}${(GX + share * GW).toFixed(1)} ${(GY - (q / sure(fullFlow.value)) * GH).toFixed(1)}`
  }).join('')
})
const dot = computed(() => {
  if (dp.value === undefined || flow.value === undefined || !fullDp.value || !fullFlow.value) return undefined
  const full20 = thread.scales[0]?.high
  if (!full20) return undefined
  const clip = (v: number) => Math.max(0, Math.min(1.04, v))
  return { x: GX + clip(dp.value / fullDp.value) * GW, y: GY - clip(flow.value / full20) * GH }
})
const root = computed(() => r.value.text('rootAt'))
const rootWords = computed(
  () =>
    ({
      transmitter: '√ at the transmitter',
      receiver: '√ at the receiver',
      both: '√ twice: wrong',
      neither: 'no √: wrong',
    })[root.value] ?? '√ still to be placed',
)
const mm = (key: string) => preferences.quantity(sure(r.value.in(key, 'mm')), 'mm', { decimals: 2, trim: true })
const title = computed(() =>
  beta.value === undefined
    ? 'Orifice plate, still to be entered'
    : `Orifice plate, β ${beta.value.toFixed(3)}` +
      (fullDp.value ? `, ${preferences.quantity(fullDp.value, 'mbar', { decimals: 1 })} at full flow` : '') +
      `; ${rootWords.value}`,
)
</script>

<template>
  <figure class="plate">
    <svg class="worded" viewBox="0 -14 760 300" role="img" :aria-label="title" data-test="plate">
      <path :d="`M20 ${MID - HALF}H${X + 200}M20 ${MID + HALF}H${X + 200}`" class="wall" />
      <rect x="20" :y="MID - HALF" :width="X + 180" :height="2 * HALF" class="fluid" />
      <path
        v-for="n in [-0.75, -0.38, 0, 0.38, 0.75]"
        :key="n"
        :d="`M24 ${MID + n * HALF}H110C150 ${MID + n * HALF} 160 ${MID + n * gap} ${X} ${MID + n * gap}S${X + 46} ${MID + n * jet} ${X + 62} ${MID + n * jet}C${X + 120} ${MID + n * jet} ${X + 130} ${MID + n * HALF} ${X + 200} ${MID + n * HALF}`"
        class="stream"
      />
      <rect :x="X - 5" :y="MID - HALF - 14" width="10" :height="HALF - gap + 14" class="metal" />
      <rect :x="X - 5" :y="MID + gap" width="10" :height="HALF - gap + 14" class="metal" />
      <g v-if="beta !== undefined">
        <text :x="X" :y="MID + HALF + 34" class="mid fig">d {{ mm('bore') }}</text>
        <text x="24" :y="MID + HALF + 34" class="fig">D {{ mm('pipeBore') }}</text>
        <text :x="X + 190" :y="MID + HALF + 34" class="end fig">β {{ beta.toFixed(3) }}</text>
      </g>
      <path :d="`M${X - tap[0]!} ${MID - HALF}V14H${X + tap[1]!}V${MID - HALF}`" class="line" />
      <circle :cx="X" cy="14" r="15" class="cell" />
      <text :x="X" y="19" class="mid small">Δp</text>
      <text :x="X + tap[1]! + 12" y="14" class="fig strong" data-test="dp">
        {{ dp === undefined ? '' : preferences.quantity(dp, 'mbar', { decimals: 2 }) }}
      </text>
      <text :x="X + tap[1]! + 12" y="36" class="small">{{ r.text('taps') || 'flange' }} taps</text>
      <path :d="`M40 ${MID}h40m-10 -6l10 6l-10 6`" class="arrow" />
      <g v-if="curve">
        <path :d="`M${GX} ${GY}H${GX + GW + 12}M${GX} ${GY}V${GY - GH - 14}`" class="axis" />
        <path :d="curve" class="curve" />
        <path v-if="dot" :d="`M${dot.x} ${GY}V${dot.y}H${GX}`" class="drop" />
        <circle v-if="dot" :cx="dot.x" :cy="dot.y" r="7" class="ring" />
        <text :x="GX + GW" :y="GY + 20" class="end fig">
          {{ preferences.quantity(fullDp!, 'mbar', { decimals: 1 }) }}
        </text>
        <text :x="GX" :y="GY + 20" class="small">differential pressure</text>
        <text :x="GX + 8" :y="GY - GH - 4" class="fig">
          {{ preferences.quantity(fullFlow!, 'kg/h', { decimals: 0 }) }}
        </text>
        <text v-if="dot && flow !== undefined" :x="Math.min(dot.x + 12, 640)" :y="dot.y + 22" class="fig strong">
          {{ preferences.quantity(flow, unit, { decimals: 0 }) }}
        </text>
      </g>
      <text :x="GX" :y="GY + 46" :class="root === 'both' || root === 'neither' ? 'wrong' : ''" class="root">
        {{ rootWords }}
      </text>
      <text v-if="p.needs.length" x="0" y="280" class="needs">needs {{ p.needs.join(', ') }}</text>
    </svg>
  </figure>
</template>

<style scoped>
.plate {
  margin: 0;
  max-width: 860px;
}
.wall {
  stroke: var(--ink);
  stroke-width: 4;
}
.fluid {
  fill: var(--action);
  opacity: 0.1;
}
.stream {
  fill: none;
  stroke: var(--action);
  stroke-width: 1.4;
}
.metal {
  fill: var(--ink);
}
.line,
.axis {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1.6;
}
.cell {
  fill: var(--sheet);
  stroke: var(--ink);
  stroke-width: 1.8;
}
.arrow {
  fill: none;
  stroke: var(--second);
  stroke-width: 1.6;
}
.curve {
  fill: none;
  stroke: var(--action);
  stroke-width: 2.6;
}
.drop {
  fill: none;
  stroke: var(--second);
  stroke-dasharray: 3 4;
}
.ring {
  fill: var(--sheet);
  stroke: var(--ink);
  stroke-width: 2.4;
}
.fig {
  font-family: var(--figures);
}
.strong,
.root {
  font-weight: 650;
}
.wrong {
  fill: var(--stop);
}
</style>
