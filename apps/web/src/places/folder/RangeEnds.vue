<script setup lang="ts">
// Both ends of the wire as one scale against another: the transmitter's, the current's, the controller's, joined at 4, 12 and 20 mA.
import { readEntries } from '@calm-loop/core/kinds'
import { convertUnit } from '@calm-loop/core/quantity'
import { computed } from 'vue'
import { useFolder } from '../../stores/folder.ts'
import { usePreferences } from '../../stores/preferences.ts'
import { useThread } from '../../stores/thread.ts'

const folder = useFolder()
const thread = useThread()
const preferences = usePreferences()
const TOP = 46
const BOTTOM = 216
const X = [200, 380, 560]
const r = computed(() => readEntries(folder.kind!.fields, folder.entries))
const unit = computed(() => thread.thread?.knots.find((k) => k.role === 'digital')?.unit ?? 'mm')
const value = (key: string) => r.value.in(key, unit.value)
const ends = computed(() => ({
  lrv: value('lrv'),
  urv: value('urv'),
  low: value('receiverLow'),
  high: value('receiverHigh'),
}))
const show = (v: number) => preferences.quantity(v, unit.value, { trim: true })

/** Both value scales share one axis, so that a disagreement is a slope. */
const axis = computed(() => {
  const all = Object.values(ends.value).filter((v): v is number => v !== undefined)
  if (!all.length) return undefined
  const [low, high] = [Math.min(...all), Math.max(...all)]
  return high > low ? { low, high } : undefined
})
const reversed = computed(() => (ends.value.lrv ?? 0) > (ends.value.urv ?? 0))
const y = (v: number) => {
  const a = axis.value!
  const f = (v - a.low) / (a.high - a.low)
  return BOTTOM - (reversed.value ? 1 - f : f) * (BOTTOM - TOP)
}
const currentY = (mA: number) => BOTTOM - ((mA - 4) / 16) * (BOTTOM - TOP)
const rungs = computed(() =>
  [4, 12, 20].map((mA) => {
    const f = (mA - 4) / 16
    const { lrv, urv, low, high } = ends.value
    const left = lrv !== undefined && urv !== undefined ? lrv + f * (urv - lrv) : undefined
    const right = low !== undefined && high !== undefined ? low + f * (high - low) : undefined
    const apart =
      left !== undefined && right !== undefined && Math.abs(left - right) > 1e-6 * Math.max(1, Math.abs(urv! - lrv!))
    return { mA, left, right, apart }
  }),
)
const now = computed(() => {
  const i = thread.thread?.knots.findIndex((k) => k.role === 'current') ?? -1
  const v = thread.expected[i]
  return v?.known ? v.value : undefined
})
const fault = computed(() => r.value.in('faultCurrent', 'mA'))
const controllerUnit = computed(() => r.value.unit('receiverHigh'))
const showController = (v: number) =>
  preferences.quantity(convertUnit(v, unit.value, controllerUnit.value), controllerUnit.value, { trim: true })
const title = computed(() =>
  rungs.value
    .map(
      (g) =>
        `${g.mA} mA: transmitter ${g.left === undefined ? 'not entered' : show(g.left)}, controller ${g.right === undefined ? 'not entered' : showController(g.right)}${g.apart ? ', they disagree' : ''}`,
    )
    .join('; '),
)
</script>

<template>
  <figure class="ends">
    <svg class="worded" viewBox="0 0 760 262" role="img" :aria-label="title">
      <text :x="X[0]" y="22" class="head">Transmitter</text>
      <text :x="X[1]" y="22" class="head">Loop current</text>
      <text :x="X[2]" y="22" class="head">Controller</text>
      <line v-for="x in X" :key="x" :x1="x" :x2="x" :y1="TOP" :y2="BOTTOM" class="scale" />
      <g v-for="g in rungs" :key="g.mA">
        <template v-if="axis && g.left !== undefined">
          <line :x1="X[0]" :x2="X[1]" :y1="y(g.left)" :y2="currentY(g.mA)" class="rung" />
          <circle :cx="X[0]" :cy="y(g.left)" r="4" class="end" />
          <text :x="X[0]! - 14" :y="y(g.left) + 5" class="left figures">{{ show(g.left) }}</text>
        </template>
        <template v-if="axis && g.right !== undefined">
          <line :x1="X[1]" :x2="X[2]" :y1="currentY(g.mA)" :y2="y(g.right)" class="rung" :class="{ apart: g.apart }" />
          <circle :cx="X[2]" :cy="y(g.right)" r="4" class="end" />
          <text :x="X[2]! + 14" :y="y(g.right) + 5" class="figures" :class="{ apart: g.apart }">
            {{ showController(g.right) }}
          </text>
        </template>
        <rect :x="X[1]! - 30" :y="currentY(g.mA) - 12" width="60" height="24" class="tag" />
        <text :x="X[1]" :y="currentY(g.mA) + 5" class="middle figures">{{ g.mA }} mA</text>
      </g>
      <circle
        v-if="now !== undefined && now >= 3.5 && now <= 22"
        :cx="X[1]! + 44"
        :cy="currentY(Math.min(20.6, Math.max(3.4, now)))"
        r="6"
        class="ring"
      />
      <text v-if="ends.lrv === undefined || ends.urv === undefined" :x="X[0]" y="130" class="middle needs">
        needs
        {{
          r
            .missing('lrv', 'urv')
            .map((m) => m.replace(/ \(.*/, ''))
            .join(', ')
        }}
      </text>
      <text v-if="ends.low === undefined || ends.high === undefined" :x="X[2]" y="130" class="middle needs">
        needs the controller’s scale
      </text>
      <text x="380" y="250" class="middle small">
        {{
          fault === undefined
            ? 'fault current to be entered'
            : `on a fault ${preferences.quantity(fault, 'mA', { trim: true })}`
        }}
      </text>
    </svg>
  </figure>
</template>

<style scoped>
.ends {
  margin: 0;
  max-width: 800px;
}
.head {
  text-anchor: middle;
  font-weight: 650;
}
.middle {
  text-anchor: middle;
}
.left {
  text-anchor: end;
}
.scale {
  stroke: var(--second);
}
.rung {
  stroke: var(--ink);
  stroke-width: 1.2;
}
.rung.apart {
  stroke: var(--look);
  stroke-width: 2.4;
  stroke-dasharray: 6 4;
}
text.apart,
.end {
  fill: var(--ink);
}
.tag {
  fill: var(--ground);
}
.ring {
  fill: var(--ground);
  stroke: var(--ink);
  stroke-width: 2;
}
</style>
