<script setup lang="ts">
// Both ends of the wire as one scale against another: the transmitter's, the current's, and every receiver's, joined
// at 4, 12 and 20 mA. Where they disagree, the reading that it would cause.
import { bothEnds, type EndAt, type EndScale } from '@calm-loop/core/loop'
import { inSentence } from '@calm-loop/core/words'
import { computed } from 'vue'
import { useFolder } from '../../stores/folder.ts'
import { usePreferences } from '../../stores/preferences.ts'
import { useThread } from '../../stores/thread.ts'
import { useTrim } from '../../stores/trim.ts'
import { sure } from '@calm-loop/core/sure'
import { spreadLabels } from './labels.ts'

const folder = useFolder()
const thread = useThread()
const trim = useTrim()
const preferences = usePreferences()
const [TOP, BOTTOM] = [60, 226]
const FIGURE_px = 20
const r = computed(() => sure(folder.reader))
const ends = computed(() => bothEnds({ kind: sure(folder.kind), r: r.value, thread: thread.thread, chain: trim.known }))
const carries = computed(() => ends.value.carries)
const columns = computed(() => ends.value.scales)
const rungs = computed(() => ends.value.rungs)
/** Room for the longest figure beside a scale. */
const room = computed(() => {
  const figures = rungs.value.flatMap((g) =>
    g.ends.flatMap((e, i) => (e.value === undefined ? [] : [show(sure(columns.value[i]), e.value).length])),
  )
  return Math.max(150, 20 + 9.7 * Math.max(0, ...figures))
})
/** Letters of the longest entry that a scale still needs: it stands in the middle of it. */
const wanted = computed(() => Math.max(0, ...columns.value.flatMap((s) => s.needs.map((n) => n.length))))
const apart = computed(() => Math.max(190, 30 + room.value, 20 + 9 * wanted.value))
const CURRENT = computed(() => room.value + 180)
const xOf = (i: number) => (i === 0 ? room.value + 20 : CURRENT.value + 170 + apart.value * (i - 1))
const width = computed(() => xOf(columns.value.length - 1) + room.value)
/** All scales share one axis of meaning, so that a disagreement is a slope. */
const axis = computed(() => {
  const all = rungs.value.flatMap((g) => g.ends.flatMap((e) => (Number.isFinite(e.means) ? [sure(e.means)] : [])))
  const [low, high] = [Math.min(...all), Math.max(...all)]
  return high > low ? { low, high } : undefined
})
const reversed = computed(() => (sure(columns.value[0]).low ?? 0) > (sure(columns.value[0]).high ?? 0))
const y = (v: number) => {
  const a = sure(axis.value)
  const f = (v - a.low) / (a.high - a.low)
  return BOTTOM - (reversed.value ? 1 - f : f) * (BOTTOM - TOP)
}
/** Heights of the figures beside each scale: where they would stand on one another they step aside. */
const textYs = computed(() =>
  columns.value.map((_, i) => {
    const at = rungs.value.map((g) => sure(g.ends[i]).means).map((v) => (axis.value && v !== undefined ? y(v) : BOTTOM))
    return spreadLabels(
      at.map((height) => height + (i ? -8 : 5)),
      FIGURE_px,
    )
  }),
)
const currentY = (mA: number) => BOTTOM - ((mA - 4) / 16) * (BOTTOM - TOP)
const show = (s: EndScale, v: number) => preferences.quantity(v, s.unit, { trim: true, decimals: 3 })
const now = computed(() => {
  const i = thread.thread?.knots.findIndex((k) => k.role === 'current') ?? -1
  const v = i < 0 ? undefined : thread.expected[i]
  return v?.known ? v.value : undefined
})
const fault = computed(() => r.value.in('faultCurrent', 'mA'))
const wrong = computed(() =>
  columns.value.flatMap((s, i) => {
    const { worstPct } = ends.value
    const worst = worstPct[i]!
    const [base, at] = [sure(sure(rungs.value[1]).ends[0]).value, sure(rungs.value[1]).ends[i]!.value]
    if (!worst || at === undefined || base === undefined) return []
    return [
      `${placeWords(12)} the ${inSentence(s.name)} shows ${show(s, at)} where the transmitter means ` +
        `${show(sure(columns.value[0]), base)}; at worst it reads ${Math.abs(worst).toFixed(1)} % of span too ` +
        `${worst > 0 ? 'high' : 'low'}.`,
    ]
  }),
)
/** A place on the range, as the loop has it: a current, or on a bus what the value itself is. */
function placeWords(mA: number): string {
  if (carries.value) return `At ${mA} mA`
  return mA === 4 ? 'At the low end' : mA === 20 ? 'At the high end' : 'In the middle'
}
const endWords = (s: EndScale, at: EndAt) =>
  `${inSentence(s.name)} ${at.value === undefined ? 'not entered' : show(s, at.value)}` +
  (at.apartPct ? ', disagrees' : '')
const title = computed(() =>
  rungs.value
    .map((g) => `${placeWords(g.mA)}: ${columns.value.map((s, i) => endWords(s, g.ends[i]!)).join(', ')}`)
    .join('; '),
)
</script>

<template>
  <figure class="ends">
    <svg
      class="worded"
      :viewBox="`0 0 ${width} 268`"
      role="img"
      :aria-label="title"
      :style="{ maxWidth: `${width * 1.1}px` }"
    >
      <text :x="CURRENT" y="22" class="head">{{ carries ? 'Loop current' : 'Bus' }}</text>
      <line v-if="carries" :x1="CURRENT" :x2="CURRENT" :y1="TOP" :y2="BOTTOM" class="scale" />
      <g v-for="(s, i) in columns" :key="s.id" :data-scale="s.id">
        <text :x="xOf(i)" y="22" class="head">{{ s.name }}</text>
        <line :x1="xOf(i)" :x2="xOf(i)" :y1="TOP" :y2="BOTTOM" class="scale" />
        <text v-if="s.needs.length" class="middle needs">
          <tspan v-for="(line, n) in ['needs', ...s.needs]" :key="line" :x="xOf(i)" :y="120 + 20 * n">{{ line }}</tspan>
        </text>
      </g>
      <g v-for="(g, n) in rungs" :key="g.mA">
        <template v-for="(a, i) in g.ends" :key="i">
          <template v-if="axis && a.means !== undefined && a.value !== undefined">
            <line
              v-if="i < 2"
              :x1="CURRENT"
              :x2="xOf(i)"
              :y1="carries ? currentY(g.mA) : y(a.means)"
              :y2="y(a.means)"
              class="rung"
              :class="{ apart: a.apartPct }"
            />
            <line
              v-else-if="g.ends[i - 1]?.means !== undefined"
              :x1="xOf(i - 1)"
              :x2="xOf(i)"
              :y1="y(g.ends[i - 1]!.means!)"
              :y2="y(a.means)"
              class="rung"
              :class="{ apart: a.apartPct }"
            />
            <circle :cx="xOf(i)" :cy="y(a.means)" r="4" class="end-dot" :class="{ apart: a.apartPct }" />
            <text
              :x="xOf(i) + (i ? 12 : -12)"
              :y="textYs[i]?.[n] ?? 0"
              class="figures"
              :class="{ left: !i, apart: a.apartPct }"
            >
              {{ show(columns[i]!, a.value) }}
            </text>
          </template>
        </template>
        <template v-if="carries">
          <rect :x="CURRENT - 30" :y="currentY(g.mA) - 12" width="60" height="24" class="tag" />
          <text :x="CURRENT" :y="currentY(g.mA) + 5" class="middle figures">{{ g.mA }} mA</text>
        </template>
      </g>
      <circle
        v-if="now !== undefined && now >= 3.5 && now <= 22"
        :cx="CURRENT + 44"
        :cy="currentY(Math.min(20.6, Math.max(3.4, now)))"
        r="6"
        class="ring"
      />
      <text v-if="carries" :x="CURRENT" y="258" class="middle small">
        {{
          fault === undefined
            ? 'fault current to be entered'
            : `on a fault ${preferences.quantity(fault, 'mA', { trim: true })}`
        }}
      </text>
      <text v-else :x="CURRENT" y="130" class="middle small">the value itself</text>
    </svg>
    <p v-for="w in wrong" :key="w" class="look" data-test="disagrees">{{ w }}</p>
  </figure>
</template>

<style scoped>
.ends {
  margin: 0;
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
.end-dot {
  fill: var(--ink);
}
.end-dot.apart {
  fill: var(--look);
}
text.apart {
  fill: var(--look) !important;
  font-weight: 650;
}
.tag {
  fill: var(--ground);
}
.ring {
  fill: var(--ground);
  stroke: var(--ink);
  stroke-width: 2;
}
.look {
  color: var(--look);
  max-width: 80ch;
}
</style>
