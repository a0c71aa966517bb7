<script setup lang="ts">
// The pipe from what disturbs it to the pair and on: diameters that are there against those the rule asks for; where
// round the pipe the pair sits.
import { beamOf, clampOnOf, runOf } from '@calm-loop/core/kinds'
import { computed } from 'vue'
import { useFolder } from '../stores/folder.ts'
import { sure } from '@calm-loop/core/sure'

const folder = useFolder()
const W = 760
const MID = 96
const PIPE = 34
const r = computed(() => sure(folder.reader))
const run = computed(() => runOf(clampOnOf(r.value), r.value))
const says = computed(() => {
  const beam = beamOf(clampOnOf(r.value))
  const needs = [...r.value.missing('disturbance', 'upstream', 'downstream'), ...(beam ? [] : ['pipe and fluid'])]
  return needs.length ? `needs ${needs.join(', ')}` : 'A straight run is not below 0.'
})
const LEFT = 76
const RIGHT = 560
const span = computed(() => {
  const v = run.value
  return v ? Math.max(v.haveUp_D, v.needUp_D) + Math.max(v.haveDown_D, v.needDown_D) : 1
})
const per = computed(() => (RIGHT - LEFT) / span.value)
const pair = computed(() =>
  run.value ? LEFT + Math.max(run.value.haveUp_D, run.value.needUp_D) * per.value : (LEFT + RIGHT) / 2,
)
const d = (v: number) => `${v.toFixed(1).replace(/\.0$/, '')} D`
/** Clock position of the pair round a level pipe, radians from the top. */
const spot = computed(() => ({ 'on top': 0, 'at the bottom': Math.PI })[r.value.text('position')] ?? Math.PI / 2)
const title = computed(() =>
  run.value
    ? `${d(run.value.haveUp_D)} upstream of ${d(run.value.needUp_D)} needed, ${d(run.value.haveDown_D)} ` +
      `downstream of ${d(run.value.needDown_D)}`
    : 'Straight run, still to be entered',
)
</script>

<template>
  <svg class="worded" :viewBox="`0 0 ${W} 232`" role="img" :aria-label="title">
    <template v-if="run">
      <path
        :d="`M${pair - run.haveUp_D * per} ${MID - PIPE}H${pair + run.haveDown_D * per}M${pair - run.haveUp_D * per} ${MID + PIPE}H${pair + run.haveDown_D * per}`"
        class="pipe"
      />
      <rect
        :x="pair - run.haveUp_D * per"
        :y="MID - PIPE"
        :width="(run.haveUp_D + run.haveDown_D) * per"
        :height="2 * PIPE"
        class="fluid"
      />
      <path :d="`M${pair - run.haveUp_D * per} ${MID - PIPE - 10}V${MID + PIPE + 10}`" class="end-mark" />
      <text :x="pair - run.haveUp_D * per" :y="MID - PIPE - 18" class="small">{{ r.text('disturbance') }}</text>
      <path :d="`M${pair - 26} ${MID - PIPE}h18v-14h-18zM${pair + 8} ${MID - PIPE}h18v-14h-18z`" class="pair" />
      <text :x="pair" :y="MID - PIPE - 22" class="mid small">pair</text>
      <g
        v-for="(row, i) in [
          { y: 160, up: run.haveUp_D, down: run.haveDown_D, name: 'there' },
          { y: 198, up: run.needUp_D, down: run.needDown_D, name: 'needed' },
        ]"
        :key="i"
        :class="i ? 'need' : 'have'"
      >
        <path
          :d="`M${pair - row.up * per} ${row.y}H${pair + row.down * per}M${pair - row.up * per} ${row.y - 6}v12M${pair} ${row.y - 6}v12M${pair + row.down * per} ${row.y - 6}v12`"
        />
        <text x="0" :y="row.y + 5" class="small">{{ row.name }}</text>
        <text :x="pair - (row.up * per) / 2" :y="row.y - 8" class="mid fig">{{ d(row.up) }}</text>
        <text :x="pair + (row.down * per) / 2" :y="row.y - 8" class="mid fig">{{ d(row.down) }}</text>
      </g>
      <text x="0" y="226" class="small">rule: {{ run.school }}</text>
    </template>
    <text v-else x="0" y="40" class="needs">{{ says }}</text>
    <g transform="translate(670 104)">
      <circle r="52" class="ring" />
      <circle r="44" class="inner" />
      <path v-if="r.text('run') === 'horizontal'" d="M-31 -31A44 44 0 0 1 31 -31Z" class="bubbles" />
      <path v-if="r.text('run') === 'horizontal'" d="M-31 31A44 44 0 0 0 31 31Z" class="mud" />
      <rect x="-10" y="-68" width="20" height="16" class="pair" :transform="`rotate(${(spot * 180) / Math.PI})`" />
      <rect
        v-if="r.text('paths') === '2'"
        x="-10"
        y="-68"
        width="20"
        height="16"
        class="pair"
        :transform="`rotate(${(spot * 180) / Math.PI + 90})`"
      />
      <text y="86" class="mid small">
        {{ r.text('run') === 'horizontal' ? `gas above, sediment below` : `runs ${r.text('run')}` }}
      </text>
    </g>
  </svg>
</template>

<style scoped>
svg {
  max-width: 860px;
  width: 100%;
}
.pipe,
.end-mark {
  fill: none;
  stroke: var(--ink);
  stroke-width: 2;
}
.end-mark {
  stroke-width: 5;
}
.fluid,
.inner {
  fill: var(--action);
  opacity: 0.12;
}
.pair {
  fill: var(--sheet);
  stroke: var(--ink);
  stroke-width: 1.8;
}
.ring {
  fill: none;
  stroke: var(--ink);
  stroke-width: 3;
}
.bubbles {
  fill: var(--ground);
  stroke: var(--second);
  stroke-dasharray: 2 3;
}
.mud {
  fill: var(--second);
  opacity: 0.4;
}
.have path {
  stroke: var(--action);
  stroke-width: 2.4;
  fill: none;
}
.need path {
  stroke: var(--second);
  stroke-width: 1.6;
  fill: none;
}
.fig {
  font-family: var(--figures);
}
</style>
